package ninepin.core.format.json;

import java.nio.charset.StandardCharsets;
import ninepin.core.bytes.Bytes;
import ninepin.core.bytes.Words;

/** The name of a member with its quotes, as it stands in most files: compared eight bytes at a time, without looking for its end. */
final class QuotedName {

    private final byte[] bytes;
    private final long start;
    private final long mask;

    /**
     * @param name the name in UTF-8
     */
    QuotedName(byte[] name) {
        byte[] quote = "\"".getBytes(StandardCharsets.US_ASCII);
        this.bytes = Bytes.joined(quote, name, quote);
        int first = Math.min(Long.BYTES, bytes.length);
        this.mask = -1L >>> (Long.BYTES - first << 3);
        this.start = Words.upToEight(bytes, 0, first);
    }

    int length() {
        return bytes.length;
    }

    /** Whether it stands at a place; eight bytes from there on must be held, and all of it. */
    boolean isAt(byte[] held, int at) {
        if ((Words.at(held, at) & mask) != start) {
            return false;
        }
        for (int i = Long.BYTES; i < bytes.length; i++) {
            if (held[at + i] != bytes[i]) {
                return false;
            }
        }
        return true;
    }
}
