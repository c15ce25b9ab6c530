package ninepin.server.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import ninepin.core.deliver.TableDelivery.Mode;
import ninepin.core.job.Definitions;
import ninepin.core.testing.MariaDbServer;
import ninepin.core.testing.Quality;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

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
}
