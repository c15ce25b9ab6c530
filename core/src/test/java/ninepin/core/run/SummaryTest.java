package ninepin.core.run;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Random;
import ninepin.core.job.Definitions;
import ninepin.core.job.Job;
import ninepin.core.layout.Layout;
import org.junit.jupiter.api.RepeatedTest;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Groups with totals, delivered with the last rows of a file. The server reckons what they have to be. */
class SummaryTest {

    private static final Layout LAYOUT = Definitions.layout(
            """
            {"name":"rounds","format":{"kind":"delimited","delimiter":";","header":false},"recordTypes":[{"name":"stop","fields":[
             {"name":"route","column":1,"type":{"is":"text","length":10}},{"name":"farm","column":2,"type":{"is":"integer"}},
             {"name":"day","column":3,"type":{"is":"date","pattern":"yyyy-MM-dd"}},
             {"name":"litres","column":4,"type":{"is":"decimal","precision":9,"scale":2}}]}]}
            """);
    private static final String DEFINITION =
            """
            {"name":"rounds","layout":"rounds",
             "documents":{"setAside":[{"when":"litres = 0","reason":"nothing"}],"duplicates":[{"key":["farm","day"],"keep":"KEEP"}],
              "lanes":{"lanes":[{"name":"much","when":"litres > 500"},{"name":"little"}]}},
             "deliveries":[
              {"to":{"connection":"warehouse","table":"stop"},"shaping":[
               {"target":"route","take":{"from":"field","field":"route"}},{"target":"farm","take":{"from":"field","field":"farm"}},
               {"target":"day","take":{"from":"field","field":"day"}},{"target":"litres","take":{"from":"field","field":"litres"}}]},
              {"summary":{"by":[{"name":"route","is":"route"},{"name":"month","is":"EXTRACT(MONTH FROM day)"}],"totals":[
                {"name":"stops","take":"count"},{"name":"farms","take":"count","of":"farm","distinct":true},{"name":"litres","take":"sum","of":"litres"},
                {"name":"first","take":"min","of":"day"},{"name":"most","take":"max","of":"litres"},{"name":"mean","take":"avg","of":"litres"}]},
               "to":{"connection":"warehouse","table":"by_route"},"shaping":[
               {"target":"route","take":{"from":"field","field":"route"}},{"target":"month","take":{"from":"field","field":"month"}},
               {"target":"stops","take":{"from":"field","field":"stops"}},{"target":"farms","take":{"from":"field","field":"farms"}},
               {"target":"litres","take":{"from":"formula","formula":"litres * 1.5"}},{"target":"first_day","take":{"from":"field","field":"first"}},
               {"target":"most","take":{"from":"field","field":"most"}},{"target":"mean","take":{"from":"field","field":"mean"},"touches":[{"do":"round","to":3}]}]},
              {"lane":"much","summary":{"totals":[{"name":"n","take":"count"}]},"to":{"connection":"warehouse","table":"much"},
               "shaping":[{"target":"n","take":{"from":"field","field":"n"}}]}]}
            """;
    private static final String EXPECTED =
            "SELECT route, MONTH(day), COUNT(*), COUNT(DISTINCT farm), CAST(SUM(litres) * 1.5 AS DECIMAL(12,3)),"
                    + " MIN(day), MAX(litres), ROUND(AVG(litres), 3) FROM stop GROUP BY route, MONTH(day) ORDER BY 1, 2";

    @TempDir
    Path folder;

    private RunFixture fixture(String name, String keep) throws IOException {
        Job job = Definitions.job(DEFINITION.replace("KEEP", keep));
        RunFixture f = new RunFixture(Files.createDirectories(folder.resolve(name)), name, job);
        f.layout = LAYOUT;
        f.chunkRows = 11;
        f.server.execute(
                name,
                "CREATE TABLE stop (route VARCHAR(10), farm INT, day DATE, litres DECIMAL(9,2) CHECK (litres <> 13))");
        f.server.execute(
                name,
                "CREATE TABLE by_route (route VARCHAR(10), month INT, stops INT, farms INT, litres DECIMAL(12,3),"
                        + " first_day DATE, most DECIMAL(9,2), mean DECIMAL(12,3), PRIMARY KEY (route, month))");
        f.server.execute(name, "CREATE TABLE much (n INT)");
        return f;
    }

    private static String stops(Random random, int count, boolean some13) {
        StringBuilder file = new StringBuilder();
        for (int i = 0; i < count; i++) {
            String litres = random.nextInt(40) == 0
                    ? "x"
                    : some13 && random.nextInt(15) == 0 ? "13" : random.nextInt(10) * 111 + "." + random.nextInt(10);
            file.append("R%d;%d;2026-%02d-%02d;%s\n"
                    .formatted(
                            random.nextInt(4),
                            random.nextInt(30),
                            10 + random.nextInt(2),
                            1 + random.nextInt(28),
                            litres));
        }
        return file.toString();
    }

    private static void check(RunFixture f, RunOutcome outcome, long seed) {
        assertThat(outcome.state()).as("%s with the seed %d", outcome, seed).isEqualTo(RunOutcome.State.FINISHED);
        List<String> summary = f.rows("SELECT * FROM by_route ORDER BY 1, 2");
        assertThat(summary).as("with the seed %d", seed).isNotEmpty().isEqualTo(f.rows(EXPECTED));
        assertThat(f.rows("SELECT n FROM much")).isEqualTo(f.rows("SELECT COUNT(*) FROM stop WHERE litres > 500"));
        assertThat(outcome.tally().balances()).isTrue();
        assertThat(outcome.tally().added()).isEqualTo(outcome.tally().delivered() + summary.size() + 1);
    }

    /** Rows that the target refuses, and those that a restart finds delivered, count as they do in the table. */
    @RepeatedTest(4)
    void groups_are_those_of_the_rows_that_were_delivered() throws IOException {
        long seed = System.nanoTime();
        Random random = new Random(seed);
        String tag = Long.toHexString(seed & 0xffffff);
        for (boolean refusing : new boolean[] {false, true}) {
            String file = stops(random, 300, refusing);
            String keep = random.nextBoolean() ? "first" : "last";
            RunFixture whole = fixture("sum_a" + refusing + tag, keep);
            check(whole, whole.file(file).run(), seed);
            RunFixture pieces = fixture("sum_b" + refusing + tag, keep);
            assertThat(pieces.file(file).runInPieces()).isGreaterThan(5);
            check(pieces, pieces.last, seed);
            assertThat(pieces.last.tally()).isEqualTo(whole.run().tally());
        }
    }

    @Test
    void a_group_that_the_target_refuses_halts_with_nothing_half_done_and_a_restart_goes_on() throws IOException {
        RunFixture f = fixture("sum_refused", "first");
        f.server.execute("sum_refused", "INSERT INTO by_route (route, month) VALUES ('R2', 11)");
        String file = stops(new Random(5), 40, false);
        RunOutcome outcome = f.file(file).run();
        assertThat(outcome.state()).isEqualTo(RunOutcome.State.FAILED);
        assertThat(outcome.code()).isEqualTo("SUM-01");
        assertThat(outcome.message()).contains("R2,11", "Duplicate entry");
        assertThat(f.rows("SELECT COUNT(*) FROM by_route")).containsExactly("1");
        f.server.execute("sum_refused", "DELETE FROM by_route");
        check(f, f.run(), 5);
    }
}
