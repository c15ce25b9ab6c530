package ninepin.server.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.List;
import ninepin.core.deliver.TableDelivery.Mode;
import ninepin.core.job.Definitions;
import ninepin.core.testing.MariaDbServer;
import ninepin.core.testing.Quality;
import ninepin.server.testing.SmallWorld;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;

class RunCommandTest {

    @TempDir
    Path folder;

    private final MariaDbServer server = MariaDbServer.shared();
    private String out;
    private String progress;

    @BeforeEach
    void files() throws IOException {
        server.database("command");
        server.execute("command", Quality.TABLE);
        Files.writeString(folder.resolve("quality.job.json"), Definitions.write(Quality.job(Mode.ADD, null)));
        Files.writeString(folder.resolve("test.layout.json"), Definitions.write(Quality.layout()));
        Files.writeString(
                folder.resolve("settings"),
                "ninepin.connections.warehouse.host=127.0.0.1\nninepin.connections.warehouse.port=" + server.port()
                        + "\nninepin.connections.warehouse.database=command\nninepin.connections.warehouse.user=root\n");
    }

    private int run(String content, String... more) throws IOException {
        Files.writeString(folder.resolve("in.csv"), content, Quality.CHARSET);
        List<String> args = new ArrayList<>(List.of(
                "--job", folder.resolve("quality.job.json").toString(),
                "--input", folder.resolve("in.csv").toString(),
                "--settings", folder.resolve("settings").toString(),
                "--state", folder.resolve("state").toString()));
        args.addAll(List.of(more));
        return execute(args.toArray(String[]::new));
    }

    private int execute(String... args) {
        ByteArrayOutputStream o = new ByteArrayOutputStream();
        ByteArrayOutputStream p = new ByteArrayOutputStream();
        int exit = RunCommand.execute(args, new PrintStream(o), new PrintStream(p));
        out = o.toString(StandardCharsets.UTF_8);
        progress = p.toString(StandardCharsets.UTF_8);
        return exit;
    }

    private long rows() {
        return Long.parseLong(
                server.rows("command", "SELECT COUNT(*) FROM quality_result").get(0));
    }

    @Test
    void the_exit_code_says_how_it_ended_and_standard_output_is_json() throws IOException {
        assertThat(run(Quality.HEADER + Quality.line(1), "--rehearse")).isZero();
        assertThat(rows()).as("a rehearsal delivers nothing").isZero();
        assertThat(run(Quality.HEADER + Quality.line(1))).isZero();
        assertThat(Definitions.mapper()
                        .readTree(out)
                        .path("tally")
                        .path("delivered")
                        .asInt())
                .isEqualTo(1);
        assertThat(run(Quality.HEADER + Quality.line(1)))
                .as("the same file again")
                .isEqualTo(2);
        assertThat(progress).contains("delivered before");
        assertThat(run(Quality.HEADER + Quality.line(1), "--again"))
                .as("every row is there")
                .isEqualTo(1);
        assertThat(run(Quality.HEADER + Quality.line(2) + "x;x;x;x;x;x\r\n")).isEqualTo(1);
        assertThat(Definitions.mapper()
                        .readTree(out)
                        .path("findings")
                        .get(0)
                        .path("message")
                        .asString())
                .startsWith("line 3 · Farm");
        assertThat(run("Sample;Farm\r\n")).isEqualTo(2);
        assertThat(out).contains("HDR-02");
        assertThat(rows()).isEqualTo(2);
    }

    /** A file and a table: each is told, and all together each record once. */
    @Test
    void every_place_is_told_and_all_of_them_together() throws IOException {
        Files.createDirectories(folder.resolve("out"));
        Files.writeString(
                folder.resolve("settings"),
                "\nninepin.roots.out=" + folder.resolve("out") + "\n",
                StandardOpenOption.APPEND);
        String file =
                """
                ,{"to":{"kind":"file","file":{"root":"out","name":"farms.csv","layout":{"name":"farms",
                 "format":{"kind":"delimited","delimiter":";","header":true},"recordTypes":[{"name":"farm","fields":[
                  {"name":"sample","type":{"is":"text","length":12}},{"name":"farm","type":{"is":"integer"}}]}]}}},
                 "shaping":[{"target":"sample","take":{"from":"field","field":"Sample"}},
                  {"target":"farm","take":{"from":"field","field":"Farm"}}]}]
                """;
        Path job = folder.resolve("quality.job.json");
        String definition = Files.readString(job);
        int end = definition.lastIndexOf(']');
        Files.writeString(job, definition.substring(0, end) + file + definition.substring(end + 1));
        server.execute("command", "INSERT INTO quality_result VALUES ('S2', 1, 'FAT', 1, '2026-01-01', '', 0, 0)");
        String lines =
                Quality.HEADER + Quality.line(1) + Quality.line(2) + "s3;x;FAT;1,00;03.11.2026;\r\n" + Quality.line(4);

        for (String more : List.of("--rehearse", "--again")) {
            assertThat(run(lines, more)).as(more + progress).isEqualTo(1);
            JsonNode report = Definitions.mapper().readTree(out);
            JsonNode tally = report.path("tally");
            boolean rehearsal = more.equals("--rehearse");
            // A rehearsal is held against an empty copy of the table, so that what is there already is not in its way.
            assertThat(tally.path("read").asInt()).isEqualTo(4);
            assertThat(tally.path("rejected").asInt()).isEqualTo(rehearsal ? 1 : 2);
            assertThat(tally.path("delivered").asInt()).isEqualTo(rehearsal ? 3 : 2);
            assertThat(tally.path("added").asInt()).isEqualTo(rehearsal ? 6 : 5);
            assertThat(report.path("open").asInt()).isZero();
            assertThat(report.path("balances").asBoolean()).isTrue();
            assertThat(report.path("places").get(0).path("to").asString()).isEqualTo("quality_result");
            assertThat(report.path("places").get(1).path("to").asString()).isEqualTo("farms.csv");
            assertThat(report.path("places")
                            .get(1)
                            .path("tally")
                            .path("delivered")
                            .asInt())
                    .isEqualTo(3);
            assertThat(report.path("places")
                            .get(1)
                            .path("deliveries")
                            .get(0)
                            .path("rows")
                            .path("added")
                            .asInt())
                    .isEqualTo(3);
        }
        assertThat(rows()).as("with the one that was there").isEqualTo(3);
        assertThat(Files.readAllLines(folder.resolve("out").resolve("farms.csv")))
                .hasSize(4);
    }

    @Test
    void wrong_use_says_what_is_wrong() throws IOException {
        assertThat(execute("--job")).isEqualTo(64);
        assertThat(progress).contains("--job needs a value").contains("use: ninepin run");
        assertThat(execute("--job", folder.resolve("none.json").toString(), "--input", "x"))
                .isEqualTo(64);
        assertThat(run(Quality.HEADER, "--frobnicate")).isEqualTo(64);
        Files.writeString(folder.resolve("quality.job.json"), "{\"name\":\"Q\",\"layout\":\"test\"}");
        assertThat(run(Quality.HEADER)).isEqualTo(64);
        assertThat(progress).contains("\"Q\" is not a name");
    }

    @Test
    void a_job_that_does_not_fit_its_table_is_not_run() throws IOException {
        server.execute("command", "ALTER TABLE quality_result ADD weight INT NOT NULL");
        assertThat(run(Quality.HEADER + Quality.line(1))).isEqualTo(2);
        assertThat(progress).contains("must be mended: weight must have a value");
    }

    /** A job that asks takes the same rows when it goes on, and only new ones when it is run again. */
    @Test
    void rows_of_a_query_are_taken_once() throws IOException {
        Files.writeString(
                folder.resolve("asked.job.json"),
                """
                {"name":"asked","layout":"asked","pickUp":{"query":{"connection":"warehouse","key":"no","onlyNew":true,
                 "statement":"SELECT no, said FROM asked WHERE said < :today"}},
                 "deliveries":[{"to":{"connection":"warehouse","table":"taken"},"shaping":[
                  {"target":"no","take":{"from":"field","field":"no"}}]}]}
                """);
        Files.writeString(
                folder.resolve("asked.layout.json"),
                """
                {"name":"asked","format":{"kind":"delimited","delimiter":",","header":true},"recordTypes":[{"name":"row","fields":[
                 {"name":"no","type":{"is":"integer"}},{"name":"said","type":{"is":"date","pattern":"yyyy-MM-dd"}}]}]}
                """);
        server.execute(
                "command",
                "CREATE TABLE asked (no INT, said DATE)",
                "CREATE TABLE taken (no INT)",
                "INSERT INTO asked VALUES (3, '2020-01-01'), (1, '2020-01-01'), (2, '2999-01-01')");
        String[] args = {
            "--job", folder.resolve("asked.job.json").toString(),
            "--settings", folder.resolve("settings").toString(),
            "--state", folder.resolve("state").toString()
        };
        assertThat(execute(args)).as(progress).isZero();
        assertThat(server.rows("command", "SELECT no FROM taken")).containsExactly("1", "3");
        assertThat(execute(args)).isZero();
        assertThat(progress).contains("The query gives no rows");
        server.execute("command", "INSERT INTO asked VALUES (4, '2020-01-01')", "ALTER TABLE taken RENAME TO away");
        assertThat(execute(args)).as("the table is gone").isEqualTo(2);
        server.execute("command", "INSERT INTO asked VALUES (5, '2020-01-01')", "ALTER TABLE away RENAME TO taken");
        assertThat(execute(args)).as(progress).isZero();
        assertThat(server.rows("command", "SELECT no FROM taken ORDER BY no")).containsExactly("1", "3", "4");
        assertThat(execute(args)).as(progress).isZero();
        assertThat(server.rows("command", "SELECT no FROM taken ORDER BY no")).containsExactly("1", "3", "4", "5");
        assertThat(execute("--job", folder.resolve("quality.job.json").toString()))
                .isEqualTo(64);
    }

    @Test
    void proofs_are_made_and_proved_from_files() throws IOException {
        Files.writeString(
                folder.resolve("in.csv"), Quality.HEADER + Quality.line(1) + Quality.line(2), Quality.CHARSET);
        String job = folder.resolve("quality.job.json").toString();
        assertThat(prove(job)).as("there is none").isEqualTo(64);
        assertThat(prove(
                        job,
                        "--make",
                        "two-lines",
                        "--input",
                        folder.resolve("in.csv").toString()))
                .as(out)
                .isZero();
        assertThat(folder.resolve("quality.proofs").resolve("two-lines.proof.json"))
                .exists();
        assertThat(prove(job)).isZero();
        assertThat(out)
                .contains("green two-lines: 2 records, 2 rows, 0 findings")
                .contains("1 of 1 green.");
        Path definition = folder.resolve("quality.job.json");
        Files.writeString(definition, Files.readString(definition).replace("\"upper\"", "\"lower\""));
        assertThat(prove(job)).isEqualTo(1);
        assertThat(out).contains("red   two-lines").contains("record 1 → quality_result.sample: expected \"");
        assertThat(prove(job, "--accept")).isZero();
        assertThat(prove(job)).isZero();
        assertThat(prove("--nonsense", job)).isEqualTo(64);
    }

    private int prove(String... args) {
        ByteArrayOutputStream o = new ByteArrayOutputStream();
        int exit = ProveCommand.execute(args, new PrintStream(o), new PrintStream(o));
        out = o.toString(StandardCharsets.UTF_8);
        return exit;
    }

    /** Two processes on one file and a table that takes each row as often as it comes. */
    @Test
    void a_second_command_on_the_same_file_says_that_the_first_is_at_it() throws Exception {
        server.execute("command", "ALTER TABLE quality_result DROP PRIMARY KEY");
        StringBuilder lines = new StringBuilder(Quality.HEADER);
        for (int n = 0; n < 60_000; n++) {
            lines.append(Quality.line(n));
        }
        Files.writeString(folder.resolve("in.csv"), lines, Quality.CHARSET);
        Process one = process("state");
        Process two = process("state");
        Process elsewhere = process("another-state");
        List<Integer> exits = List.of(one.waitFor(), two.waitFor(), elsewhere.waitFor());
        assertThat(exits).as("one delivers, the others say so").contains(0).contains(2);
        assertThat(server.rows("command", "SELECT COUNT(*), COUNT(DISTINCT sample) FROM quality_result"))
                .containsExactly("60000|60000");
        assertThat(Files.readString(folder.resolve("said-state-" + two.pid()))
                        + Files.readString(folder.resolve("said-state-" + one.pid()))
                        + Files.readString(folder.resolve("said-another-state-" + elsewhere.pid())))
                .containsAnyOf("RUN-05", "delivered before");
    }

    private Process process(String state) throws IOException {
        Path said = Files.createTempFile(folder, "said", "");
        Process process = new ProcessBuilder(
                        Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                        "-cp",
                        System.getProperty("java.class.path"),
                        "ninepin.server.Ninepin",
                        "run",
                        "--job",
                        folder.resolve("quality.job.json").toString(),
                        "--input",
                        folder.resolve("in.csv").toString(),
                        "--settings",
                        folder.resolve("settings").toString(),
                        "--state",
                        folder.resolve(state).toString(),
                        "--commit-rows",
                        "500")
                .redirectErrorStream(true)
                .redirectOutput(said.toFile())
                .start();
        Files.createLink(folder.resolve("said-" + state + "-" + process.pid()), said);
        return process;
    }

    /** What a code list says, and which day it is, is what the first start took. */
    @Test
    void a_restart_goes_on_with_the_day_and_the_code_lists_of_the_first_start() throws IOException {
        String rules =
                """
                {"name":"coded","layout":"test","deliveries":[{"to":{"connection":"warehouse","table":"coded"},"shaping":[
                 {"target":"sample","take":{"from":"field","field":"Sample"}},
                 {"target":"test","take":{"from":"code","field":"Test","list":"tests"}},
                 {"target":"day","take":{"from":"run","fact":"today"}}]}]}
                """;
        Files.writeString(folder.resolve("quality.job.json"), rules);
        String list = "{\"name\":\"tests\",\"columns\":[\"test\",\"name\"],\"entries\":["
                + "{\"values\":[\"FAT\",\"%s\"]},{\"values\":[\"PROT\",\"%s\"]}]}";
        Files.writeString(folder.resolve("tests.codes.json"), list.formatted("fat", "protein"));
        server.execute("command", "CREATE TABLE coded (sample VARCHAR(12), test VARCHAR(20), day DATE)");
        String content = Quality.HEADER + Quality.line(1) + Quality.line(2);
        // The first start takes both and delivers nothing, because another one holds the table.
        server.execute("command", "CREATE TRIGGER later BEFORE INSERT ON coded FOR EACH ROW SIGNAL SQLSTATE 'HY000'");
        assertThat(run(content)).isEqualTo(2);
        server.execute("command", "DROP TRIGGER later");
        Files.writeString(folder.resolve("tests.codes.json"), list.formatted("other", "other"));
        try (var all = Files.list(folder.resolve("state"))) {
            Path first =
                    all.filter(p -> p.toString().endsWith("-start")).findFirst().orElseThrow();
            Files.writeString(first.resolve("started"), "2026-11-23T21:04:00");
        }
        assertThat(run(content)).as(progress).isZero();
        assertThat(server.rows("command", "SELECT test, day FROM coded ORDER BY sample"))
                .containsExactly("protein|2026-11-23", "fat|2026-11-23");
        try (var all = Files.list(folder.resolve("state"))) {
            assertThat(all.filter(p -> p.toString().endsWith("-start"))).isEmpty();
        }
    }

    /** The names begin alike for longer than the key of a run has room. */
    @Test
    void a_file_that_one_job_has_delivered_is_new_to_another_whose_name_begins_alike() throws IOException {
        String name = "results-of-the-laboratory-of-%s";
        for (String valley : List.of("larkfell", "larkdale")) {
            Files.writeString(
                    folder.resolve("quality.job.json"),
                    Definitions.write(Quality.job(Mode.ADD, null))
                            .replaceFirst("\"name\" ?: ?\"quality\"", "\"name\":\"" + name.formatted(valley) + "\""));
            server.execute("command", "DELETE FROM quality_result");
            assertThat(run(Quality.HEADER + Quality.line(1))).as(progress).isZero();
        }
    }

    /** The files of a run wait while their root is away; the same command sends them when it is there, once. */
    @Test
    void files_for_another_machine_are_sent_when_it_is_there() throws IOException {
        Path share = folder.resolve("share");
        Files.writeString(
                folder.resolve("settings"),
                "\nninepin.roots.share=" + share + "\nninepin.remote-roots=share\n",
                StandardOpenOption.APPEND);
        Files.writeString(
                folder.resolve("quality.job.json"),
                SmallWorld.job("quality", SmallWorld.FILES_TO_SHARE)
                        .put("layout", "test")
                        .toString());
        String lines = Quality.HEADER + Quality.line(1) + Quality.line(2);
        for (int n = 0; n < 2; n++) {
            assertThat(run(lines)).as(progress).isEqualTo(2);
            assertThat(progress).contains("share is on another machine", "sends the rest", "[FIL-15]");
        }
        assertThat(share).doesNotExist();
        Files.createDirectories(share.resolve("in"));
        Files.writeString(share.resolve("in/farm_3.csv"), "of somebody else");
        assertThat(run(lines)).isEqualTo(2);
        assertThat(progress).contains("There is a file farm_3.csv already");
        assertThat(share.resolve("in/farm_2.csv")).hasContent("farm;sample\n2;s1");
        Files.delete(share.resolve("in/farm_2.csv"));
        Files.delete(share.resolve("in/farm_3.csv"));
        assertThat(run(lines)).as(progress).isZero();
        assertThat(share.resolve("in/farm_3.csv")).hasContent("farm;sample\n3;s2");
        assertThat(share.resolve("in/farm_2.csv"))
                .as("was taken and is not sent again")
                .doesNotExist();
        assertThat(run(lines)).isEqualTo(2);
        assertThat(progress).contains("delivered before");
    }
}
