package ninepin.core.run;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import ninepin.core.deliver.TableDelivery.Mode;
import ninepin.core.job.Definitions;
import ninepin.core.testing.Quality;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What the journal keeps of records that the database refuses, in files whose bytes are not those that are read. */
class TargetRejectsTest {

    private static final String JOB =
            """
            {"name":"farms","layout":"farms","deliveries":[{"to":{"connection":"c","table":"farm","mode":"add"},"shaping":[
             {"target":"no","take":{"from":"field","field":"no"}},{"target":"name","take":{"from":"field","field":"name"}}]}]%s}
            """;
    private static final String FIELDS =
            """
            {"name":"no",%s,"type":{"is":"integer"}},{"name":"name",%s,"type":{"is":"text","length":40}}]}]}
            """;
    private static final String XML =
            "{\"name\":\"farms\",\"format\":{\"kind\":\"xml\"},\"recordTypes\":[{\"name\":\"farm\",\"when\":{\"by\":\"path\","
                    + "\"path\":\"/farms/farm\"},\"fields\":["
                    + FIELDS.formatted("\"path\":\"@no\"", "\"path\":\"text()\"");

    @TempDir
    Path folder;

    private RunFixture fixture(String name, String layout, String more) {
        RunFixture f = new RunFixture(folder, name, Quality.job(Mode.ADD, null));
        f.job = Definitions.job(JOB.formatted(more));
        f.layout = Definitions.layout(layout);
        f.server.execute(name, "CREATE TABLE farm (no INT PRIMARY KEY, name VARCHAR(9))");
        return f;
    }

    private static List<String> raws(RunFixture f, Charset kept) throws Exception {
        return f.journal().stream().map(e -> new String(e.raw(), kept)).toList();
    }

    @ParameterizedTest
    @ValueSource(strings = {"UTF-16LE", "UTF-16BE"})
    void a_record_of_a_delimited_file_in_utf_16_is_kept_whole(String written) throws Exception {
        RunFixture f = fixture(
                "rejects_utf16",
                "{\"name\":\"farms\",\"format\":{\"kind\":\"delimited\",\"charset\":\"UTF-16\",\"delimiter\":\";\",\"header\":false},"
                        + "\"recordTypes\":[{\"name\":\"farm\",\"fields\":["
                        + FIELDS.formatted("\"column\":1", "\"column\":2"),
                "");
        String content = "\uFEFF1;Höf\r\n2;Larkfell Überhof\r\n3;Elm\r\n2;Ash\r\n2;Ä€ß\r\n";
        Files.write(f.file, content.getBytes(Charset.forName(written)));
        assertThat(f.run().tally().rejected()).isEqualTo(2);
        assertThat(raws(f, StandardCharsets.UTF_16BE)).containsExactly("2;Larkfell Überhof", "2;Ä€ß");
    }

    @ParameterizedTest
    @ValueSource(strings = {"UTF-16", "ISO-8859-1", "UTF-8"})
    void a_record_of_an_xml_file_is_kept_whole_whatever_its_encoding(String encoding) throws Exception {
        RunFixture f = fixture("rejects_xml", XML, "");
        String content = "<?xml version=\"1.0\" encoding=\"" + encoding
                + "\"?>\n<farms><farm no=\"1\">Höf</farm><farm no=\"2\">Larkfell Überhof</farm><farm no=\"1\">Übel</farm></farms>";
        Files.write(f.file, content.getBytes(Charset.forName(encoding)));
        assertThat(f.run().tally().rejected()).isEqualTo(2);
        assertThat(raws(f, StandardCharsets.UTF_8))
                .containsExactly("<farm no=\"2\">Larkfell Überhof</farm>", "<farm no=\"1\">Übel</farm>");
    }

    @Test
    void the_last_of_several_records_with_one_key_is_kept_where_all_stand_on_one_line() throws Exception {
        RunFixture f =
                fixture("rejects_last", XML, ",\"documents\":{\"duplicates\":[{\"key\":[\"no\"],\"keep\":\"last\"}]}");
        Files.writeString(
                f.file,
                "<farms><farm no=\"1\">one</farm><farm no=\"2\">two</farm><farm no=\"1\">again</farm><farm no=\"1\">last</farm></farms>");
        RunOutcome outcome = f.run();
        assertThat(outcome.tally().setAside()).isEqualTo(2);
        assertThat(f.rows("SELECT no, name FROM farm ORDER BY no")).containsExactly("1|last", "2|two");
    }
}
