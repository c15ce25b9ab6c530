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
 * @param made the rows of the document under way
 */
public record ShapingContext(
        RunFacts facts, CodeTables codes, LookUpTables lookUps, Sequences sequences, RowsMade made) {

    /** Before any document. */
    public ShapingContext(RunFacts facts, CodeTables codes, LookUpTables lookUps, Sequences sequences) {
        this(facts, codes, lookUps, sequences, new RowsMade());
    }

    /** Facts alone, with sequences that begin anew. */
    public static ShapingContext of(RunFacts facts) {
        return new ShapingContext(facts, CodeTables.NONE, LookUpTables.NONE, Sequences.anew());
    }

    /** The same with other facts. */
    public ShapingContext with(RunFacts others) {
        return new ShapingContext(others, codes, lookUps, sequences, made);
    }

    /** The same with other look-ups. */
    public ShapingContext with(LookUpTables others) {
        return new ShapingContext(facts, codes, others, sequences, made);
    }

    /** The same with other sequences. */
    public ShapingContext with(Sequences others) {
        return new ShapingContext(facts, codes, lookUps, others, made);
    }

    /** The same for documents whose rows another keeps account of. */
    public ShapingContext with(RowsMade others) {
        return new ShapingContext(facts, codes, lookUps, sequences, others);
    }

    /** What formulas can name. */
    public Surroundings surroundings() {
        return new Surroundings(facts.hosts(), facts.today(), codes, lookUps);
    }
}
