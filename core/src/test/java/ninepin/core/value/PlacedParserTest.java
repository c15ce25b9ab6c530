package ninepin.core.value;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.time.LocalDate;
import java.time.format.DateTimeFormatter;
import java.util.Arrays;
import java.util.List;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import net.jqwik.api.Tuple;
import net.jqwik.api.constraints.IntRange;
import ninepin.core.bytes.Words;
import ninepin.core.layout.DataType;
import ninepin.core.layout.FileCharset;
import ninepin.core.layout.NumberForm;
import ninepin.core.layout.NumberForm.Sign;
import ninepin.core.layout.NumberForm.Written;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** The quick way to read a field at its place says the same as the full one, or nothing. */
class PlacedParserTest {

    private static final List<DataType> TYPES = List.of(
            new DataType.IntegerNumber(),
            new DataType.IntegerNumber(new NumberForm(Written.DIGITS, Sign.TRAILING, false)),
            new DataType.Decimal(6, 2, ',', null),
            decimal(3, 1, Sign.TRAILING, true),
            decimal(5, 2, Sign.TRAILING, false),
            decimal(7, 3, Sign.LEADING, true),
            new DataType.Date("yyyyMMdd"),
            new DataType.Date("ddMMyy", 50),
            new DataType.Time("HHmm"),
            new DataType.Time("HHmmss"),
            new DataType.CharacterVarying(5),
            new DataType.CharacterVarying(40));

    private static DataType decimal(int precision, int scale, Sign sign, boolean implied) {
        return new DataType.Decimal(precision, scale, '.', null, new NumberForm(Written.DIGITS, sign, implied));
    }

    @Provide
    Arbitrary<byte[]> contents() {
        Arbitrary<Byte> digit = Arbitraries.bytes().between((byte) '0', (byte) '9');
        Arbitrary<Byte> other = Arbitraries.of((byte) ' ', (byte) '+', (byte) '-', (byte) 'a', (byte) 0, (byte) 0xfc);
        Arbitrary<Byte> letter = Arbitraries.of((byte) ' ', (byte) ' ', (byte) 'f', (byte) 'M', (byte) 0xe4);
        Arbitrary<byte[]> digits = digit.array(byte[].class).ofMinSize(1).ofMaxSize(12);
        return Arbitraries.oneOf(
                digits,
                Arbitraries.frequencyOf(Tuple.of(7, digit), Tuple.of(1, other))
                        .array(byte[].class)
                        .ofMinSize(1)
                        .ofMaxSize(12),
                Arbitraries.integers().between(1, 99).list().ofSize(3).map(PlacedParserTest::moment),
                digits.map(d -> signed(d, '-')),
                digits.map(d -> signed(d, '+')),
                letter.array(byte[].class).ofMinSize(1).ofMaxSize(50));
    }

    /** Digits that often are a day or a time. */
    private static byte[] moment(List<Integer> parts) {
        String century = parts.get(0) % 2 == 0 ? "20" : "";
        return String.format("%s%02d%02d%02d", century, parts.get(0) % 24, parts.get(1) % 14, parts.get(2) % 33)
                .getBytes(StandardCharsets.US_ASCII);
    }

    private static byte[] signed(byte[] digits, char sign) {
        byte[] signed = digits.clone();
        signed[signed.length - 1] = (byte) sign;
        return signed;
    }

    @Property(tries = 8000)
    void a_field_is_the_same_by_the_quick_and_by_the_full_way(
            @ForAll("contents") byte[] content, @ForAll @IntRange(min = 0, max = 11) int type, @ForAll boolean latin) {
        FileCharset charset = latin ? FileCharset.ISO_8859_1 : FileCharset.UTF_8;
        ValueParser parser = ValueParser.of(TYPES.get(type), charset);
        PlacedParser placed = parser.placed(3, content.length);
        // What stands around the field must not matter.
        byte[] bytes = new byte[content.length + 3 + Words.SLACK];
        Arrays.fill(bytes, (byte) '7');
        System.arraycopy(content, 0, bytes, 3, content.length);
        Value quick = new Value();
        boolean taken = placed != null && placed.take(bytes, 0, quick);
        if (!taken) {
            return;
        }
        int end = 3 + content.length;
        if (TYPES.get(type) instanceof DataType.CharacterVarying) {
            end = Words.withoutBlanksBehind(bytes, 3, end);
        }
        Value full = new Value();
        Problem problem = end == 3 ? null : parser.parse(bytes, 3, end, full);
        assertThat(problem).isNull();
        assertThat(quick.kind()).isEqualTo(full.kind());
        assertThat(quick.sameAs(full)).isTrue();
        assertThat(quick.text(charset.charset())).isEqualTo(full.text(charset.charset()));
        assertThat(quick.isNull() || quick.scale() == full.scale()).isTrue();
    }

    @Property
    void digits_for_the_whole_of_a_field_are_taken(@ForAll @IntRange(min = 1, max = 8) int length) {
        byte[] bytes = "123456789012345678".getBytes(FileCharset.UTF_8.charset());
        PlacedParser placed =
                ValueParser.of(new DataType.IntegerNumber(), FileCharset.UTF_8).placed(0, length);
        Value value = new Value();
        assertThat(placed.take(bytes, 0, value)).isTrue();
        assertThat(value.text(null)).isEqualTo("12345678".substring(0, length));
    }

    @ParameterizedTest
    @CsvSource({"yyyyMMdd,", "ddMMyyyy,", "MMddyy, 59", "yyMMdd, 59"})
    void every_day_of_a_century_is_taken(String pattern, Integer pivot) {
        PlacedParser placed = ValueParser.of(new DataType.Date(pattern, pivot), FileCharset.UTF_8)
                .placed(0, pattern.length());
        DateTimeFormatter written = DateTimeFormatter.ofPattern(pattern.replace("yyyy", "uuuu"));
        Value value = new Value();
        for (LocalDate day = LocalDate.of(1960, 1, 1); day.getYear() < 2060; day = day.plusDays(1)) {
            byte[] bytes = (day.format(written) + "12345678").getBytes(StandardCharsets.US_ASCII);
            assertThat(placed.take(bytes, 0, value)).isTrue();
            assertThat(value.number()).isEqualTo(day.toEpochDay());
        }
    }
}
