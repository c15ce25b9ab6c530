package ninepin.core.format.json;

import ninepin.core.layout.Shown;
import ninepin.core.record.Fault;
import ninepin.core.record.RecordReader;

/** What there is to say where a file is no JSON, or more than can be read. */
final class JsonFaults {

    /** The deepest that values may stand in each other. */
    static final int MOST_DEPTH = 200;

    private JsonFaults() {}

    static Fault empty() {
        return new Fault(
                "FIL-01", -1, 0, 0, "an empty file (0 bytes)", "a JSON value", "Ask the sender for the file again.");
    }

    /**
     * Something else stands where JSON wants one of some things.
     *
     * @param at the byte of the record at which it stands
     * @param found the bytes that stand there; empty at the end of the file
     */
    static Fault malformed(int at, String found, String expected) {
        return new Fault(
                "JSN-01",
                Fault.NO_FIELD,
                at,
                at + 1,
                found.isEmpty() ? "the end" : Shown.quoted(found),
                expected,
                "It is no JSON from there on. Ask the sender for a whole file.");
    }

    static Fault notUtf8(int at) {
        return new Fault(
                "JSN-02",
                Fault.NO_FIELD,
                at,
                at + 1,
                "bytes that are no UTF-8",
                "UTF-8, which all JSON is written in",
                "Ask the sender to write the file in UTF-8.");
    }

    static Fault tooDeep(int at) {
        return new Fault(
                "JSN-03",
                Fault.NO_FIELD,
                at,
                at + 1,
                "values more than " + MOST_DEPTH + " deep in each other",
                "at most " + MOST_DEPTH,
                null);
    }

    static Fault tooLong(int most) {
        return new Fault(
                "JSN-04",
                -1,
                0,
                Math.min(200, RecordReader.MAX_RECORD_BYTES),
                "a record of more than " + (most >> 20) + " MiB",
                "at most so much",
                "A record type further inside takes its parts one by one.");
    }

    static Fault blankLine() {
        return new Fault(
                "ROW-03",
                -1,
                0,
                0,
                "a blank line",
                "a record",
                "The layout says that blank rows are rejects; it can pass over them.");
    }

    /**
     * Another kind of value stands where the layout leads into an object or an array.
     *
     * @param at the byte of the record at which it stands
     * @param kind its first byte
     */
    static Fault otherKind(int at, int kind, boolean object) {
        String found =
                switch (kind) {
                    case '{' -> "an object";
                    case '[' -> "an array";
                    case '"' -> "a text";
                    case 'n' -> "null";
                    case 't', 'f' -> "true or false";
                    default -> "a number";
                };
        return new Fault(
                "JSN-06",
                Fault.NO_FIELD,
                at,
                at + 1,
                found,
                object ? "an object" : "an array",
                "Its layout describes what should stand in there.");
    }

    static Fault twice(int field, int from, int to) {
        return new Fault(
                "JSN-05",
                field,
                from,
                to,
                "the same name twice in one object",
                "each name once",
                "Nobody can tell which of the values is meant. Ask the sender to write it once.");
    }
}
