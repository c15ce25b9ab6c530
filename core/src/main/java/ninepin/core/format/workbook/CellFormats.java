package ninepin.core.format.workbook;

import java.io.IOException;
import java.util.Arrays;
import java.util.HashMap;
import java.util.Map;
import java.util.regex.Pattern;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;

/** What the number formats of a workbook make of a number (ISO/IEC 29500-1, 18.8.30 and 18.8.31). */
final class CellFormats {

    /** What a number in a cell means. */
    enum Meaning {
        NUMBER,
        DATE,
        TIME,
        TIMESTAMP
    }

    /**
     * A format.
     *
     * @param zeros how many digits are shown at least, filled up with zeros; 0 where that is not so
     */
    record CellFormat(Meaning meaning, int zeros) {

        private static final CellFormat GENERAL = new CellFormat(Meaning.NUMBER, 0);

        /** What a format code means: dates and times by the letters outside quotes, escapes and brackets. */
        static CellFormat of(String code) {
            String first = code.split(";", 2)[0];
            String bare = NO_LETTERS.matcher(first).replaceAll("");
            if (ELAPSED.matcher(first).find() || bare.equalsIgnoreCase("general")) {
                return GENERAL;
            }
            String letters = bare.toLowerCase(java.util.Locale.ROOT)
                    .replace("am/pm", "h")
                    .replace("a/p", "h");
            boolean time = letters.indexOf('h') >= 0 || letters.indexOf('s') >= 0;
            boolean date = letters.indexOf('y') >= 0
                    || letters.indexOf('d') >= 0
                    || letters.indexOf('e') >= 0 && letters.indexOf('0') < 0 && letters.indexOf('#') < 0
                    || letters.indexOf('m') >= 0 && !time;
            if (date || time) {
                return new CellFormat(date ? time ? Meaning.TIMESTAMP : Meaning.DATE : Meaning.TIME, 0);
            }
            boolean zeros = ZEROS.matcher(first).matches();
            return zeros ? new CellFormat(Meaning.NUMBER, first.length()) : GENERAL;
        }
    }

    /** Texts in quotes, escaped characters, fillers, and brackets, none of which are letters of a date. */
    private static final Pattern NO_LETTERS = Pattern.compile("\"[^\"]*\"?|\\\\.|[_*].|\\[[^\\]]*\\]");

    private static final Pattern ELAPSED = Pattern.compile("\\[(?:h+|m+|s+)\\]", Pattern.CASE_INSENSITIVE);
    private static final Pattern ZEROS = Pattern.compile("0{2,40}");

    private static final int LAST_BUILT_IN = 163;
    private static final int MOST_FORMATS = 1 << 17;

    private final CellFormat[] ofStyles;

    private CellFormats(CellFormat[] ofStyles) {
        this.ofStyles = ofStyles;
    }

    /** The formats of a workbook without styles: numbers. */
    static CellFormats none() {
        return new CellFormats(new CellFormat[0]);
    }

    /** The format of a style by its number. */
    CellFormat of(int style) {
        return style >= 0 && style < ofStyles.length ? ofStyles[style] : CellFormat.GENERAL;
    }

    static CellFormats read(XmlPart xml) throws IOException, XMLStreamException {
        Map<Integer, CellFormat> own = new HashMap<>();
        CellFormat[] styles = new CellFormat[64];
        int count = 0;
        boolean ofCells = false;
        for (int event = xml.next(); event != XMLStreamConstants.END_DOCUMENT; event = xml.next()) {
            if (event == XMLStreamConstants.END_ELEMENT && xml.name().equals("cellXfs")) {
                ofCells = false;
            } else if (event != XMLStreamConstants.START_ELEMENT) {
                continue;
            } else if (xml.name().equals("cellXfs")) {
                ofCells = true;
            } else if (xml.name().equals("numFmt") && own.size() < MOST_FORMATS) {
                String code = xml.attribute("formatCode");
                own.put(xml.number("numFmtId", 0), CellFormat.of(code == null ? "" : code));
            } else if (ofCells && xml.name().equals("xf") && count < MOST_FORMATS) {
                int id = xml.number("numFmtId", 0);
                styles = count == styles.length ? Arrays.copyOf(styles, count * 2) : styles;
                styles[count++] = own.containsKey(id) ? own.get(id) : builtIn(id);
            }
        }
        return new CellFormats(Arrays.copyOf(styles, count));
    }

    /** Formats that have a number and no code of their own (18.8.30). */
    private static CellFormat builtIn(int id) {
        boolean date = id >= 14 && id <= 17 || id >= 27 && id <= 31 || id == 36 || id >= 50 && id <= 58;
        boolean time = id >= 18 && id <= 21 || id >= 32 && id <= 35 || id == 45 || id == 47;
        if (id > LAST_BUILT_IN || !date && !time && id != 22) {
            return CellFormat.GENERAL;
        }
        return new CellFormat(date ? Meaning.DATE : time ? Meaning.TIME : Meaning.TIMESTAMP, 0);
    }
}
