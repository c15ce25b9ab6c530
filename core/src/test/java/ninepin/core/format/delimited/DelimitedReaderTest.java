package ninepin.core.format.delimited;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import java.util.stream.Collectors;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import ninepin.core.bytes.MemorySource;
import ninepin.core.layout.BlankRows;
import ninepin.core.layout.Delimited;
import ninepin.core.layout.FileCharset;
import ninepin.core.record.Position;
import ninepin.core.record.RawRecord;
import ninepin.core.record.RecordReader;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class DelimitedReaderTest {

    private static final Delimited FORMAT = new Delimited(FileCharset.UTF_8, ';', '"', false, 0, BlankRows.SKIP);

    /** Each record as {@code line@offset+length[fields apart by bars]}, a fault as its code, a blank row as {@code -}. */
    @ParameterizedTest(name = "{0}")
    @CsvSource(
            delimiter = '→',
            quoteCharacter = '`',
            value = {
                "a;b                      → 1@0+3[a|b]",
                "a;b\\nc;d                → 1@0+3[a|b] 2@4+3[c|d]",
                "a;b\\r\\nc;d\\r\\n       → 1@0+3[a|b] 2@5+3[c|d]",
                "a;b\\rc;d\\r             → 1@0+3[a|b] 2@4+3[c|d]",
                "a\\nb\\r\\nc\\rd         → 1@0+1[a] 2@2+1[b] 3@5+1[c] 4@7+1[d]",
                "a;;b                     → 1@0+4[a||b]",
                "a;                       → 1@0+2[a|]",
                ";                        → -",
                "a\\n\\nb                 → 1@0+1[a] - 3@3+1[b]",
                "a\\n  ; \\nb             → 1@0+1[a] - 3@7+1[b]",
                "\"a\";\"b\"              → 1@0+7[a|b]",
                "\"a;b\";c                → 1@0+7[a;b|c]",
                "\"a\\nb\";c\\nd;e        → 1@0+7[a~b|c] 3@8+3[d|e]",
                "\"a\\r\\nb\";c\\r\\nd;e  → 1@0+8[a~~b|c] 3@10+3[d|e]",
                "\"a\\rb\";c\\rd          → 1@0+7[a~b|c] 3@8+1[d]",
                "\"say \"\"hi\"\"\";x     → 1@0+14[say \"hi\"|x]",
                "\"\";\"\"                → 1@0+5[|]",
                "\"\"\"\"                 → 1@0+4[\"]",
                "a\"b;c                   → 1@0+5[a\"b|c]",
                "a;\"open\\nb;c           → 1@0+7!QUO-01 2@8+3[b|c]",
                "a;\"x\" y;z\\nb;c        → 1@0+9!QUO-01 2@10+3[b|c]",
                "\"x\\ny;\"z\"\\nb        → 1@0+2!QUO-01 2@3+5[y|z] 3@9+1[b]",
                "\"a\"\\r\\n\"b\"         → 1@0+3[a] 2@5+3[b]",
                "\"                       → 1@0+1!QUO-01",
                "ä;ö                      → 1@0+5[ä|ö]",
            })
    void reads_records_with_their_places(String file, String expected) throws IOException {
        assertThat(describe(unescape(file))).isEqualTo(expected.strip());
    }

    @Test
    void an_empty_file_has_no_records() throws IOException {
        assertThat(describe(new byte[0])).isEmpty();
    }

    @Test
    void a_record_is_whole_wherever_the_buffer_ends() throws IOException {
        // Records of 1..700 bytes over two megabytes cross every kind of buffer boundary.
        Random random = new Random(7);
        StringBuilder file = new StringBuilder();
        List<String> expected = new ArrayList<>();
        while (file.length() < 2_000_000) {
            String a = "x".repeat(random.nextInt(350)) + "a";
            String b = "y".repeat(random.nextInt(350));
            boolean quoted = random.nextBoolean();
            expected.add(a + "|" + (quoted ? b + "\n;\"" : b));
            file.append(a)
                    .append(';')
                    .append(quoted ? "\"" + b + "\n;\"\"\"" : b)
                    .append("\r\n");
        }
        List<String> read = new ArrayList<>();
        DelimitedReader reader = reader(file.toString().getBytes(StandardCharsets.UTF_8), Position.START);
        while (reader.next() != RecordReader.Item.END) {
            read.add(fields(reader.record()));
        }
        assertThat(read).isEqualTo(expected);
    }

    @Test
    void a_line_too_long_to_hold_is_a_fault_and_reading_goes_on() throws IOException {
        byte[] file = new byte[50_000_000];
        Arrays.fill(file, (byte) 'x');
        byte[] rest = "\na;b\n".getBytes(StandardCharsets.UTF_8);
        System.arraycopy(rest, 0, file, file.length - rest.length, rest.length);
        DelimitedReader reader = reader(file, Position.START);
        assertThat(reader.next()).isEqualTo(RecordReader.Item.RECORD);
        assertThat(reader.record().fault().code()).isEqualTo("LEN-02");
        assertThat(reader.record().fullLength()).isEqualTo(file.length - 5);
        assertThat(reader.next()).isEqualTo(RecordReader.Item.RECORD);
        assertThat(fields(reader.record())).isEqualTo("a|b");
        assertThat(reader.record().line()).isEqualTo(2);
    }

    @Property(tries = 2000)
    void any_bytes_are_accounted_for_and_reading_from_any_record_gives_the_rest(@ForAll("files") byte[] file)
            throws IOException {
        List<Position> starts = new ArrayList<>();
        List<String> records = new ArrayList<>();
        DelimitedReader reader = reader(file, Position.START);
        long end = 0;
        while (true) {
            starts.add(reader.position());
            if (reader.next() == RecordReader.Item.END) {
                break;
            }
            RawRecord r = reader.record();
            assertThat(r.offset()).isGreaterThanOrEqualTo(end);
            String between = new String(file, (int) end, (int) (r.offset() - end), StandardCharsets.ISO_8859_1);
            assertThat(between).as("only line ends stand between records").matches("\r\n|\r|\n|");
            end = r.offset() + r.fullLength();
            records.add(show(r));
        }
        assertThat(file.length - end).isLessThanOrEqualTo(2);
        int from = starts.size() / 2;
        DelimitedReader again = reader(file, starts.get(from));
        List<String> rest = new ArrayList<>();
        while (again.next() != RecordReader.Item.END) {
            rest.add(show(again.record()));
        }
        assertThat(rest).isEqualTo(records.subList(from, records.size()));
    }

    @Property(tries = 1000)
    void what_is_written_after_rfc_4180_is_read_back(@ForAll("tables") List<List<String>> table) throws IOException {
        String file = table.stream()
                .map(row -> row.stream()
                        .map(v -> "\"" + v.replace("\"", "\"\"") + "\"")
                        .collect(Collectors.joining(";")))
                .collect(Collectors.joining("\r\n"));
        DelimitedReader reader = reader(file.getBytes(StandardCharsets.UTF_8), Position.START);
        List<List<String>> read = new ArrayList<>();
        while (reader.next() != RecordReader.Item.END) {
            List<String> row = new ArrayList<>();
            for (int f = 0; f < reader.record().fieldCount(); f++) {
                row.add(reader.record().text(f, StandardCharsets.UTF_8, '"'));
            }
            read.add(row);
        }
        assertThat(read).isEqualTo(table);
    }

    @Provide
    Arbitrary<byte[]> files() {
        return Arbitraries.of(';', '"', '\n', '\r', 'a', ' ', '\0', 'ÿ')
                .array(Character[].class)
                .ofMaxSize(60)
                .map(chars -> {
                    byte[] bytes = new byte[chars.length];
                    for (int i = 0; i < bytes.length; i++) {
                        bytes[i] = (byte) chars[i].charValue();
                    }
                    return bytes;
                });
    }

    @Provide
    Arbitrary<List<List<String>>> tables() {
        Arbitrary<String> value = Arbitraries.strings()
                .withChars('a', ';', '"', '\n', '\r', ' ', 'ä', '€')
                .ofMaxLength(6);
        return Arbitraries.integers()
                .between(1, 4)
                .flatMap(n -> value.list().ofSize(n).list().ofMinSize(1).ofMaxSize(8));
    }

    private static DelimitedReader reader(byte[] file, Position start) {
        return new DelimitedReader(new MemorySource(file), FORMAT, start);
    }

    private static byte[] unescape(String text) {
        return text.strip().replace("\\n", "\n").replace("\\r", "\r").getBytes(StandardCharsets.UTF_8);
    }

    private static String describe(byte[] file) throws IOException {
        DelimitedReader reader = reader(file, Position.START);
        List<String> all = new ArrayList<>();
        RecordReader.Item item;
        while ((item = reader.next()) != RecordReader.Item.END) {
            all.add(item == RecordReader.Item.BLANK ? "-" : show(reader.record()));
        }
        return String.join(" ", all);
    }

    private static String show(RawRecord r) {
        String place = r.line() + "@" + r.offset() + "+" + r.fullLength();
        return r.fault() != null
                ? place + "!" + r.fault().code()
                : place + "[" + fields(r).replaceAll("[\r\n]", "~") + "]";
    }

    private static String fields(RawRecord r) {
        List<String> fields = new ArrayList<>();
        for (int f = 0; f < r.fieldCount(); f++) {
            fields.add(r.text(f, StandardCharsets.UTF_8, '"'));
        }
        return String.join("|", fields);
    }
}
