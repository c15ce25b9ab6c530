package ninepin.server.codes;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.groups.Tuple.tuple;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import ninepin.core.codes.CodeList;
import ninepin.core.deliver.TargetException;
import ninepin.core.job.Definitions;
import ninepin.core.layout.DefinitionException;
import ninepin.server.codes.CodeListMapper.CodeListRow;
import ninepin.server.definitions.JsonDifference.Change;
import ninepin.server.jobs.Jobs;
import ninepin.server.testing.Services;
import ninepin.server.testing.SmallWorld;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Code lists with their versions, lists of a query, what jobs take of them, and their files. */
class CodeListsTest {

    @TempDir
    static Path folder;

    private static Services services;
    private static CodeLists lists;

    @BeforeAll
    static void start() throws IOException {
        services = Services.start(folder, "lists_test");
        lists = services.get(CodeLists.class);
    }

    @AfterAll
    static void stop() {
        services.close();
    }

    private static CodeList list(String name, String... lines) {
        StringBuilder entries = new StringBuilder();
        for (String line : lines) {
            entries.append(entries.isEmpty() ? "" : ",")
                    .append("{\"values\":[\"")
                    .append(line.replace("=", "\",\""))
                    .append("\"]}");
        }
        return Definitions.codeList(
                "{\"name\":\"" + name + "\",\"columns\":[\"code\",\"text\"],\"entries\":[" + entries + "]}");
    }

    private static CodeList query(String name, String statement) {
        return Definitions.codeList("{\"name\":\"" + name + "\",\"columns\":[\"code\",\"text\"],\"query\":"
                + "{\"connection\":\"target\",\"statement\":\"" + statement + "\"}}");
    }

    @Test
    void versions_count_up_and_stay() {
        lists.create(list("routes", "R1=North"), "the first", "anna");
        CodeListRow second = lists.save(list("routes", "R1=North", "R2=South"), 1, " one more ", "bert");
        assertThat(second.version()).isEqualTo(2);
        assertThat(second.note()).isEqualTo("one more");
        assertThat(second.savedBy()).isEqualTo("bert");
        assertThat(lists.versions("routes"))
                .extracting(
                        CodeListRow::version,
                        r -> Definitions.codeList(r.definition()).entries().size())
                .containsExactly(tuple(2, 2), tuple(1, 1));
    }

    @Test
    void a_list_is_made_once_and_saved_from_what_is_latest() {
        lists.create(list("tests", "FAT=fat"), null, "anna");
        assertThatThrownBy(() -> lists.create(list("tests", "FAT=fat"), null, "bert"))
                .hasMessageContaining("409");
        assertThatThrownBy(() -> lists.save(list("tests", "FAT=fat"), 1, null, "bert"))
                .hasMessageContaining("Nothing differs from version 1");
        lists.save(list("tests", "FAT=fat", "PRO=protein"), 1, null, "anna");
        assertThatThrownBy(() -> lists.save(list("tests", "FAT=other"), 1, null, "bert"))
                .hasMessageContaining("409")
                .hasMessageContaining("anna saved version 2");
        assertThatThrownBy(() -> lists.save(list("nothing", "FAT=other"), 1, null, "bert"))
                .hasMessageContaining("404");
    }

    @Test
    void lines_are_added_to_the_latest_version() {
        lists.create(list("grades", "A=best"), null, "anna");
        CodeListRow row = lists.addEntries(
                "grades", List.of(new CodeList.Entry(List.of("B", "good"), null, null)), "b too", "anna");
        assertThat(row.version()).isEqualTo(2);
        assertThat(Definitions.codeList(row.definition()).entries())
                .extracting(e -> e.values().get(0))
                .containsExactly("A", "B");
        assertThatThrownBy(() -> lists.addEntries(
                        "grades", List.of(new CodeList.Entry(List.of("A", "twice"), null, null)), null, "anna"))
                .isInstanceOf(DefinitionException.class);
    }

    @Test
    void a_list_of_a_query_is_asked_when_it_is_needed_and_not_each_time() throws Exception {
        services.database().execute(services.target(), "CREATE TABLE valley (code VARCHAR(4), text VARCHAR(20))");
        services.database().execute(services.target(), "INSERT INTO valley VALUES ('N', 'North'), ('S', 'South')");
        lists.create(query("valleys", "SELECT code, text FROM valley ORDER BY code"), null, "anna");
        assertThat(lists.filled("valleys").list().entries()).hasSize(2);
        services.database().execute(services.target(), "INSERT INTO valley VALUES ('W', 'West')");
        assertThat(lists.filled("valleys").list().entries())
                .as("not asked again yet")
                .hasSize(2);
        lists.save(query("valleys", "SELECT code, text FROM valley ORDER BY text"), 1, null, "anna");
        assertThat(lists.filled("valleys").list().entries()).as("another query").hasSize(3);
        assertThatThrownBy(() -> lists.addEntries(
                        "valleys", List.of(new CodeList.Entry(List.of("X", "x"), null, null)), null, "anna"))
                .hasMessageContaining("422")
                .hasMessageContaining("read by a query");
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "DELETE FROM valley | a query is one SELECT",
                "SELECT 1; SELECT 2 | is one statement",
                "SELECT code FROM nowhere | nowhere",
            })
    void a_query_that_may_not_be_or_cannot_be_asked_is_refused_in_words(String statement, String words) {
        assertThatThrownBy(() -> lists.ask(query("asked", statement).query()))
                .isInstanceOfAny(TargetException.class, DefinitionException.class)
                .hasMessageContaining(words);
    }

    @Test
    void lists_that_cannot_be_read_are_told_and_the_others_are_there() {
        lists.create(list("fine", "A=1"), null, "anna");
        lists.create(query("broken", "SELECT code, text FROM no_such_table"), null, "anna");
        Map<String, Map<String, Long>> missed = new HashMap<>();
        CodeLists.Found found = lists.find(List.of("fine", "broken", "nobody-made-it"), missed);
        assertThat(found.troubles()).singleElement().asString().contains("broken", "no_such_table");
        assertThat(found.tables().find("fine")).isNotNull();
        assertThat(missed).containsKey("fine");
    }

    @Test
    void a_list_that_a_job_names_is_not_deleted() {
        lists.create(list("named", "FAT=fat"), null, "anna");
        SmallWorld world = new SmallWorld(services);
        world.make("naming", "");
        String naming = SmallWorld.job("naming", "")
                .toString()
                .replace(
                        "\"take\":{\"from\":\"field\",\"field\":\"Remark\"}",
                        "\"take\":{\"from\":\"code\",\"field\":\"Test\",\"list\":\"named\"}");
        Jobs jobs = services.get(Jobs.class);
        jobs.saveDraft(
                "naming",
                jobs.get("naming").revision(),
                Definitions.mapper().readTree(naming),
                SmallWorld.layout("naming"),
                "anna");
        assertThat(lists.jobsNaming("named")).containsExactly("naming");
        assertThatThrownBy(() -> lists.delete("named"))
                .hasMessageContaining("409")
                .hasMessageContaining("naming");
        jobs.delete("naming");
        lists.delete("named");
        assertThatThrownBy(() -> lists.get("named")).hasMessageContaining("404");
        assertThatThrownBy(() -> lists.delete("named")).hasMessageContaining("404");
    }

    @Test
    void differences_name_the_lines_that_are_new_gone_and_changed() {
        List<Change> changes = CodeListDifference.between(
                list("x", "A=one", "B=two", "C=three"), list("x", "A=one", "B=zwei", "D=four"));
        assertThat(changes)
                .extracting(Change::part, Change::before, Change::after)
                .containsExactlyInAnyOrder(
                        tuple("B", "two", "zwei"), tuple("C", "three", null), tuple("D", null, "four"));
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                // text of the file, with ⏎ for the end of a line | the lines that are read
                "code;text⏎A;one⏎B;two⏎ | 2",
                "code,text⏎A,one⏎ | 1",
                "code\ttext⏎A\tone⏎ | 1",
                "code;text⏎\"A;B\";\"one \"\"1\"\"\"⏎ | 1",
                "code;text⏎ | 0",
            })
    void lines_are_read_from_files_as_people_write_them(String text, int lines) throws Exception {
        CodeListFile.Lines read = CodeListFile.read(text.replace("⏎", "\r\n").getBytes(StandardCharsets.UTF_8));
        assertThat(read.entries()).hasSize(lines);
        assertThat(read.columns()).containsExactly("code", "text");
    }

    @Test
    void what_is_written_to_a_file_reads_back_as_it_was() throws Exception {
        CodeList list = list("odd", "A=semi;colon", "B=two", "C=Söll 😀", "D=comma, and more");
        CodeListFile.Lines read = CodeListFile.read(CodeListFile.write(list));
        assertThat(read.entries()).isEqualTo(list.entries());
        assertThat(read.columns()).isEqualTo(list.columns());
    }
}
