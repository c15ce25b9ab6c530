package ninepin.core.record;

/**
 * What a layout leaves open, because a reader takes either.
 *
 * @param indented whether elements of XML stand on lines of their own
 * @param lineEnd what ends a line; null for the usual one of the format: CR LF for delimited rows, LF for fixed-length ones
 */
public record WriteStyle(boolean indented, LineEnd lineEnd) {

    /** No line breaks in XML, the usual line end. */
    public static final WriteStyle USUAL = new WriteStyle(false, null);

    /** What ends a line. */
    public enum LineEnd {
        LF("\n"),
        CRLF("\r\n");

        private final String text;

        LineEnd(String text) {
            this.text = text;
        }

        String text() {
            return text;
        }

        @Override
        public String toString() {
            return name().toLowerCase(java.util.Locale.ROOT);
        }
    }

    /** The line end that is asked for, or another. */
    public String lineEndOr(LineEnd usual) {
        return (lineEnd == null ? usual : lineEnd).text();
    }
}
