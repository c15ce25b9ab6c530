package ninepin.core.wording;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Random;
import ninepin.core.codes.CodeList;
import ninepin.core.codes.CodeTables;
import ninepin.core.job.Definitions;
import ninepin.core.job.Job;
import ninepin.core.layout.Layout;
import ninepin.core.lookup.LookUpTables;
import ninepin.core.shape.RunFacts;
import ninepin.core.shape.Sequences;
import ninepin.core.shape.Shaper;
import ninepin.core.shape.ShapingContext;
import ninepin.core.testing.SpoiltBytes;
import org.junit.jupiter.api.Test;

class WordingTest {

    private static final Layout LAYOUT = Definitions.layout(
            """
            {"name":"milk","format":{"kind":"delimited","delimiter":";","header":false},"recordTypes":[{"name":"stop","fields":[
             {"name":"route","column":1,"type":{"is":"text","length":4}},{"name":"tanker","column":2,"type":{"is":"text","length":8}},
             {"name":"driver","column":3,"type":{"is":"text","length":20}},{"name":"CollectedOn","column":4,"type":{"is":"date","pattern":"yyyy-MM-dd"}},
             {"name":"litres","column":5,"type":{"is":"integer"}},{"name":"amount","column":6,"type":{"is":"decimal","precision":9,"scale":2}},
             {"name":"sample","column":7,"type":{"is":"text","length":12}},{"name":"Farm_No","column":8,"type":{"is":"integer"}}]}]}
            """);
    private static final Job JOB = Definitions.job(
            """
            {"name":"milk","layout":"milk","deliveries":[{"shaping":[{"target":"debit","take":{"from":"field","field":"amount"}}]}]}
            """);
    private static final List<String> TARGETS = List.of(
            "crew",
            "route",
            "collected_on",
            "debit",
            "credit",
            "driver",
            "farm",
            "litres",
            "bottle",
            "rack",
            "valley",
            "voucher",
            "loaded_at",
            "loaded_on",
            "unit");
    private static final ShapingContext CONTEXT = new ShapingContext(
            new RunFacts(0, "x", LocalDate.of(2026, 11, 23), Map.of()),
            CodeTables.of(List.of(new CodeList("routes", null, null, null, null, null, null))),
            LookUpTables.NONE,
            Sequences.anew());

    /** Every instruction of {@code instructions.txt}; what is understood can be followed. */
    @Test
    void instructions_become_the_rules_they_stand_for() throws IOException {
        List<String> expected;
        try (InputStream in = WordingTest.class.getResourceAsStream("instructions.txt")) {
            expected = new String(in.readAllBytes(), StandardCharsets.UTF_8)
                    .lines()
                    .skip(1)
                    .toList();
        }
        List<String> is = new ArrayList<>();
        for (String line : expected) {
            if (line.startsWith("  ")) {
                continue;
            }
            is.add(line);
            Wording.Understood u =
                    Wording.of(line, JOB, LAYOUT, 0, TARGETS, CONTEXT).get(0);
            u.sentences().forEach(s -> is.add("  " + s));
            if (u.problem() != null) {
                is.add("  ! " + u.problem() + " | " + u.nearest());
            }
            new Shaper(LAYOUT, 0, u.rules(), CONTEXT);
            if (u.delivery() != null) {
                Layout groups = u.delivery().summary().layout(LAYOUT, 0, CONTEXT);
                new Shaper(groups, 0, u.delivery().shaping(), CONTEXT);
            }
        }
        assertThat(is).containsExactlyElementsOf(expected);
    }

    @Test
    void several_lines_go_on_from_each_other() {
        List<Wording.Understood> all =
                Wording.of("trim driver\n\nput driver in lower case\nwrong", JOB, LAYOUT, 0, TARGETS, CONTEXT);
        assertThat(all).hasSize(3);
        assertThat(all.get(1).sentences()).containsExactly("driver is the field driver, trimmed, in lower case");
        assertThat(all.get(2).nearest()).isNotNull();
        assertThat(Wording.of("x".repeat(5000), JOB, LAYOUT, 0, TARGETS, CONTEXT)
                        .get(0)
                        .problem())
                .contains("too long");
    }

    /** Words that fell out, came twice or changed places, and anything else that is typed. */
    @Test
    void whatever_is_typed_is_understood_or_not_and_nothing_else() throws IOException {
        List<String> good;
        try (InputStream in = WordingTest.class.getResourceAsStream("instructions.txt")) {
            good = new String(in.readAllBytes(), StandardCharsets.UTF_8)
                    .lines()
                    .skip(1)
                    .filter(l -> !l.startsWith("  "))
                    .toList();
        }
        long first = new Random().nextLong(1_000_000_000);
        for (int i = 0; i < 3_000; i++) {
            Random random = new Random(first + i);
            List<String> words = new ArrayList<>(
                    List.of(good.get(random.nextInt(good.size())).split(" ")));
            for (int n = random.nextInt(3); n >= 0; n--) {
                int at = random.nextInt(words.size());
                switch (random.nextInt(4)) {
                    case 0 -> words.add(at, words.get(random.nextInt(words.size())));
                    case 1 -> words.set(at, good.get(random.nextInt(good.size())));
                    case 2 ->
                        words.set(at, new String(SpoiltBytes.of(words.get(at).getBytes(), random)));
                    default -> Collections.swap(words, at, random.nextInt(words.size()));
                }
            }
            String text = String.join(" ", words);
            try {
                for (Wording.Understood u : Wording.of(text, JOB, LAYOUT, 0, TARGETS, CONTEXT)) {
                    assertThat(u.problem() == null || !u.problem().isBlank()).isTrue();
                    new Shaper(LAYOUT, 0, u.rules(), CONTEXT);
                }
            } catch (RuntimeException e) {
                throw new AssertionError("with the seed " + (first + i) + ": " + text, e);
            }
        }
    }
}
