package ninepin.core.shape;

import ninepin.core.codes.CodeTables;
import ninepin.core.formula.Surroundings;
import ninepin.core.lookup.LookUpTables;

/**
 * What rules can take beside the records.
 *
 * @param facts what the run knows about itself
 * @param codes the code lists
 * @param lookUps the look-ups with what they look into
 * @param sequences the sequences that numbers are drawn from
 */
public record ShapingContext(RunFacts facts, CodeTables codes, LookUpTables lookUps, Sequences sequences) {

    /** Facts alone, with sequences that begin anew. */
    public static ShapingContext of(RunFacts facts) {
        return new ShapingContext(facts, CodeTables.NONE, LookUpTables.NONE, Sequences.anew());
    }

    /** The same with other facts. */
    public ShapingContext with(RunFacts others) {
        return new ShapingContext(others, codes, lookUps, sequences);
    }

    /** The same with other look-ups. */
    public ShapingContext with(LookUpTables others) {
        return new ShapingContext(facts, codes, others, sequences);
    }

    /** The same with other sequences. */
    public ShapingContext with(Sequences others) {
        return new ShapingContext(facts, codes, lookUps, others);
    }

    /** What formulas can name. */
    public Surroundings surroundings() {
        return new Surroundings(facts.hosts(), facts.today(), codes, lookUps);
    }
}
