package ninepin.core.format.xml;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import net.jqwik.api.constraints.IntRange;
import ninepin.core.bytes.MemorySource;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class XmlTextTest {

    /** Characters of one to four bytes, in runs that are longer than a word. */
    @Provide
    Arbitrary<String> texts() {
        Arbitrary<String> run = Arbitraries.oneOf(
                Arbitraries.strings().withCharRange(' ', '~').ofMaxLength(40),
                Arbitraries.strings().withChars('ä', 'ß', 'Ж').ofMaxLength(3),
                Arbitraries.strings().withChars('€', '中').ofMaxLength(3),
                Arbitraries.just("😀"));
        return run.list().ofMaxSize(30).map(runs -> "<x>" + String.join("", runs));
    }

    @Property(tries = 2000)
    void characters_are_those_of_the_file_and_lead_back_to_its_bytes(
            @ForAll("texts") String text, @ForAll @IntRange(min = 4, max = 50) int step) throws IOException {
        byte[] bytes = text.getBytes(StandardCharsets.UTF_8);
        XmlText read = new XmlText(new MemorySource(bytes));
        StringBuilder all = new StringBuilder();
        char[] buffer = new char[60];
        int n;
        while ((n = read.read(buffer, 5, step)) > 0) {
            all.append(buffer, 5, n);
        }
        assertThat(all).hasToString(text);
        for (int at = 0; at <= text.length(); at += step) {
            if (at == text.length() || !Character.isLowSurrogate(text.charAt(at))) {
                assertThat(read.byteOf(at)).isEqualTo(text.substring(0, at).getBytes(StandardCharsets.UTF_8).length);
            }
        }
    }

    @ParameterizedTest
    @CsvSource({
        "c3,           a lead without what belongs to it",
        "c3 41,        a lead before another character",
        "80,           a byte that belongs to none",
        "c0 af,        a form too long",
        "e0 80 af,     a form too long",
        "ed a0 80,     half of a pair",
        "f4 90 80 80,  behind the last character",
        "e2 82,        the end in the midst of a character",
        "ff,           no byte of UTF-8"
    })
    void what_is_no_utf_8_is_told_with_its_place(String hex, String what) throws IOException {
        String before = "<x>nothing wrong here, nor in Söllbridge: ";
        byte[] start = before.getBytes(StandardCharsets.UTF_8);
        String[] bad = hex.split(" ");
        byte[] bytes = java.util.Arrays.copyOf(start, start.length + bad.length);
        for (int i = 0; i < bad.length; i++) {
            bytes[start.length + i] = (byte) Integer.parseInt(bad[i], 16);
        }
        XmlText read = new XmlText(new MemorySource(bytes));
        assertThat(read.read(new char[200], 0, 200)).isEqualTo(before.length());
        assertThatThrownBy(() -> read.read(new char[200], 0, 200))
                .as(what)
                .isInstanceOfSatisfying(XmlText.Unreadable.class, e -> assertThat(e.fault.found())
                        .startsWith("at byte " + (start.length + 1) + " of the file 0x" + bad[0].toUpperCase()));
    }
}
