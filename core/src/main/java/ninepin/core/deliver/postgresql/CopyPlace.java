package ninepin.core.deliver.postgresql;

import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Where a COPY broke off, as the server's context tells it: {@code COPY farm, line 3, column since: "x"}.
 *
 * @param row the row, from 1; 0 where it is not told
 * @param column the column, or null
 */
record CopyPlace(int row, String column) {

    private static final Pattern CONTEXT =
            Pattern.compile("COPY [^,]+, line (\\d{1,9})(?:, column ([^:\\n]+))?.*", Pattern.DOTALL);

    static CopyPlace of(String where) {
        Matcher m = CONTEXT.matcher(where == null ? "" : where);
        return m.matches() ? new CopyPlace(Integer.parseInt(m.group(1)), m.group(2)) : new CopyPlace(0, null);
    }
}
