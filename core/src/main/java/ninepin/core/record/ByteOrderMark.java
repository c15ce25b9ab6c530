package ninepin.core.record;

import ninepin.core.layout.FileCharset;

/** Byte order marks at the start of a file (The Unicode Standard, 23.8). */
public final class ByteOrderMark {

    private ByteOrderMark() {}

    public static boolean isUtf8(byte[] b) {
        return b.length >= 3 && b[0] == (byte) 0xef && b[1] == (byte) 0xbb && b[2] == (byte) 0xbf;
    }

    public static boolean isUtf16(byte[] b) {
        return b.length >= 2
                && (b[0] == (byte) 0xff && b[1] == (byte) 0xfe || b[0] == (byte) 0xfe && b[1] == (byte) 0xff);
    }

    /** What there is to say of a file in UTF-16 that does not begin with its mark. */
    public static Fault missing() {
        return new Fault(
                "CHR-04",
                -1,
                0,
                0,
                "no byte order mark",
                "the mark of UTF-16 as the first two bytes",
                "Without it nobody knows which byte of a character comes first; or choose another charset.");
    }

    /** What there is to say of a mark that belongs to another charset, or null. */
    public static Fault wrong(byte[] b, FileCharset charset) {
        String found = null;
        if (isUtf16(b) && charset != FileCharset.UTF_16) {
            found = "UTF-16";
        } else if (isUtf8(b) && charset != FileCharset.UTF_8) {
            found = "UTF-8";
        }
        if (found == null) {
            return null;
        }
        return new Fault(
                "CHR-03",
                -1,
                0,
                0,
                "the byte order mark of " + found,
                "text in " + charset.label(),
                "Choose the charset " + found + " in the layout, or have the file sent in " + charset.label() + ".");
    }
}
