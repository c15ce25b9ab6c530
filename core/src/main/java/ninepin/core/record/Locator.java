package ninepin.core.record;

/**
 * Where something stands in a file, as people find it. The bytes of the file are its identity; this is how it is said.
 *
 * @param line the line where it starts, from 1; 0 when it concerns the file
 * @param columnFrom the first character on the line, from 1; 0 when it concerns the whole record, or where lines do not tell
 * @param columnTo the last character on the line
 * @param path the place in the words of a format in which lines tell too little, such as {@code $.orders[3].qty}; else null
 */
public record Locator(long line, int columnFrom, int columnTo, String path) {

    /** The file as a whole. */
    public static final Locator FILE = line(0);

    /** All that begins on a line. */
    public static Locator line(long line) {
        return new Locator(line, 0, 0, null);
    }

    /** Characters on a line. */
    public static Locator columns(long line, int from, int to) {
        return new Locator(line, from, to, null);
    }

    /**
     * A place in the words of its format.
     *
     * @param line the line where it starts
     */
    public static Locator path(long line, String path) {
        return new Locator(line, 0, 0, path);
    }

    /**
     * In words, such as {@code line 14 · Volume (columns 23–28)}.
     *
     * @param field the field that stands there, or null
     * @param target the target column that is concerned, or null
     */
    public String words(String field, String target) {
        if (line == 0) {
            return "file";
        }
        StringBuilder out = new StringBuilder(path == null ? "line " + line : path);
        if (field != null) {
            out.append(" · ").append(field);
        }
        if (target != null) {
            out.append(" → ").append(target);
        }
        if (columnFrom > 0) {
            out.append(columnFrom == columnTo ? " (column " + columnFrom : " (columns " + columnFrom + "–" + columnTo)
                    .append(')');
        }
        return out.toString();
    }
}
