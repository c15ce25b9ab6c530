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
    // The EBCDIC code pages in which every character is one byte; digits and the letters A to Z are the same in all.
    /** EBCDIC: the United States, Canada, the Netherlands, Portugal, Brazil. */
    IBM_037("IBM037"),
    /** EBCDIC: Germany, Austria. */
    IBM_273("IBM273"),
    /** EBCDIC: Denmark, Norway. */
    IBM_277("IBM277"),
    /** EBCDIC: Finland, Sweden. */
    IBM_278("IBM278"),
    /** EBCDIC: Italy. */
    IBM_280("IBM280"),
    /** EBCDIC: Spain, Latin America. */
    IBM_284("IBM284"),
    /** EBCDIC: the United Kingdom, Ireland. */
    IBM_285("IBM285"),
    /** EBCDIC: Japan, katakana. */
    IBM_290("IBM290"),
    /** EBCDIC: France. */
    IBM_297("IBM297"),
    /** EBCDIC: Arabic. */
    IBM_420("IBM420"),
    /** EBCDIC: Hebrew. */
    IBM_424("IBM424"),
    /** EBCDIC: international. */
    IBM_500("IBM500"),
    /** EBCDIC: central Europe. */
    IBM_870("IBM870"),
    /** EBCDIC: Iceland. */
    IBM_871("IBM871"),
    /** EBCDIC: Urdu. */
    IBM_918("IBM918"),
    /** EBCDIC: Turkey. */
    IBM_1026("IBM1026"),
    /** EBCDIC: open systems. */
    IBM_1047("IBM1047"),
    /** EBCDIC: as IBM037, with the euro. */
    IBM_1140("IBM01140"),
    /** EBCDIC: as IBM273, with the euro. */
    IBM_1141("IBM01141"),
    /** EBCDIC: as IBM277, with the euro. */
    IBM_1142("IBM01142"),
    /** EBCDIC: as IBM278, with the euro. */
    IBM_1143("IBM01143"),
    /** EBCDIC: as IBM280, with the euro. */
    IBM_1144("IBM01144"),
    /** EBCDIC: as IBM284, with the euro. */
    IBM_1145("IBM01145"),
    /** EBCDIC: as IBM285, with the euro. */
    IBM_1146("IBM01146"),
    /** EBCDIC: as IBM297, with the euro. */
    IBM_1147("IBM01147"),
    /** EBCDIC: as IBM500, with the euro. */
    IBM_1148("IBM01148"),
    /** EBCDIC: as IBM871, with the euro. */
    IBM_1149("IBM01149"),
    /** EBCDIC: Thai. */
    IBM_THAI("IBM-Thai"),
    /** EBCDIC: Korea. */
    IBM_833("x-IBM833"),
    /** EBCDIC: Greece. */
    IBM_875("x-IBM875"),
    /** EBCDIC: Cyrillic. */
    IBM_1025("x-IBM1025"),
    /** EBCDIC: Persian. */
    IBM_1097("x-IBM1097"),
    /** EBCDIC: Latvia, Lithuania. */
    IBM_1112("x-IBM1112"),
    /** EBCDIC: Estonia. */
    IBM_1122("x-IBM1122"),
    /** EBCDIC: Ukraine. */
    IBM_1123("x-IBM1123"),
    /** EBCDIC: Kazakhstan. */
    IBM_1166("x-IBM1166"),
    // The mixed EBCDIC code pages: single bytes, and characters of two bytes between a shift out and a shift in.
    /** EBCDIC: Japan, katakana and kanji. */
    IBM_930("x-IBM930", false),
    /** EBCDIC: Korea, hangul. */
    IBM_933("x-IBM933", false),
    /** EBCDIC: China, simplified. */
    IBM_935("x-IBM935", false),
    /** EBCDIC: Taiwan, traditional. */
    IBM_937("x-IBM937", false),
    /** EBCDIC: Japan, Latin and kanji. */
    IBM_939("x-IBM939", false),
    /** EBCDIC: Korea, hangul, the full set. */
    IBM_1364("x-IBM1364", false);

    private final String label;
    private final Charset charset;
    private final boolean ascii;
    private final boolean singleByte;

    /** A code page of EBCDIC in which every character is one byte. */
    FileCharset(String label) {
        this(label, true);
    }

    /** A code page of EBCDIC. */
    FileCharset(String label, boolean singleByte) {
        this(label, Charset.forName(label), false, singleByte);
    }

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

    /** Whether a character is one byte or two, told apart by shift characters between them. */
    public boolean shifts() {
        return !ascii && !singleByte && this != UTF_16;
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
