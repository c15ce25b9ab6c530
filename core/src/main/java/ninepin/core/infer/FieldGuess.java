package ninepin.core.infer;

import ninepin.core.infer.Proposal.FieldProfile;
import ninepin.core.infer.Proposal.Sureness;
import ninepin.core.layout.Field;

/**
 * A field that is proposed, with what was seen of its values.
 *
 * @param field the field with its place and type
 * @param seen what was seen
 * @param note what else is to be known, or null
 */
record FieldGuess(Field field, TypeGuess seen, String note) {

    FieldGuess(Field field, TypeGuess seen) {
        this(field, seen, seen.note());
    }

    /** A field that a description states, of which no value was seen. */
    static FieldGuess stated(Field field, Sureness sureness, String note) {
        return new FieldGuess(field, TypeGuess.unseen(field.type(), sureness), note);
    }

    FieldProfile profile(String recordType) {
        String pattern = TypeGuess.pattern(field.type());
        return new FieldProfile(
                recordType,
                field.name(),
                field.type().label() + (pattern == null ? "" : " " + pattern),
                seen.sureness(),
                seen.choices(field.type()),
                note,
                seen.values(),
                seen.blank(),
                seen.distinct(),
                seen.smallest(),
                seen.largest(),
                seen.misfits(),
                seen.likelyKey(),
                seen.likelyCodes());
    }
}
