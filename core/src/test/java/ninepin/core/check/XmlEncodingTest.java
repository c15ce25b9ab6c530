package ninepin.core.check;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import ninepin.core.bytes.MemorySource;
import ninepin.core.format.Formats;
import ninepin.core.job.Definitions;
import ninepin.core.layout.Layout;
import ninepin.core.record.Opening;
import ninepin.core.record.RecordReader;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Whatever an XML file is written in, a finding tells the same line and columns, and its bytes are those of the place. */
class XmlEncodingTest {

    /** Tells what its file is written in. */
    private static final String DECLARED = "<?xml version='1.0' encoding='%s'?>";

    /** Characters of the second byte 0x0A stand in it where the encoding has them. */
    private static final String DOCUMENT =
            """
            %s
            <farms xmlns:x='urn:x'><farm   x:number = "ä1" name='Söll'><cows>12</cows></farm>
            <farm name='Tarn >%s' number='ß'>
              <note>üü</note><cows>zwölf</cows></farm><farm number='3' name="Größe über alles"><cows>3</cows></farm></farms>
            """;

    private static final String LAYOUT =
            """
            {"name":"l","format":{"kind":"xml","namespaces":{"x":"urn:x"}},"recordTypes":[{"name":"farm",
             "when":{"by":"path","path":"/farms/farm"},"fields":[
              {"name":"number","path":"@number","type":{"is":"integer"}},
              {"name":"other","path":"@x:number","type":{"is":"integer"}},
              {"name":"name","path":"@name","type":{"is":"text","length":12}},
              {"name":"cows","path":"cows","type":{"is":"integer"}}]}]}
            """;

    @ParameterizedTest
    @CsvSource({
        "UTF-8, UTF-8, ਊ",
        "ISO-8859-1, ISO-8859-1, Ê",
        "windows-1252, windows-1252, €",
        "UTF-16, UTF-16LE, ਊ",
        "UTF-16, UTF-16BE, ਊ"
    })
    void places_are_those_of_the_file(String declared, String charset, String odd) throws IOException {
        Charset encoding = Charset.forName(charset);
        String text = DOCUMENT.formatted(DECLARED.formatted(declared), odd);
        byte[] file = ((declared.equals("UTF-16") ? "\ufeff" : "") + text).getBytes(encoding);
        Layout layout = Definitions.layout(LAYOUT);
        MemorySource source = new MemorySource(file);
        Opening opening = Formats.open(source, layout);
        RecordChecker checker = new RecordChecker(layout, opening, LocalDate.EPOCH);
        List<String> told = new ArrayList<>();
        try (RecordReader reader = opening.reader(source, opening.body())) {
            while (reader.next() != RecordReader.Item.END) {
                checker.check(reader.record());
                for (Finding f : checker.findings()) {
                    String place = new String(file, (int) f.offset(), f.length(), encoding);
                    told.add(f.line() + ":" + f.at().columnFrom() + "-" + f.at().columnTo() + " " + f.field() + " "
                            + place);
                }
                String kept = new String(reader.record().fileBytes(), StandardCharsets.UTF_8);
                assertThat(text).contains(kept);
                assertThat(kept).startsWith("<farm").endsWith("</farm>");
            }
        }
        assertThat(told)
                .containsExactly(
                        "2:44-45 other ä1", "3:30-30 number ß", "4:24-28 cows zwölf", "4:66-81 name Größe über alles");
    }
}
