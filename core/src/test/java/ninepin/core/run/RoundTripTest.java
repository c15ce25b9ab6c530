package ninepin.core.run;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.math.BigDecimal;
import java.math.BigInteger;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Random;
import java.util.stream.IntStream;
import ninepin.core.deliver.TableDelivery;
import ninepin.core.deliver.TableDelivery.Mode;
import ninepin.core.job.Delivery;
import ninepin.core.job.Job;
import ninepin.core.layout.DataType;
import ninepin.core.layout.FileCharset;
import ninepin.core.layout.Layout;
import ninepin.core.shape.Origin;
import ninepin.core.shape.Rule;
import ninepin.core.testing.Layouts;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** Random values of every type, written as a partner writes them, must stand in the table as they were meant. */
class RoundTripTest {

    private static final int ROWS = 3_000;
    private static final DateTimeFormatter DAY = DateTimeFormatter.ofPattern("dd.MM.yyyy");
    private static final DateTimeFormatter CLOCK = DateTimeFormatter.ofPattern("HH:mm:ss");
    private static final String LATIN = "aZ0 9;\"'\\\t,.äß°é\r\n|%_`";
    private static final String WIDE = LATIN + "Ω中🥛\u2028€";

    private static final String READ = "SELECT id, t, i, d, big, CAST(b AS SIGNED), CAST(day AS CHAR),"
            + " CAST(clock AS CHAR), CAST(moment AS CHAR) FROM every_type ORDER BY id";

    @TempDir
    Path folder;

    @ParameterizedTest
    @EnumSource(
            value = Mode.class,
            names = {"ADD", "ADD_OR_CHANGE"})
    void every_value_arrives_exactly(Mode mode) throws IOException {
        for (FileCharset charset : EnumSet.range(FileCharset.UTF_8, FileCharset.WINDOWS_1252)) {
            Random random = new Random(charset.ordinal() * 31L + mode.ordinal());
            RunFixture f = new RunFixture(folder, "run_round_trip", job(mode));
            f.journal = folder.resolve(charset + ".ndjson");
            f.layout = layout(charset);
            f.server.execute(
                    "run_round_trip",
                    "DROP TABLE IF EXISTS every_type",
                    "CREATE TABLE every_type (id INT NOT NULL PRIMARY KEY, t VARCHAR(40), i BIGINT, d DECIMAL(12,3),"
                            + " big DECIMAL(38,6), b BOOLEAN, day DATE, clock TIME, moment DATETIME(3))"
                            + " CHARACTER SET utf8mb4 COLLATE utf8mb4_bin ENGINE=InnoDB");
            StringBuilder file = new StringBuilder("Id;T;I;D;Big;B;Day;Clock;Moment\n");
            List<String> expected = new ArrayList<>();
            for (int id = 0; id < ROWS; id++) {
                addRow(id, random, charset == FileCharset.UTF_8 ? WIDE : LATIN, file, expected);
            }
            Files.write(f.file, file.toString().getBytes(charset.charset()));
            RunOutcome outcome = f.run();
            assertThat(f.messages()).isEmpty();
            assertThat(outcome.tally().delivered()).isEqualTo(ROWS);
            assertThat(differing(f.rows(READ), expected)).isEmpty();
        }
    }

    private static List<String> differing(List<String> found, List<String> expected) {
        return IntStream.range(0, expected.size())
                .filter(i -> !expected.get(i).equals(found.get(i)))
                .mapToObj(i -> "found " + found.get(i) + ", expected " + expected.get(i))
                .toList();
    }

    private static void addRow(int id, Random random, String letters, StringBuilder file, List<String> expected) {
        String text = random.nextInt(8) == 0 ? null : text(random, letters);
        Long whole =
                random.nextInt(8) == 0 ? null : random.nextLong() % 1_000_000_000_000_000_000L >> random.nextInt(60);
        BigDecimal decimal = random.nextInt(8) == 0 ? null : decimal(random, 9, 3);
        BigDecimal big = random.nextInt(8) == 0 ? null : decimal(random, 32, 6);
        Boolean flag = random.nextInt(3) == 0 ? null : random.nextBoolean();
        LocalDate day = LocalDate.of(1000 + random.nextInt(9000), 1, 1)
                .plusDays(random.nextInt(366))
                .withYear(2024);
        LocalTime clock = LocalTime.ofSecondOfDay(random.nextInt(86_400));
        LocalDateTime moment =
                day.minusYears(random.nextInt(900)).atTime(clock).plusNanos(random.nextInt(1000) * 1_000_000L);
        file.append(id).append(';').append(text == null ? "" : '"' + text.replace("\"", "\"\"") + '"');
        file.append(';').append(whole == null ? "" : whole);
        file.append(';').append(decimal == null ? "" : grouped(decimal));
        file.append(';').append(big == null ? "" : big.toPlainString().replace('.', ','));
        file.append(';').append(flag == null ? "" : flag ? "J" : "n");
        file.append(';').append(DAY.format(day)).append(';').append(CLOCK.format(clock));
        file.append(';')
                .append(moment.format(DateTimeFormatter.ofPattern("yyyy-MM-dd'T'HH:mm:ss.SSS")))
                .append('\n');
        expected.add(String.join(
                "|",
                "" + id,
                "" + text,
                "" + whole,
                decimal == null ? "null" : decimal.setScale(3).toPlainString(),
                big == null ? "null" : big.setScale(6).toPlainString(),
                flag == null ? "null" : flag ? "1" : "0",
                day.toString(),
                CLOCK.format(clock),
                moment.format(DateTimeFormatter.ofPattern("yyyy-MM-dd HH:mm:ss.SSS"))));
    }

    private static String text(Random random, String letters) {
        int[] points = letters.codePoints().toArray();
        StringBuilder text = new StringBuilder();
        int length = random.nextInt(40);
        for (int i = 0; i <= length; i++) {
            text.appendCodePoint(points[random.nextInt(points.length)]);
        }
        return text.toString();
    }

    private static BigDecimal decimal(Random random, int before, int after) {
        int digits = 1 + random.nextInt(before + after);
        BigInteger all = new BigInteger(digits * 3, random);
        BigDecimal value = new BigDecimal(random.nextBoolean() ? all : all.negate(), random.nextInt(after + 1));
        return value.precision() - value.scale() > before ? BigDecimal.ZERO : value;
    }

    /** With a point between thousands and a decimal comma. */
    private static String grouped(BigDecimal value) {
        String plain = value.abs().toPlainString();
        int end = plain.indexOf('.') < 0 ? plain.length() : plain.indexOf('.');
        StringBuilder all = new StringBuilder(plain.substring(end).replace('.', ','));
        for (int i = end; i > 0; i -= 3) {
            all.insert(0, plain.substring(Math.max(0, i - 3), i) + (i < end ? "." : ""));
        }
        return (value.signum() < 0 ? "-" : "") + all;
    }

    private static Layout layout(FileCharset charset) {
        return Layouts.delimited()
                .charset(charset)
                .field("Id", new DataType.IntegerNumber())
                .field("T", new DataType.CharacterVarying(41))
                .field("I", new DataType.IntegerNumber())
                .field("D", new DataType.Decimal(12, 3, ',', '.'))
                .field("Big", new DataType.Decimal(38, 6, ',', null))
                .field("B", new DataType.Bool(List.of("J"), List.of("N")))
                .field("Day", new DataType.Date("dd.MM.yyyy"))
                .field("Clock", new DataType.Time("HH:mm:ss"))
                .field("Moment", new DataType.Timestamp("yyyy-MM-dd'T'HH:mm:ss.SSS"))
                .build();
    }

    private static Job job(Mode mode) {
        List<Rule> rules = new ArrayList<>();
        for (String name : List.of("Id", "T", "I", "D", "Big", "B", "Day", "Clock", "Moment")) {
            rules.add(new Rule(name.toLowerCase(), new Origin.OfField(name), null, null));
        }
        List<String> key = mode == Mode.ADD ? List.of() : List.of("id");
        return Job.of(
                "round-trip",
                "test",
                List.of(new Delivery(null, new TableDelivery("warehouse", "every_type", mode, key), rules)));
    }
}
