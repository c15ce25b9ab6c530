package ninepin.core.infer;

import java.util.ArrayList;
import java.util.List;
import ninepin.core.infer.Proposal.FieldProfile;
import ninepin.core.infer.Proposal.Sureness;
import ninepin.core.layout.Field;
import ninepin.core.layout.Layout;
import ninepin.core.layout.RecordType;

/**
 * A field that is proposed, with what was seen of its values.
 *
 * @param field the field with its place and type
 * @param seen what was seen
 * @param note what else is to be known, or null
 */
public record FieldGuess(Field field, TypeGuess seen, String note) {

    public FieldGuess(Field field, TypeGuess seen) {
        this(field, seen, seen.note());
    }

    /** A field that a description states, of which no value was seen. */
    public static FieldGuess stated(Field field, Sureness sureness, String note) {
        return new FieldGuess(field, TypeGuess.unseen(field.type(), sureness), note);
    }

    public FieldProfile profile(String recordType) {
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

    /** A layout with types whose fields are known, and the profiles of the fields. */
    public static Proposal proposal(Layout layout, List<Proposal.Guess> guesses, List<List<FieldGuess>> fieldsOfTypes) {
        List<RecordType> types = new ArrayList<>();
        List<Proposal.FieldProfile> profiles = new ArrayList<>();
        for (int t = 0; t < layout.recordTypes().size(); t++) {
            RecordType type = layout.recordTypes().get(t);
            types.add(type.withFields(
                    fieldsOfTypes.get(t).stream().map(FieldGuess::field).toList()));
            fieldsOfTypes.get(t).forEach(f -> profiles.add(f.profile(type.name())));
        }
        return new Proposal(layout.withTypes(types), guesses, profiles);
    }
}
