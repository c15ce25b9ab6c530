package ninepin.core.format.workbook;

import java.util.LinkedHashMap;
import java.util.Map;

/** The styles of a workbook that is written: a number format each, and bold for headers. */
final class CellStyles {

    static final String HEADER = "header";
    static final String TEXT = "@";
    static final String GENERAL = "General";
    static final String DATE = "yyyy\\-mm\\-dd";
    static final String TIME = "hh:mm:ss";
    static final String TIMESTAMP = "yyyy\\-mm\\-dd\\ hh:mm:ss";

    private static final int FIRST_OWN = 164;

    private final Map<String, Integer> numbers = new LinkedHashMap<>();

    CellStyles() {
        numbers.put(GENERAL, 0);
        numbers.put(HEADER, 1);
    }

    /** The number of the style with a format. */
    int of(String format) {
        return numbers.computeIfAbsent(format, f -> numbers.size());
    }

    /** The part of the workbook. */
    String part() {
        StringBuilder formats = new StringBuilder();
        StringBuilder styles = new StringBuilder();
        int own = 0;
        for (String format : numbers.keySet()) {
            boolean header = format.equals(HEADER);
            int id = header || format.equals(GENERAL) ? 0 : FIRST_OWN + own++;
            if (id > 0) {
                formats.append("<numFmt numFmtId=\"" + id + "\" formatCode=\"" + WorkbookComposer.Xml.attribute(format)
                        + "\"/>");
            }
            styles.append("<xf numFmtId=\"" + id + "\" fontId=\"" + (header ? 1 : 0)
                    + "\" fillId=\"0\" borderId=\"0\" xfId=\"0\" applyNumberFormat=\"1\" applyFont=\"1\"/>");
        }
        return "<styleSheet xmlns=\"" + WorkbookComposer.Xml.MAIN + "\">"
                + (own == 0 ? "" : "<numFmts count=\"" + own + "\">" + formats + "</numFmts>")
                + "<fonts count=\"2\"><font><sz val=\"11\"/><name val=\"Calibri\"/></font>"
                + "<font><b/><sz val=\"11\"/><name val=\"Calibri\"/></font></fonts>"
                + "<fills count=\"2\"><fill><patternFill patternType=\"none\"/></fill>"
                + "<fill><patternFill patternType=\"gray125\"/></fill></fills>"
                + "<borders count=\"1\"><border><left/><right/><top/><bottom/><diagonal/></border></borders>"
                + "<cellStyleXfs count=\"1\"><xf numFmtId=\"0\" fontId=\"0\" fillId=\"0\" borderId=\"0\"/></cellStyleXfs>"
                + "<cellXfs count=\"" + numbers.size() + "\">" + styles + "</cellXfs>"
                + "<cellStyles count=\"1\"><cellStyle name=\"Normal\" xfId=\"0\" builtinId=\"0\"/></cellStyles></styleSheet>";
    }
}
