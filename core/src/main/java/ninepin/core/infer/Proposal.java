package ninepin.core.infer;

import java.util.List;
import ninepin.core.layout.DataType;
import ninepin.core.layout.Layout;

/**
 * A layout proposed from a sample or a description, and what stands behind it.
 *
 * @param layout the layout
 * @param guesses the parts that were decided, each with how sure it is
 * @param fields what was seen of each field, in the order of record types and fields
 * @param alternatives parts of a copybook that are described in several ways, of which one was taken
 */
public record Proposal(Layout layout, List<Guess> guesses, List<FieldProfile> fields, List<Alternative> alternatives) {

    /** A proposal without parts that are described in several ways. */
    public Proposal(Layout layout, List<Guess> guesses, List<FieldProfile> fields) {
        this(layout, guesses, fields, List.of());
    }

    /**
     * A part that is described in several ways.
     *
     * @param part the name of the part
     * @param names the names of its descriptions
     * @param taken the one that was taken
     */
    public record Alternative(String part, List<String> names, String taken) {}

    /** How sure a part of a proposal is. */
    public enum Sureness {
        /** The sample decides it. */
        SURE,
        /** The sample speaks for it. */
        LIKELY,
        /** The sample does not decide it. */
        UNSURE;

        @Override
        public String toString() {
            return name().toLowerCase();
        }
    }

    /**
     * A part of the proposal.
     *
     * @param part what it is about, such as {@code charset}
     * @param choice what is proposed, in words
     * @param sureness how sure it is
     * @param why what it rests on, and what else it could be
     */
    public record Guess(String part, String choice, Sureness sureness, String why) {}

    /**
     * What was seen of a field.
     *
     * @param recordType the name of its record type
     * @param name its name
     * @param type its proposed type, in words
     * @param sureness how sure the type is
     * @param choices the types it may have as well, the proposed one first
     * @param note what else is to be known of it, or null
     * @param values how many values were looked at
     * @param blank how many of them are blank
     * @param distinct how many different values there are, blank ones left out
     * @param smallest the first value in the order of its type
     * @param largest the last one
     * @param misfits values that do not fit the type, the first of them
     * @param likelyKey whether every value stands once
     * @param likelyCodes the values, where they are few and come again and again; else empty
     */
    public record FieldProfile(
            String recordType,
            String name,
            String type,
            Sureness sureness,
            List<DataType> choices,
            String note,
            int values,
            int blank,
            int distinct,
            String smallest,
            String largest,
            List<String> misfits,
            boolean likelyKey,
            List<String> likelyCodes) {}
}
