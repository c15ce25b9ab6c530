package ninepin.core.run;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Random;
import ninepin.core.deliver.Tally;
import ninepin.core.format.Formats;
import ninepin.core.job.Definitions;
import ninepin.core.testing.Quality;
import ninepin.core.testing.WorkbookText;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Parents and children go into their tables together, or not at all. */
class DocumentsTest {

    private static final String LAYOUT =
            """
            {"name":"rounds","format":{"kind":"delimited","delimiter":";","header":false,"skipLines":0},"recordTypes":[
             {"name":"head","when":{"by":"tag","column":1,"values":["H"]},"fields":[
              {"name":"day","column":2,"type":{"is":"date","pattern":"yyyy-MM-dd"}}]},
             {"name":"round","when":{"by":"tag","column":1,"values":["R"]},"fields":[
              {"name":"no","column":2,"type":{"is":"integer"}}]},
             {"name":"stop","parent":"round","when":{"by":"tag","column":1,"values":["S"]},"fields":[
              {"name":"farm","column":2,"type":{"is":"integer"}},
              {"name":"litres","column":3,"type":{"is":"integer"},
               "checks":[{"rule":"range","min":"1","severity":"reject"},{"rule":"range","max":"900","severity":"note"}]}]},
             {"name":"tail","when":{"by":"tag","column":1,"values":["T"]},"fields":[
              {"name":"litres","column":2,"type":{"is":"integer"}}]}]%s}
            """;
    private static final String JOB =
            """
            {"name":"rounds","layout":"rounds","deliveries":[
             {"of":"round","to":{"connection":"warehouse","table":"round","mode":"add"},"shaping":[
              {"target":"no","take":{"from":"field","field":"no"}},
              {"target":"day","take":{"from":"field","field":"head.day"}}]},
             {"of":"stop","to":{"connection":"warehouse","table":"stop","mode":"add"},"shaping":[
              {"target":"round","take":{"from":"field","field":"round.no"}},
              {"target":"farm","take":{"from":"field","field":"farm"}},
              {"target":"litres","take":{"from":"field","field":"litres"}}]}]}
            """;
    private static final String TOTAL =
            ",\"fileChecks\":[{\"rule\":\"total\",\"field\":\"tail.litres\",\"of\":\"stop.litres\"}]";

    @TempDir
    Path folder;

    private RunFixture f;

    @BeforeEach
    void tables() {
        f = new RunFixture(folder, "run_documents", Quality.job(ninepin.core.deliver.TableDelivery.Mode.ADD, null));
        f.job = Definitions.job(JOB);
        f.layout = Definitions.layout(LAYOUT.formatted(""));
        f.server.execute(
                "run_documents",
                "CREATE TABLE round (no INT NOT NULL PRIMARY KEY, day DATE NOT NULL) ENGINE=InnoDB",
                "CREATE TABLE stop (round INT NOT NULL, farm TINYINT NOT NULL, litres INT NOT NULL,"
                        + " FOREIGN KEY (round) REFERENCES round (no)) ENGINE=InnoDB");
    }

    private void file(String content) throws IOException {
        Files.write(f.file, content.getBytes(StandardCharsets.UTF_8));
    }

    @Test
    void a_child_that_a_check_or_the_database_refuses_takes_its_document_along() throws IOException {
        file(
                "H;2026-11-23\nR;1\nS;7;100\nS;8;950\nR;2\nS;7;50\nS;8;0\nR;3\nS;9;1\nR;4\nS;200;5\nS;1;6\nR;3\nS;5;5\nT;1\n");
        RunOutcome outcome = f.run();
        assertThat(outcome.message()).isNull();
        // Rounds 1 and 3 stand; 2 has a litre too few, 4 a farm that is too large for its column, the second 3 a key
        // twice.
        assertThat(f.rows("SELECT no, day FROM round ORDER BY no")).containsExactly("1|2026-11-23", "3|2026-11-23");
        assertThat(f.rows("SELECT round, farm, litres FROM stop ORDER BY round, farm"))
                .containsExactly("1|7|100", "1|8|950", "3|9|1");
        assertThat(outcome.tally()).isEqualTo(new Tally(15, 5, 5, 0, 0, 8, 0, 0, 1, 2));
        assertThat(f.messages())
                .anyMatch(m -> m.startsWith("reject line 5: found a record of a document that is set aside."
                        + " It goes with line 7, which was refused. [DOC-01]"))
                .anyMatch(m -> m.contains("line 11 → farm") && m.contains("[TGT-01]"))
                .anyMatch(m -> m.contains("line 13") && m.contains("Duplicate entry '3' for key 'PRIMARY'"));
        assertThat(f.journal()).filteredOn(JournalEntry::rejected).hasSize(8);
    }

    @Test
    void what_is_said_of_a_workbook_names_the_rows_of_its_sheets() throws IOException {
        String types = LAYOUT.formatted("")
                .replaceFirst("\"format\":\\{[^}]*\\}", "\"format\":{\"kind\":\"workbook\"}")
                .replaceAll(
                        "\"by\":\"tag\",\"column\":1",
                        "\"by\":\"rows\",\"sheet\":\"Rounds\",\"header\":0,\"column\":\"A\"")
                .replace("\"column\":2,", "\"letter\":\"B\",")
                .replace("\"column\":3,", "\"letter\":\"C\",");
        f.layout = Definitions.layout(types);
        Path workbook = folder.resolve("rounds.xlsx");
        Files.write(
                workbook,
                WorkbookText.bytes(
                        """
                        sheet Rounds
                        3: H | {yyyy-mm-dd}46296
                        4: R | 2
                        5: S | 7 | 50
                        6: S | 8 | 0
                        9: R | 4
                        10: S | 200 | 5
                        11: S | 1 | 6
                        """));
        Formats.of(f.layout).transcription().orElseThrow().transcribe(workbook, f.file);
        f.run();
        assertThat(f.messages())
                .anyMatch(
                        m -> m.startsWith("reject sheet Rounds, row 5: found a record of a document that is set aside."
                                + " It goes with sheet Rounds, row 6, which was refused. [DOC-01]"))
                .anyMatch(
                        m -> m.startsWith("reject sheet Rounds, row 9: found a record of a document that is set aside."
                                + " It goes with sheet Rounds, row 10, which was refused. [DOC-01]"))
                .anyMatch(m -> m.contains("sheet Rounds, row 10 → farm") && m.contains("[TGT-01]"));
    }

    @Test
    void a_line_that_cannot_be_read_takes_the_document_along_in_whose_middle_it_stands() throws IOException {
        file("H;2026-11-23\nR;1\nS;7;100\nX;1\nS;8;90\nR;2\nS;9;80\nT;1\n");
        RunOutcome outcome = f.run();
        assertThat(f.rows("SELECT no FROM round")).containsExactly("2");
        assertThat(f.rows("SELECT round, farm, litres FROM stop")).containsExactly("2|9|80");
        assertThat(outcome.tally()).isEqualTo(new Tally(8, 2, 2, 0, 0, 4, 0, 0, 0, 2));
        assertThat(f.messages())
                .anyMatch(m -> m.contains("line 4") && m.contains("[TAG-01]"))
                .filteredOn(m -> m.contains("It goes with line 4, which was refused. [DOC-01]"))
                .hasSize(3);
    }

    @Test
    void a_halt_inside_a_document_goes_on_before_it_and_counts_its_blank_rows_once() throws IOException {
        file("H;2026-11-23\n\nR;1\nS;7;100\nR;2\n\nS;8;950\n\nS;9;80\nT;1\n");
        f.layout = Definitions.layout(LAYOUT.formatted("")
                .replace("\"max\":\"900\",\"severity\":\"note\"", "\"max\":\"900\",\"severity\":\"halt\""));
        RunOutcome halted = f.run();
        assertThat(halted.state()).isEqualTo(RunOutcome.State.HALTED);
        assertThat(halted.tally()).isEqualTo(new Tally(3, 2, 2, 0, 0, 0, 0, 1, 0, 1));
        f.layout = Definitions.layout(LAYOUT.formatted(""));
        assertThat(f.run().tally()).isEqualTo(new Tally(7, 5, 5, 0, 0, 0, 0, 3, 1, 2));
    }

    @Test
    void a_wrong_total_loads_nothing_and_a_right_one_everything() throws IOException {
        file("R;1\nS;7;100\nT;101\n");
        f.layout = Definitions.layout(LAYOUT.formatted(TOTAL));
        RunOutcome halted = f.run();
        assertThat(halted.state()).isEqualTo(RunOutcome.State.HALTED);
        assertThat(halted.message()).contains("found \"101\", expected 100").contains("Nothing was delivered");
        assertThat(f.rows("SELECT COUNT(*) FROM round")).containsExactly("0");
        file("H;2026-11-23\nR;1\nS;7;100\nT;100\n");
        assertThat(f.run().tally()).isEqualTo(new Tally(4, 2, 2, 0, 0, 0, 0, 0, 0, 2));
    }

    @Test
    void stopped_between_any_two_documents_it_goes_on_with_what_records_before_mean() throws IOException {
        Random random = new Random(8);
        StringBuilder text = new StringBuilder("H;2026-11-23\n");
        for (int r = 1; r <= 400; r++) {
            text.append("R;").append(r).append('\n');
            for (int s = random.nextInt(6); s > 0; s--) {
                int litres = random.nextInt(60) == 0 ? 0 : 1 + random.nextInt(1000);
                text.append("S;")
                        .append(1 + random.nextInt(100))
                        .append(';')
                        .append(litres)
                        .append('\n');
            }
        }
        file(text.append("T;1\n").toString());
        f.chunkRows = 40;
        int starts = f.runInPieces();
        RunOutcome outcome = f.last;
        String rows = f.rows("SELECT COUNT(*), SUM(CRC32(CONCAT_WS('|', round, farm, litres))) FROM stop")
                .get(0);
        assertThat(starts).isGreaterThan(5);
        assertThat(f.rows("SELECT COUNT(*) FROM round WHERE day <> '2026-11-23'"))
                .containsExactly("0");
        Path journal = f.journal;
        String entries = Files.readString(journal);
        Tally tally = outcome.tally();
        tables();
        f.journal = folder.resolve("once.ndjson");
        assertThat(f.run().tally()).isEqualTo(tally);
        assertThat(f.rows("SELECT COUNT(*), SUM(CRC32(CONCAT_WS('|', round, farm, litres))) FROM stop"))
                .containsExactly(rows);
        assertThat(Files.readString(f.journal)).isEqualTo(entries);
    }
}
