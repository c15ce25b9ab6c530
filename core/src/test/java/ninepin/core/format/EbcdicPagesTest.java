package ninepin.core.format;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.Charset;
import java.nio.charset.CharsetEncoder;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.stream.Stream;
import ninepin.core.layout.BlankRows;
import ninepin.core.layout.DataType;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.Field;
import ninepin.core.layout.FileCharset;
import ninepin.core.layout.FixedLength;
import ninepin.core.layout.Layout;
import ninepin.core.layout.NumberForm;
import ninepin.core.layout.NumberForm.Sign;
import ninepin.core.layout.RecordType;
import ninepin.core.record.RecordWriter;
import ninepin.core.record.WriteStyle;
import ninepin.core.testing.Reading;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

class EbcdicPagesTest {

    private static final int TEXT = 24;

    static Stream<FileCharset> pages() {
        return Stream.of(FileCharset.values()).filter(c -> !c.ascii() && c.singleByte());
    }

    static Stream<FileCharset> mixedPages() {
        return Stream.of(FileCharset.values()).filter(FileCharset::shifts);
    }

    private static Layout layout(FileCharset charset) {
        return new Layout(
                "blocks",
                null,
                new FixedLength(charset, TEXT + 26, FixedLength.Units.BYTES, null, false, 0, BlankRows.SKIP),
                List.of(new RecordType(
                        "r",
                        List.of(
                                Field.at(1, TEXT, "text", new DataType.CharacterVarying(TEXT)),
                                Field.at(TEXT + 1, 4, "last", number(NumberForm.Written.DIGITS, Sign.OVERPUNCHED)),
                                Field.at(
                                        TEXT + 5,
                                        4,
                                        "first",
                                        number(NumberForm.Written.DIGITS, Sign.OVERPUNCHED_LEADING)),
                                Field.at(TEXT + 9, 3, "packed", number(NumberForm.Written.PACKED, null)),
                                Field.at(TEXT + 12, 2, "binary", number(NumberForm.Written.BINARY, null)),
                                Field.at(TEXT + 14, 10, "day", new DataType.Date("yyyy-MM-dd"))))));
    }

    private static DataType number(NumberForm.Written written, Sign sign) {
        return new DataType.IntegerNumber(new NumberForm(written, sign, false));
    }

    /** Every character of two bytes that a mixed page has, a few in each text with Latin letters around them. */
    private static List<String> mixedTexts(FileCharset charset) {
        CharsetEncoder encoder = charset.charset().newEncoder();
        List<String> texts = new ArrayList<>();
        StringBuilder text = new StringBuilder("A");
        for (char c = 0x3041; c < 0xd7a4; c++) {
            String alone = String.valueOf(c);
            // Of two forms of one letter a page has one; the other is written as that.
            if (Character.isLetter(c)
                    && encoder.canEncode(c)
                    && new String(alone.getBytes(charset.charset()), charset.charset()).equals(alone)) {
                text.append(c);
                if (text.length() == 9) {
                    texts.add(text.append("Z").toString());
                    text = new StringBuilder("A");
                }
            }
        }
        return texts;
    }

    /** Every letter and sign of the page, in texts of a field's length. */
    private static List<String> texts(FileCharset charset) {
        CharsetEncoder encoder = charset.charset().newEncoder();
        StringBuilder all = new StringBuilder();
        for (int b = 0x41; b < 0xff; b++) {
            String c = new String(new byte[] {(byte) b}, charset.charset());
            if (c.length() == 1 && !Character.isISOControl(c.charAt(0)) && !c.isBlank() && encoder.canEncode(c)) {
                all.append(c);
            }
        }
        List<String> texts = new ArrayList<>();
        for (int from = 0; from < all.length(); from += TEXT) {
            texts.add(all.substring(from, Math.min(all.length(), from + TEXT)));
        }
        return texts;
    }

    @ParameterizedTest
    @MethodSource("pages")
    void what_is_written_in_a_page_is_read_back(FileCharset charset) throws IOException {
        assertReadBack(charset, texts(charset), 5);
    }

    @ParameterizedTest
    @MethodSource("mixedPages")
    void what_is_written_in_a_mixed_page_is_read_back(FileCharset charset) throws IOException {
        assertReadBack(charset, mixedTexts(charset), 250);
    }

    private static void assertReadBack(FileCharset charset, List<String> texts, int atLeast) throws IOException {
        Layout layout = layout(charset);
        List<List<String>> wanted = new ArrayList<>();
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try (RecordWriter writer = Formats.of(layout).writer(out, new WriteStyle(false, null))) {
            int n = -60;
            for (String text : texts) {
                List<String> values = List.of(
                        text,
                        String.valueOf(n),
                        String.valueOf(-n),
                        String.valueOf(n * 7),
                        String.valueOf(n * 300),
                        "2026-11-23");
                writer.write(0, values);
                List<String> record = new ArrayList<>(List.of("r"));
                record.addAll(values);
                wanted.add(record);
                n = n < 60 ? n + 10 : -60;
            }
        }
        Reading reading = Reading.of(layout, out.toByteArray());
        assertThat(reading.findings).isEmpty();
        assertThat(reading.records).isEqualTo(wanted);
        assertThat(wanted).hasSizeGreaterThanOrEqualTo(atLeast);
    }

    /** The braces of a sign are the bytes of the machine, whatever letter a page has there. */
    @ParameterizedTest
    @MethodSource("pages")
    void a_zero_with_a_sign_is_the_same_byte_in_every_page(FileCharset charset) throws IOException {
        byte[] record = new byte[TEXT + 26];
        Arrays.fill(record, (byte) 0x40);
        byte[] digits = {
            (byte) 0xf0, (byte) 0xf1, (byte) 0xf2, (byte) 0xd0, (byte) 0xc0, (byte) 0xf0, (byte) 0xf5, (byte) 0xf0
        };
        System.arraycopy(digits, 0, record, TEXT, digits.length);
        byte[] packed = {0x00, 0x12, 0x3d, 0, 7};
        System.arraycopy(packed, 0, record, TEXT + 8, packed.length);
        assertThat(Reading.of(layout(charset), record).records)
                .containsExactly(Arrays.asList("r", null, "-120", "50", "-123", "7", null));
    }

    @Test
    void a_byte_that_is_no_character_of_a_page_is_a_finding() throws IOException {
        Layout layout = layout(FileCharset.IBM_290);
        byte[] record = new byte[TEXT + 26];
        Arrays.fill(record, (byte) 0x40);
        record[0] = (byte) 0xc1;
        record[1] = (byte) 0x57;
        record[TEXT + 8] = 0;
        record[TEXT + 9] = 0;
        record[TEXT + 10] = 0x0c;
        Reading reading = Reading.of(layout, record);
        assertThat(reading.findings).singleElement().satisfies(f -> assertThat(f)
                .contains("Byte 2 (0x57) is no character of it", "[CHR-01]"));
    }

    @Test
    void half_of_a_character_of_two_bytes_is_a_finding() throws IOException {
        byte[] record = new byte[TEXT + 26];
        Arrays.fill(record, (byte) 0x40);
        byte[] half = {0x0e, 0x45, 0x41, 0x45, 0x0f};
        System.arraycopy(half, 0, record, 0, half.length);
        record[TEXT + 8] = 0;
        record[TEXT + 9] = 0;
        record[TEXT + 10] = 0x0c;
        assertThat(Reading.of(layout(FileCharset.IBM_939), record).findings)
                .singleElement()
                .satisfies(f -> assertThat(f).contains("[CHR-01]"));
    }

    @Test
    void positions_in_a_mixed_page_cannot_count_characters() {
        assertThatThrownBy(() -> new FixedLength(
                        FileCharset.IBM_930, 80, FixedLength.Units.CHARACTERS, null, false, 0, BlankRows.SKIP))
                .isInstanceOf(DefinitionException.class)
                .hasMessageContaining("must be bytes");
    }

    @Test
    void every_code_page_of_the_platform_is_there() {
        List<String> missing = Charset.availableCharsets().values().stream()
                .filter(Charset::canEncode)
                .filter(c -> {
                    byte[] bytes = "0A ".getBytes(c);
                    return bytes.length == 3 && bytes[0] == (byte) 0xf0 && bytes[1] == (byte) 0xc1 && bytes[2] == 0x40;
                })
                .map(Charset::name)
                .filter(name -> Stream.concat(pages(), mixedPages())
                        .noneMatch(p -> p.charset().name().equals(name)))
                .toList();
        assertThat(missing).isEmpty();
    }
}
