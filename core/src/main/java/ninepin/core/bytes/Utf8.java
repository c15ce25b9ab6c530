package ninepin.core.bytes;

/** Well-formed UTF-8 after RFC 3629: no overlong forms, no surrogates, nothing above U+10FFFF. */
public final class Utf8 {

    private Utf8() {}

    /** The index of the first byte that is not part of a well-formed sequence, or -1. */
    public static int firstBad(byte[] b, int from, int to) {
        int i = from;
        while (i < to) {
            int lead = b[i];
            if (lead >= 0) {
                i++;
                continue;
            }
            int length = length(lead & 0xff);
            if (length == 0 || i + length > to || !fits(b, i, length)) {
                return i;
            }
            i += length;
        }
        return -1;
    }

    /** Whether a surrogate is written there, which is half a character. */
    public static boolean isHalf(byte[] b, int i, int to) {
        return i + 3 <= to && (b[i] & 0xff) == 0xed && (b[i + 1] & 0xff) > 0x9f;
    }

    private static int length(int lead) {
        if (lead >= 0xc2 && lead <= 0xdf) {
            return 2;
        }
        if (lead >= 0xe0 && lead <= 0xef) {
            return 3;
        }
        return lead >= 0xf0 && lead <= 0xf4 ? 4 : 0;
    }

    private static boolean fits(byte[] b, int i, int length) {
        for (int k = 1; k < length; k++) {
            if ((b[i + k] & 0xc0) != 0x80) {
                return false;
            }
        }
        int lead = b[i] & 0xff;
        int second = b[i + 1] & 0xff;
        return !(lead == 0xe0 && second < 0xa0
                || lead == 0xed && second > 0x9f
                || lead == 0xf0 && second < 0x90
                || lead == 0xf4 && second > 0x8f);
    }

    /**
     * The index behind so many UTF-16 units of well-formed bytes; a character of four bytes has two of them.
     *
     * @param end the byte after the last one that may be looked at
     */
    public static int skip(byte[] b, int from, int end, int units) {
        int at = from;
        int left = units;
        while (left > 0) {
            if (left >= Long.BYTES && at + Long.BYTES <= end && (Words.at(b, at) & Words.HIGH) == 0) {
                at += Long.BYTES;
                left -= Long.BYTES;
                continue;
            }
            int lead = b[at];
            int step = lead >= 0 ? 1 : (lead & 0xe0) == 0xc0 ? 2 : (lead & 0xf0) == 0xe0 ? 3 : 4;
            left -= step == 4 ? 2 : 1;
            at += step;
        }
        return at;
    }

    /** The number of characters of well-formed bytes. */
    public static int count(byte[] b, int from, int to) {
        int count = 0;
        for (int i = from; i < to; i++) {
            if ((b[i] & 0xc0) != 0x80) {
                count++;
            }
        }
        return count;
    }
}
