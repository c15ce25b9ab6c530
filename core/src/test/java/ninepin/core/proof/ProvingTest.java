package ninepin.core.proof;

import static org.assertj.core.api.Assertions.assertThat;

import com.networknt.schema.InputFormat;
import com.networknt.schema.JsonSchemaFactory;
import com.networknt.schema.SpecVersion;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDateTime;
import java.util.List;
import java.util.Map;
import ninepin.core.job.Definitions;
import ninepin.core.job.Job;
import ninepin.core.layout.Layout;
import ninepin.core.shape.RunFacts;
import ninepin.core.shape.ShapingContext;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** A proof is green as long as the job makes the same, whatever the day, and red with exactly what differs. */
class ProvingTest {

    private static final String LAYOUT =
            """
            {"name":"milk","format":{"kind":"delimited","delimiter":";","header":false},"recordTypes":[{"name":"milk","fields":[
             {"name":"farm","column":1,"type":{"is":"integer"},"checks":[{"rule":"range","max":"214","severity":"reject"}]},
             {"name":"litres","column":2,"type":{"is":"decimal","precision":9,"scale":1},"checks":[{"rule":"range","max":"900","severity":"note"}]}]}]}
            """;

    private static final String JOB =
            """
            {"name":"milk","layout":"milk","deliveries":[
             {"to":{"connection":"w","table":"milk"},"shaping":[
              {"target":"farm","take":{"from":"field","field":"farm"}},
              {"target":"litres","take":{"from":"formula","formula":"litres * 2"}},
              {"target":"on_day","take":{"from":"run","fact":"today"}},
              {"target":"no","take":{"from":"sequence","sequence":"no"}}]},
             {"summary":{"totals":[{"name":"all","take":"sum","of":"litres"}]},"to":{"kind":"file","file":{"root":"r","name":"x"}},"shaping":[
              {"target":"all","take":{"from":"field","field":"all"}}]}]}
            """;

    private static final String SAMPLE = "1;10.5\n2;950\n300;1\n3;7\n";

    @TempDir
    Path folder;

    private Proof.Made made(String job, String layout, Proof proof) throws Exception {
        Path sample = folder.resolve("sample.txt");
        Files.write(sample, SAMPLE.getBytes(StandardCharsets.UTF_8));
        RunFacts facts = proof.facts("test", Map.of());
        Job read = Definitions.job(job);
        Layout of = Definitions.layout(layout);
        return new Proving(read, of).made(sample, ShapingContext.of(facts));
    }

    private Proof proof() throws Exception {
        Proof.Made nothing = new Proof.Made("", 0, 0, 0, List.of(), List.of());
        Proof empty =
                new Proof("first", "sample.txt", "milk.txt", LocalDateTime.of(2026, 3, 1, 6, 0), Map.of(), nothing);
        return empty.expecting(made(JOB, LAYOUT, empty));
    }

    @Test
    void it_is_green_while_nothing_differs_and_reads_back_as_it_was_written() throws Exception {
        Proof proof = Definitions.read(Definitions.write(proof()), Proof.class);
        assertThat(proof).isEqualTo(proof());
        String schema = Files.readString(Path.of("../docs/schema/proof.schema.json"));
        assertThat(JsonSchemaFactory.getInstance(SpecVersion.VersionFlag.V202012)
                        .getSchema(schema)
                        .validate(Definitions.write(proof), InputFormat.JSON))
                .isEmpty();
        assertThat(proof.expected().read()).isEqualTo(4);
        assertThat(proof.expected().rejected()).isEqualTo(1);
        assertThat(proof.expected().rows())
                .extracting(r -> r.document() + " " + r.to() + " " + r.values())
                .containsExactly(
                        "1 milk {farm=1, litres=21.0, on_day=2026-03-01, no=1}",
                        "2 milk {farm=2, litres=1900.0, on_day=2026-03-01, no=2}",
                        "4 milk {farm=3, litres=14.0, on_day=2026-03-01, no=3}",
                        "-1 x {all=967.5}");
        assertThat(proof.expected().findings()).extracting(Proof.Found::code).containsExactly("RNG-01", "RNG-01");
        assertThat(Comparison.of(proof.expected(), made(JOB, LAYOUT, proof))).isEmpty();
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '`',
            value = {
                "litres * 2 | litres * 3 | 3 | record 1 → milk.litres: expected \"21.0\", got \"31.5\"",
                "\"farm\",\"take\":{\"from\":\"field\",\"field\":\"farm\"} | \"barn\",\"take\":{\"from\":\"field\",\"field\":\"farm\"} | 6 | record 1 → milk.farm: expected \"1\", got nothing",
                "max\":\"214 | max\":\"300 | 5 | records rejected: expected 1, got 0",
                "max\":\"900 | max\":\"990 | 1 | finding about record 2: expected line 2 · litres (columns 3–5): found \"950\"",
                "max\":\"900\",\"severity\":\"note | max\":\"900\",\"severity\":\"halt | 8 | how it ended: expected finished, got halted: line 2"
            })
    void what_differs_is_said_exactly(String from, String to, int differences, String first) throws Exception {
        Proof proof = proof();
        List<Comparison.Difference> found =
                Comparison.of(proof.expected(), made(JOB.replace(from, to), LAYOUT.replace(from, to), proof));
        assertThat(found).as("%s", found).hasSize(differences);
        assertThat(found.get(0).words()).startsWith(first);
    }
}
