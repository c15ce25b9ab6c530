package ninepin.core.run;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Random;
import ninepin.core.deliver.Shares;
import ninepin.core.job.Definitions;
import ninepin.core.job.Job;
import ninepin.core.layout.Layout;
import ninepin.core.testing.Quality;
import org.junit.jupiter.api.RepeatedTest;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Records gathered into documents, delivered to a real database in whatever order, in one go or in pieces. */
class GatheringTest {

    private static final Layout LAYOUT = Definitions.layout(
            """
            {"name":"slips","format":{"kind":"delimited","delimiter":";","header":false},"recordTypes":[{"name":"line","fields":[
             {"name":"slip","column":1,"type":{"is":"text","length":10}},{"name":"farm","column":2,"type":{"is":"integer"}},
             {"name":"article","column":3,"type":{"is":"text","length":20}},
             {"name":"amount","column":4,"type":{"is":"decimal","precision":9,"scale":2}}]}]}
            """);
    private static final String DEFINITION =
            """
            {"name":"slips","layout":"slips",
             "documents":{"gather":{"by":["slip"],"document":"slip","head":["slip","farm"]},
              "setAside":[{"of":"line","when":"amount = 0","reason":"nothing"}],
              "duplicates":[{"of":"line","key":["article","amount"],"keep":"first"}],
              "checks":[{"rule":"count","of":"line","min":2,"severity":"reject"}],
              "lanes":{"take":"every","lanes":[{"name":"large","when":"SUM(amount) > 60"},{"name":"small"}]}},
             "deliveries":[
              {"of":"slip","to":{"connection":"warehouse","table":"slip"},"shaping":[
               {"target":"slip","take":{"from":"field","field":"slip"}},
               {"target":"lines_in_all","take":{"from":"formula","formula":"COUNT(*)"}},
               {"target":"total","take":{"from":"formula","formula":"COALESCE(SUM(amount), 0)"}}]},
              {"of":"line","lane":"large","to":{"connection":"warehouse","table":"large_line"},"shaping":[
               {"target":"slip","take":{"from":"field","field":"slip.slip"}},
               {"target":"article","take":{"from":"field","field":"article"}},
               {"target":"share","take":{"from":"formula","formula":"CAST(amount / SUM(amount) AS DECIMAL(9,4))"}}]}]}
            """;
    private static final Job JOB = Definitions.job(DEFINITION);

    @TempDir
    Path folder;

    private RunFixture fixture(String name) throws IOException {
        RunFixture f = new RunFixture(Files.createDirectories(folder.resolve(name)), name, JOB);
        f.layout = LAYOUT;
        f.chunkRows = 7;
        f.server.execute(
                name, "CREATE TABLE slip (slip VARCHAR(10) PRIMARY KEY, lines_in_all INT, total DECIMAL(9,2))");
        f.server.execute(name, "CREATE TABLE large_line (slip VARCHAR(10), article VARCHAR(20), share DECIMAL(9,4))");
        return f;
    }

    private static List<String> slips(Random random, int count) {
        List<String> slips = new ArrayList<>();
        for (int s = 0; s < count; s++) {
            StringBuilder lines = new StringBuilder();
            int n = 1 + random.nextInt(5);
            for (int l = 0; l < n; l++) {
                boolean wrong = random.nextInt(60) == 0;
                // Unique amounts, so that which record of a key comes first does not hang on the order of the slips.
                String amount = random.nextInt(9) == 0 ? "0" : (s * 10 + l) % 97 + "." + String.format("%02d", s % 100);
                lines.append("S%d;%d;A%d-%d;%s\n".formatted(s, s % 7, s, l % 3, wrong ? "x" : amount));
            }
            slips.add(lines.toString());
        }
        return slips;
    }

    private static List<String> outcome(RunFixture f) {
        List<String> all = new ArrayList<>(f.rows("SELECT * FROM slip ORDER BY slip"));
        all.addAll(f.rows("SELECT * FROM large_line ORDER BY slip, article, share"));
        return all;
    }

    @RepeatedTest(3)
    void the_order_of_documents_and_restarts_in_between_change_nothing() throws IOException {
        long seed = System.nanoTime();
        Random random = new Random(seed);
        List<String> slips = slips(random, 120);
        String tag = Long.toHexString(seed & 0xffffff);
        RunFixture whole = fixture("gather_a" + tag);
        RunOutcome one = whole.file(String.join("", slips)).run();
        assertThat(one.state()).as(() -> one.toString()).isEqualTo(RunOutcome.State.FINISHED);
        Collections.shuffle(slips, random);
        RunFixture pieces = fixture("gather_b" + tag);
        assertThat(pieces.file(String.join("", slips)).runInPieces()).isGreaterThan(5);
        assertThat(pieces.last.tally()).as("with the seed %d", seed).isEqualTo(one.tally());
        assertThat(pieces.last.mark().shares()).isEqualTo(one.mark().shares());
        assertThat(outcome(pieces)).as("with the seed %d", seed).isEqualTo(outcome(whole));
        assertThat(one.tally().setAside()).isPositive();
        assertThat(one.tally().rejected()).isPositive();
    }

    /** The lines of all slips mixed: sorted beforehand they give the same, and a restart in between changes nothing. */
    @RepeatedTest(3)
    void rows_that_stand_apart_give_the_same_documents() throws IOException {
        long seed = System.nanoTime();
        Random random = new Random(seed);
        List<String> slips = slips(random, 120);
        String tag = Long.toHexString(seed & 0xffffff);
        RunFixture together = fixture("gather_c" + tag);
        RunOutcome one = together.file(String.join("", slips)).run();
        List<List<String>> lines = new ArrayList<>();
        slips.forEach(s -> lines.add(new ArrayList<>(s.lines().toList())));
        StringBuilder mixed = new StringBuilder();
        while (!lines.isEmpty()) {
            List<String> of = lines.get(random.nextInt(Math.min(20, lines.size())));
            mixed.append(of.remove(0)).append('\n');
            lines.removeIf(List::isEmpty);
        }
        mixed.setLength(mixed.length() - 1);
        RunFixture apart = fixture("gather_d" + tag);
        apart.job =
                Definitions.job(DEFINITION.replace("\"document\":\"slip\"", "\"document\":\"slip\",\"anywhere\":true"));
        assertThat(apart.job.ofDocuments().gather().anywhere()).isTrue();
        assertThat(apart.file(mixed.toString()).runInPieces()).isGreaterThan(5);
        assertThat(apart.last.tally()).as("with the seed %d", seed).isEqualTo(one.tally());
        assertThat(apart.last.mark().shares()).isEqualTo(one.mark().shares());
        assertThat(outcome(apart)).as("with the seed %d", seed).isEqualTo(outcome(together));
        List<String> file = mixed.toString().lines().toList();
        assertThat(apart.journal()).isNotEmpty().allSatisfy(e -> {
            assertThat(e.rejected()).isTrue();
            String raw = new String(e.raw(), Quality.CHARSET).strip();
            assertThat(file.get((int) e.line() - 1)).isEqualTo(raw);
            assertThat(e.record()).isEqualTo(e.line());
        });
    }

    @Test
    void what_a_target_refuses_takes_its_document_and_its_share_of_the_account_along() throws IOException {
        RunFixture f = fixture("gather_refused");
        f.server.execute("gather_refused", "INSERT INTO slip VALUES ('S2', 0, 0)");
        RunOutcome outcome = f.file("S1;1;a;50\nS1;1;b;20\nS2;1;c;70\nS2;1;d;0\nS2;1;e;9\nS3;1;f;1\nS3;1;g;2\n")
                .run();
        assertThat(outcome.state()).isEqualTo(RunOutcome.State.FINISHED);
        assertThat(outcome.tally().rejected()).isEqualTo(3);
        assertThat(outcome.tally().setAside()).isZero();
        assertThat(outcome.mark().shares().setAside()).isEmpty();
        assertThat(outcome.mark().shares().lanes())
                .containsEntry("large", new Shares.Lane(1, 2))
                .containsEntry("small", new Shares.Lane(1, 2));
        assertThat(f.messages()).anyMatch(m -> m.contains("Duplicate entry 'S2'"));
        assertThat(f.rows("SELECT slip FROM large_line ORDER BY article")).containsExactly("S1", "S1");
    }
}
