package ninepin.core.format;

import static ninepin.core.record.WriteStyle.LineEnd.CRLF;
import static ninepin.core.record.WriteStyle.LineEnd.LF;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import ninepin.core.job.Definitions;
import ninepin.core.layout.BlankRows;
import ninepin.core.layout.DataType;
import ninepin.core.layout.Delimited;
import ninepin.core.layout.Delimited.Habits;
import ninepin.core.layout.Field;
import ninepin.core.layout.FileCharset;
import ninepin.core.layout.FixedLength;
import ninepin.core.layout.Format;
import ninepin.core.layout.Json;
import ninepin.core.layout.Layout;
import ninepin.core.layout.NumberForm;
import ninepin.core.layout.NumberForm.Sign;
import ninepin.core.layout.NumberForm.Written;
import ninepin.core.layout.Place;
import ninepin.core.layout.Recognition;
import ninepin.core.layout.RecordType;
import ninepin.core.layout.Workbook;
import ninepin.core.layout.Xml;
import ninepin.core.record.RecordWriter;
import ninepin.core.record.WriteStyle;
import ninepin.core.testing.Holds;
import ninepin.core.testing.Holds.Capability;
import ninepin.core.testing.Reading;
import ninepin.core.value.UnwritableException;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Whatever records are written by a layout and read back by the same are the same. */
class RecordWriterTest {

    private static final String LETTERS = "aZ0 9;,|\"'\\\t.äß~-<>&";
    private static final String[] LETTERS_OF_COLUMNS = {"G", "AB", "F", "D", "AZ"};
    private static final FileCharset[] CHARSETS = {
        FileCharset.UTF_8,
        FileCharset.ISO_8859_1,
        FileCharset.WINDOWS_1252,
        FileCharset.UTF_16,
        FileCharset.IBM_037,
        FileCharset.IBM_1047
    };

    /** Types and a value of each as {@code Value.text} writes it. */
    private static DataType type(Random random, boolean fixed) {
        NumberForm[] forms = {
            NumberForm.PLAIN,
            new NumberForm(Written.DIGITS, Sign.TRAILING, true),
            new NumberForm(Written.DIGITS, Sign.OVERPUNCHED, true),
            new NumberForm(Written.DIGITS, Sign.OVERPUNCHED_LEADING, true),
            new NumberForm(Written.PACKED, null, false),
            new NumberForm(Written.BINARY, null, false)
        };
        NumberForm form = fixed ? forms[random.nextInt(forms.length)] : null;
        char sign = random.nextBoolean() ? ',' : '.';
        return switch (random.nextInt(8)) {
            case 0 -> new DataType.IntegerNumber(form);
            case 1 -> new DataType.Decimal(9, 2, sign, null, form);
            case 2 -> fixed ? new DataType.Time("HH:mm:ss") : new DataType.Decimal(12, 3, '.', ',');
            case 3 -> new DataType.Bool(List.of("J", "Y"), List.of("N"));
            case 4 -> new DataType.Date(random.nextBoolean() ? "dd.MM.yyyy" : "yyyyMMdd");
            case 5 -> new DataType.Timestamp("yyyy-MM-dd HH:mm:ss");
            default -> new DataType.CharacterVarying(20);
        };
    }

    private static String value(Random random, DataType type, boolean padded, String letters) {
        boolean raw = type instanceof DataType.IntegerNumber i
                        && i.form() != null
                        && i.form().raw()
                || type instanceof DataType.Decimal d
                        && d.form() != null
                        && d.form().raw();
        if (!raw && random.nextInt(8) == 0) {
            return null;
        }
        if (type instanceof DataType.IntegerNumber) {
            return String.valueOf(random.nextInt(20_000) - 10_000);
        }
        if (type instanceof DataType.Decimal d) {
            return BigDecimal.valueOf(random.nextInt(2_000_000) - 1_000_000L, d.scale())
                    .toPlainString();
        }
        if (type instanceof DataType.Bool) {
            return String.valueOf(random.nextBoolean());
        }
        LocalDate day = LocalDate.of(1990, 1, 1).plusDays(random.nextInt(30_000));
        LocalTime time = LocalTime.ofSecondOfDay(random.nextInt(86_400));
        if (type instanceof DataType.Date) {
            return day.toString();
        }
        if (type instanceof DataType.Time) {
            return time.toString();
        }
        if (type instanceof DataType.Timestamp) {
            return LocalDateTime.of(day, time).toString();
        }
        StringBuilder text = new StringBuilder();
        for (int i = random.nextInt(15) + 1; i > 0; i--) {
            text.append(letters.charAt(random.nextInt(letters.length())));
        }
        // The blanks that fill a fixed-length field are no part of its text, nor is an empty text told from NULL.
        String own = padded ? text.toString().stripTrailing() : text.toString();
        return own.isBlank() ? "x" : own;
    }

    private static Layout layout(Random random) {
        int kind = random.nextInt(5);
        List<Field> fields = new ArrayList<>();
        int start = 2;
        for (int f = 0; f < 1 + random.nextInt(5); f++) {
            DataType type = type(random, kind == 1);
            String name = "f" + f;
            int length = type instanceof DataType.IntegerNumber i
                                    && i.form() != null
                                    && i.form().raw()
                            || type instanceof DataType.Decimal d
                                    && d.form() != null
                                    && d.form().raw()
                    ? 8
                    : type instanceof DataType.CharacterVarying
                            // A character may take two bytes, and the positions count bytes.
                            ? 40
                            : 20;
            fields.add(
                    switch (kind) {
                        case 0 -> Field.inColumn(f + 2, name, type);
                        case 1 -> Field.at(start, length, name, type);
                        case 3 ->
                            Field.atJson(
                                    random.nextBoolean() ? name : "in['" + name + " a.b'][" + random.nextInt(3) + "]",
                                    name,
                                    type);
                        case 4 ->
                            random.nextBoolean()
                                    ? Field.under(name, type)
                                    : new Field(name, new Place.Letter(LETTERS_OF_COLUMNS[f]), type, List.of());
                        default -> Field.atPath(random.nextBoolean() ? "@" + name : "p:in/p:" + name, name, type);
                    });
            start += length;
        }
        Format format = format(random, kind, start);
        Recognition tag =
                switch (kind) {
                    case 0 -> new Recognition.Tag(1, null, List.of("R"));
                    case 1 -> new Recognition.Tag(null, 1, List.of("R"));
                    case 2 -> new Recognition.Path("/p:all/p:r");
                    case 4 -> rows(random, fields);
                    default -> new Recognition.JsonPath(((Json) format).lines() ? "$" : "$.all['r s'][*]");
                };
        return new Layout("l", null, format, List.of(new RecordType("r", tag, null, null, null, fields)));
    }

    private static Recognition rows(Random random, List<Field> fields) {
        boolean named = fields.stream().anyMatch(f -> f.place() instanceof Place.Header);
        String range = new String[] {null, "Rows_of_it", "B3:AZ5000"}[random.nextInt(3)];
        return new Recognition.Rows("The sheet", null, range, named ? null : 0, null, "C", List.of("R"), null);
    }

    private static Format format(Random random, int kind, int length) {
        if (kind == 4) {
            return new Workbook();
        }
        if (kind == 2) {
            return new Xml(Map.of("p", "urn:p"));
        }
        if (kind == 3) {
            return new Json(random.nextBoolean(), false, null);
        }
        FileCharset charset = CHARSETS[
                kind == 0 ? random.nextInt(4) : random.nextInt(5) < 3 ? random.nextInt(3) : 4 + random.nextInt(2)];
        if (kind == 1) {
            // Packed and binary numbers may hold the bytes of line ends.
            return new FixedLength(charset, length + 3, FixedLength.Units.BYTES, null, false, 0, BlankRows.SKIP);
        }
        String delimiter = new String[] {";", ",", "|", "\t", "||", ";~"}[random.nextInt(6)];
        String footer = random.nextInt(4) == 0 ? "#" : null;
        return new Delimited(
                charset,
                delimiter,
                '"',
                false,
                0,
                BlankRows.SKIP,
                new Habits(
                        footer,
                        false,
                        random.nextBoolean(),
                        null,
                        random.nextInt(4) == 0 ? "%%" : null,
                        0,
                        random.nextInt(3) == 0 ? "x" : null),
                null);
    }

    @Holds(
            value = Capability.WRITE,
            formats = {"delimited", "fixed-length", "json", "workbook", "xml"})
    @Property(tries = 1_500)
    void what_is_written_is_read_back(@ForAll long seed) throws IOException {
        Random random = new Random(seed);
        Layout layout = layout(random);
        List<List<String>> records = new ArrayList<>();
        WriteStyle style =
                new WriteStyle(random.nextBoolean(), new WriteStyle.LineEnd[] {null, LF, CRLF}[random.nextInt(3)]);
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        ByteArrayOutputStream inPieces = new ByteArrayOutputStream();
        RecordWriter pieces = Formats.of(layout).writer(inPieces, style);
        try (RecordWriter writer = Formats.of(layout).writer(out, style)) {
            for (int i = random.nextInt(6); i >= 0; i--) {
                List<String> values = new ArrayList<>();
                for (Field field : layout.firstType().fields()) {
                    boolean attribute =
                            field.place() instanceof Place.Path at && at.path().startsWith("@");
                    // Attribute values know no tabs but as spaces.
                    String letters = attribute ? LETTERS.replace("\t", "") : LETTERS;
                    values.add(value(random, field.type(), layout.format() instanceof FixedLength, letters));
                }
                writer.write(0, values);
                pieces = Formats.of(layout).onward(inPieces, style, pieces.state());
                pieces.write(0, values);
                List<String> record = new ArrayList<>(List.of("r"));
                record.addAll(values);
                records.add(record);
            }
        }
        pieces.close();
        byte[] composedInPieces = Transcripts.composed(inPieces.toByteArray(), layout);
        byte[] composed = Transcripts.composed(out.toByteArray(), layout);
        if (layout.format() instanceof Workbook) {
            // What a process composes after another has died has to be what that one began.
            assertThat(composedInPieces).isEqualTo(composed);
        }
        Reading again = Reading.of(layout, composedInPieces);
        assertThat(again.findings).as("%s%n%s", layout, inPieces).isEmpty();
        assertThat(again.records).as("%s%n%s", layout, inPieces).isEqualTo(records);
        Reading reading = Reading.of(layout, composed);
        assertThat(reading.findings).as("%s%n%s", layout, out).isEmpty();
        assertThat(reading.records).as("%s%n%s", layout, out).isEqualTo(records);
    }

    @ParameterizedTest
    @ValueSource(strings = {"quality-results", "tanker-collections", "farm-register"})
    void a_made_up_sample_of_each_demo_layout_is_read_without_a_finding(String name) throws IOException {
        Layout layout = Definitions.layout(Files.readString(Path.of("../demo/" + name + ".layout.json")));
        byte[] file = MadeUpSample.of(layout, Reading.TODAY);
        Reading reading = Reading.of(layout, file);
        assertThat(reading.findings)
                .as(new String(file, StandardCharsets.UTF_8))
                .isEmpty();
        assertThat(reading.records).hasSizeGreaterThan(5);
    }

    @Test
    void what_cannot_stand_in_its_field_is_not_written() throws IOException {
        Layout fixed = new Layout(
                "l",
                null,
                new FixedLength(FileCharset.ISO_8859_1, null, null, null, false, 0, BlankRows.SKIP),
                List.of(new RecordType(
                        "r",
                        List.of(
                                Field.at(1, 3, "a", new DataType.CharacterVarying(3)),
                                Field.at(4, 2, "n", new DataType.IntegerNumber())))));
        RecordWriter writer = Formats.writer(new ByteArrayOutputStream(), fixed);
        for (List<String> values :
                List.of(List.of("abcd", "1"), List.of("abc", "100"), List.of("Ω", "1"), List.of("a", "x"))) {
            assertThatThrownBy(() -> writer.write(0, values)).isInstanceOf(UnwritableException.class);
        }
    }
}
