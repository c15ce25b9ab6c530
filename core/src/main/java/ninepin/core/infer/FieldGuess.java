package ninepin.core.infer;

import ninepin.core.infer.Proposal.FieldProfile;
import ninepin.core.layout.Field;

/**
 * A field that is proposed, with what was seen of its values.
 *
 * @param field the field with its place and type
 * @param seen what was seen
 */
record FieldGuess(Field field, TypeGuess seen) {

    FieldProfile profile(String recordType) {
        String pattern = TypeGuess.pattern(field.type());
        return new FieldProfile(
                recordType,
                field.name(),
                field.type().label() + (pattern == null ? "" : " " + pattern),
                seen.sureness(),
                seen.alternatives(),
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
