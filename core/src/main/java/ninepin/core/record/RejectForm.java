package ninepin.core.record;

import java.io.IOException;
import java.util.Arrays;
import ninepin.core.bytes.ByteSource;

/** How rejects are written with the reasons for them, in the format they came in, and how a correction is put into a record. */
public interface RejectForm {

    /**
     * What stands before the first reject.
     *
     * @param original the file they came in, or null where it is gone
     */
    default byte[] begin(ByteSource original) throws IOException {
        return new byte[0];
    }

    /**
     * A reject with its reason.
     *
     * @param reason one line of text without control characters
     * @param record its bytes as they are kept
     */
    byte[] record(String reason, byte[] record);

    /** What stands behind the last reject. */
    default byte[] end() {
        return new byte[0];
    }

    /**
     * A record of a file that comes back, without the reason where it still has it.
     *
     * @param record its bytes as they are kept
     */
    default byte[] withoutReason(byte[] record) {
        return record;
    }

    /** Whether two records, as they are kept, say the same: one that went through another program may be written otherwise. */
    default boolean isSame(byte[] one, byte[] other) {
        return Arrays.equals(one, other);
    }

    /** Whether a file that comes back has the reasons in it still, in a column of their own. */
    default boolean startsWithReason(byte[] file) {
        return false;
    }

    /**
     * A value as it stands in place of another.
     *
     * @param before what stands there, as it is written
     * @param after what shall stand there
     * @throws DoesNotFit where it has no room
     */
    default String fitted(String before, String after) throws DoesNotFit {
        return after;
    }

    /**
     * The same, with what has to stand around it in the text of its record.
     *
     * @param record the text of the record
     * @param from where the value starts in it
     */
    default String placed(String record, int from, String value) {
        return value;
    }

    /** A value is longer than its field. */
    final class DoesNotFit extends Exception {
        private static final long serialVersionUID = 1;

        private final int width;

        public DoesNotFit(int width) {
            super("has " + width + " characters");
            this.width = width;
        }

        /** The characters that the field has. */
        public int width() {
            return width;
        }
    }
}
