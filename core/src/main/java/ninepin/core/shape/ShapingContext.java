package ninepin.core.shape;

import ninepin.core.codes.CodeTables;
import ninepin.core.formula.Surroundings;

/**
 * What rules can take beside the records.
 *
 * @param facts what the run knows about itself
 * @param codes the code lists
 * @param sequences the sequences that numbers are drawn from
 */
public record ShapingContext(RunFacts facts, CodeTables codes, Sequences sequences) {

    /** Facts alone, with sequences that begin anew. */
    public static ShapingContext of(RunFacts facts) {
        return new ShapingContext(facts, CodeTables.NONE, Sequences.anew());
    }

    /** What formulas can name. */
    public Surroundings surroundings() {
        return new Surroundings(facts.hosts(), facts.today(), codes);
    }
}
