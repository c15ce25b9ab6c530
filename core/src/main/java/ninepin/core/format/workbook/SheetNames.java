package ninepin.core.format.workbook;

import java.util.regex.Pattern;
import ninepin.core.layout.Recognition;

/** Which sheets rows stand on. Names of sheets are the same in any case. */
final class SheetNames {

    private SheetNames() {}

    /** Whether rows are those of a sheet. */
    static boolean match(Recognition.Rows.Table table, String name, int position) {
        if (table.position() != null) {
            return table.position() == position + 1;
        }
        return table.sheet() == null || pattern(table.sheet()).matcher(name).matches();
    }

    private static Pattern pattern(String sheet) {
        StringBuilder regex = new StringBuilder();
        for (char c : sheet.toCharArray()) {
            regex.append(c == '*' ? ".*" : c == '?' ? "." : Pattern.quote(String.valueOf(c)));
        }
        return Pattern.compile(regex.toString(), Pattern.CASE_INSENSITIVE | Pattern.UNICODE_CASE | Pattern.DOTALL);
    }

    /** Whether a name stands for several sheets. */
    static boolean isPattern(String sheet) {
        return sheet == null || sheet.indexOf('*') >= 0 || sheet.indexOf('?') >= 0;
    }
}
