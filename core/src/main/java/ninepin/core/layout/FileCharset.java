package ninepin.core.layout;

import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;

/** The encodings a file may have. */
public enum FileCharset {
    /** UTF-8; a byte order mark at the start is passed over. */
    UTF_8("UTF-8", StandardCharsets.UTF_8, true, false),
    ISO_8859_1("ISO-8859-1", StandardCharsets.ISO_8859_1, true, true),
    WINDOWS_1252("windows-1252", Charset.forName("windows-1252"), true, true),
    /** UTF-16 with a byte order mark, which says the order of its bytes. */
    UTF_16("UTF-16", StandardCharsets.UTF_16, false, false),
    /** EBCDIC of the United States. */
    IBM_037("IBM037", Charset.forName("IBM037"), false, true),
    /** International EBCDIC. */
    IBM_500("IBM500", Charset.forName("IBM500"), false, true),
    /** EBCDIC of open systems. */
    IBM_1047("IBM1047", Charset.forName("IBM1047"), false, true);

    private final String label;
    private final Charset charset;
    private final boolean ascii;
    private final boolean singleByte;

    FileCharset(String label, Charset charset, boolean ascii, boolean singleByte) {
        this.label = label;
        this.charset = charset;
        this.ascii = ascii;
        this.singleByte = singleByte;
    }

    /** The IANA name. */
    public String label() {
        return label;
    }

    public Charset charset() {
        return charset;
    }

    /**
     * Whether the ASCII characters are single bytes that occur in no other character, which is what lets readers look
     * for delimiters and digits among bytes.
     */
    public boolean ascii() {
        return ascii;
    }

    /** Whether every character is one byte. */
    public boolean singleByte() {
        return singleByte;
    }

    /** The charset in which readers hold what they read: UTF-8 for UTF-16, else the file's own. */
    public FileCharset held() {
        return this == UTF_16 ? UTF_8 : this;
    }

    /** The charset in which values of a file are parsed and handed on: its own, or UTF-8 where it is not like ASCII. */
    public FileCharset ofValues() {
        return ascii ? this : UTF_8;
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
