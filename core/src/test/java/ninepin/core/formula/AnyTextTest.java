package ninepin.core.formula;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.time.LocalDate;
import java.util.Map;
import java.util.Random;
import ninepin.core.bytes.MemorySource;
import ninepin.core.check.RecordChecker;
import ninepin.core.format.Formats;
import ninepin.core.record.Opening;
import ninepin.core.record.RecordReader;
import ninepin.core.testing.SpoiltBytes;
import org.junit.jupiter.api.Test;

/** Whatever is typed where a formula is expected: one that has a value for a record or none, or a refusal at its place. */
class AnyTextTest {

    private static final int TRIES = Integer.getInteger("ninepin.texts", 20_000);

    @Test
    void a_text_is_a_formula_or_is_refused_at_its_place() throws Exception {
        String[] rows = {
            "7;-3;12.50;0.125;Tarn End;'x';1;2026-11-23;2024-02-29;2026-11-23 04:17:00", "0;;;;;;;;;",
        };
        RecordContext[] records = new RecordContext[rows.length];
        for (int i = 0; i < rows.length; i++) {
            MemorySource source = new MemorySource((rows[i] + "\n").getBytes(StandardCharsets.UTF_8));
            Opening opening = Formats.open(source, RefereeTest.LAYOUT);
            RecordChecker checker = new RecordChecker(RefereeTest.LAYOUT, opening, LocalDate.EPOCH);
            RecordReader reader = opening.reader(source, opening.body());
            assertThat(reader.next()).isEqualTo(RecordReader.Item.RECORD);
            checker.check(reader.record());
            records[i] = new RecordContext(checker.values());
        }
        FormulaScope scope = new FormulaScope(RefereeTest.LAYOUT, 0, Map.of("plant", "LK"), LocalDate.of(2026, 11, 23));
        long first = new Random().nextLong(1_000_000_000);
        int whole = 0;
        for (int i = 0; i < TRIES; i++) {
            Random random = new Random(first + i);
            String good = new RandomFormula(random).any(1 + random.nextInt(4)).ours();
            byte[] bytes = random.nextInt(4) == 0
                    ? good.getBytes(StandardCharsets.UTF_8)
                    : SpoiltBytes.of(good.getBytes(StandardCharsets.UTF_8), random);
            String text = new String(bytes, StandardCharsets.UTF_8);
            try {
                Formula formula = Formula.of(text, scope);
                whole++;
                for (RecordContext record : records) {
                    value(formula, record);
                }
            } catch (FormulaException e) {
                assertThat(e.getMessage()).isNotBlank();
                assertThat(e.from()).as(text).isBetween(0, text.length());
                assertThat(e.to()).as(text).isBetween(e.from(), text.length());
            } catch (RuntimeException | StackOverflowError e) {
                throw new AssertionError("with the seed " + (first + i) + ": " + text, e);
            }
        }
        assertThat(whole).isGreaterThan(TRIES / 5);
    }

    private static void value(Formula formula, RecordContext record) {
        try {
            formula.eval(record);
        } catch (EvaluationException e) {
            assertThat(e.code()).startsWith("FML-");
            assertThat(e.getMessage()).isNotBlank();
        }
    }

    @Test
    void what_is_nested_too_deeply_is_refused_and_not_the_end_of_the_thread() {
        FormulaScope scope = new FormulaScope(RefereeTest.LAYOUT, 0, Map.of(), LocalDate.EPOCH);
        for (String open : new String[] {"(", "NOT ", "- ", "UPPER(", "CASE WHEN b THEN ", "n + (", "n * -"}) {
            String deep = open.repeat(4_000 / open.length()) + "n";
            try {
                Formula.of(deep, scope);
            } catch (FormulaException e) {
                assertThat(e.getMessage()).as(open).isNotBlank();
            }
        }
    }
}
