package ninepin.core.layout;

import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;

/**
 * The encodings a delimited file may have. All of them write the ASCII characters as single bytes, which is what lets
 * the reader look for delimiters and line ends among bytes.
 */
public enum FileCharset {
    /** UTF-8; a byte order mark at the start is passed over. */
    UTF_8("UTF-8", StandardCharsets.UTF_8),
    ISO_8859_1("ISO-8859-1", StandardCharsets.ISO_8859_1),
    WINDOWS_1252("windows-1252", Charset.forName("windows-1252"));

    private final String label;
    private final Charset charset;

    FileCharset(String label, Charset charset) {
        this.label = label;
        this.charset = charset;
    }

    /** The IANA name. */
    public String label() {
        return label;
    }

    public Charset charset() {
        return charset;
    }

    @Override
    public String toString() {
        return label;
    }

    int bytesOf(char c) {
        if (!charset.newEncoder().canEncode(c)) {
            return -1;
        }
        return String.valueOf(c).getBytes(charset).length;
    }
}
