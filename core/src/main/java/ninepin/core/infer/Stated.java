package ninepin.core.infer;

import java.util.List;
import ninepin.core.infer.Proposal.Sureness;
import ninepin.core.layout.Field;
import ninepin.core.layout.Layout;

/**
 * A field that a description states: a schema, a copybook. No value of it was seen.
 *
 * @param field the field
 * @param sureness how sure its type is
 * @param note what else is to be known of it, or null
 */
public record Stated(Field field, Sureness sureness, String note) {

    /** A proposal of stated fields, in the order of the layout's record types. */
    public static Proposal proposal(
            Layout layout,
            List<Proposal.Guess> guesses,
            List<List<Stated>> fields,
            List<Proposal.Alternative> alternatives) {
        Proposal plain = FieldGuess.proposal(
                layout,
                guesses,
                fields.stream()
                        .map(of -> of.stream()
                                .map(s -> FieldGuess.stated(s.field, s.sureness, s.note))
                                .toList())
                        .toList());
        return new Proposal(plain.layout(), plain.guesses(), plain.fields(), alternatives);
    }
}
