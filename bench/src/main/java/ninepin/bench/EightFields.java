package ninepin.bench;

import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Random;
import java.util.stream.Stream;
import ninepin.core.deliver.TableDelivery;
import ninepin.core.job.Delivery;
import ninepin.core.job.Job;
import ninepin.core.layout.BlankRows;
import ninepin.core.layout.Check;
import ninepin.core.layout.DataType;
import ninepin.core.layout.Delimited;
import ninepin.core.layout.Field;
import ninepin.core.layout.FileCharset;
import ninepin.core.layout.Layout;
import ninepin.core.layout.RecordType;
import ninepin.core.layout.Severity;
import ninepin.core.shape.Origin;
import ninepin.core.shape.Rule;
import ninepin.core.shape.Touch;

/** The rows that are measured: eight fields of the types a load has, their layout, job and table. */
final class EightFields {

    static final String TABLE = "(id BIGINT NOT NULL PRIMARY KEY, farm INT NOT NULL, sample VARCHAR(20) NOT NULL,"
            + " test VARCHAR(8) NOT NULL, value DECIMAL(9,3), taken_on DATE NOT NULL, temperature DECIMAL(4,1),"
            + " remark VARCHAR(60)) ENGINE=InnoDB";
    private static final String[] TESTS = {"FAT", "PROT", "CELLS", "GERMS", "FREEZE"};

    private EightFields() {}

    /** Writes the same rows twice: as the file a partner would send, and as the server's statement wants them. */
    static void write(Path delimited, Path plain, int rows) throws IOException {
        Random random = new Random(1);
        try (OutputStream d = new BufferedOutputStream(Files.newOutputStream(delimited), 1 << 16);
                OutputStream p = new BufferedOutputStream(Files.newOutputStream(plain), 1 << 16)) {
            d.write("Id;Farm;Sample;Test;Value;Taken;Temperature;Remark\n".getBytes(StandardCharsets.UTF_8));
            for (int i = 1; i <= rows; i++) {
                int farm = 1 + random.nextInt(214);
                String sample = String.format("26%04d-%08d", random.nextInt(10_000), i);
                String test = TESTS[i % TESTS.length];
                int value = random.nextInt(9_999_999);
                int month = 1 + random.nextInt(12);
                int day = 1 + random.nextInt(28);
                int t = random.nextInt(120);
                String remark = i % 3 == 0 ? "second bottle used" : "";
                d.write(String.format(
                                "%d;%d;%s;%s;%d,%03d;%02d.%02d.2026;%d,%d;%s\n",
                                i, farm, sample, test, value / 1000, value % 1000, day, month, t / 10, t % 10, remark)
                        .getBytes(StandardCharsets.UTF_8));
                p.write(String.format(
                                "%d\t%d\t%s\t%s\t%d.%03d\t2026-%02d-%02d\t%d.%d\t%s\n",
                                i,
                                farm,
                                sample,
                                test,
                                value / 1000,
                                value % 1000,
                                month,
                                day,
                                t / 10,
                                t % 10,
                                remark.isEmpty() ? "\\N" : remark)
                        .getBytes(StandardCharsets.UTF_8));
            }
        }
    }

    static Layout layout() {
        Check required = new Check.Required(Severity.REJECT);
        return new Layout(
                "eight-fields",
                null,
                new Delimited(FileCharset.UTF_8, ';', '"', true, 0, BlankRows.SKIP),
                List.of(new RecordType(
                        "row",
                        List.of(
                                field("Id", new DataType.IntegerNumber(), required),
                                field(
                                        "Farm",
                                        new DataType.IntegerNumber(),
                                        required,
                                        new Check.Range("1", "214", null)),
                                field(
                                        "Sample",
                                        new DataType.CharacterVarying(20),
                                        required,
                                        new Check.Length(10, 20, null)),
                                field("Test", new DataType.CharacterVarying(8), new Check.OneOf(List.of(TESTS), null)),
                                field(
                                        "Value",
                                        new DataType.Decimal(9, 3, ',', null),
                                        new Check.Range("0", "99999", null)),
                                field("Taken", new DataType.Date("dd.MM.yyyy"), required),
                                field("Temperature", new DataType.Decimal(4, 1, ',', null)),
                                field("Remark", new DataType.CharacterVarying(60))))));
    }

    private static Field field(String name, DataType type, Check... checks) {
        return Field.under(name, type, checks);
    }

    static Job job() {
        return Job.of(
                "eight-fields",
                "eight-fields",
                List.of(new Delivery(
                        null,
                        new TableDelivery("bench", "ours", TableDelivery.Mode.ADD, List.of()),
                        List.of(
                                rule("id", "Id"),
                                rule("farm", "Farm"),
                                rule("sample", "Sample", Touch.Kind.TRIM, Touch.Kind.UPPER),
                                rule("test", "Test"),
                                rule("value", "Value"),
                                rule("taken_on", "Taken"),
                                rule("temperature", "Temperature"),
                                rule("remark", "Remark", Touch.Kind.TRIM)))));
    }

    static Rule rule(String target, String field, Touch.Kind... touches) {
        return new Rule(
                target,
                new Origin.OfField(field),
                Stream.of(touches).map(Touch::of).toList(),
                null);
    }
}
