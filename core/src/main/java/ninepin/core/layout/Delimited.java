package ninepin.core.layout;

/**
 * Delimited text after RFC 4180: fields apart by a delimiter, quoted where they hold a delimiter, quote or line break,
 * a quote inside quotes doubled. Any line end (CR, LF, CR LF) is taken, mixed too.
 *
 * @param charset the character encoding
 * @param delimiter one character that is one byte in the charset; not the quote, not a line end
 * @param quote one such character, or null where the file has none
 * @param header whether the first row after the skipped lines names the columns
 * @param skipLines lines at the start that are passed over before the header or the first record
 * @param blankRows what happens to a row with nothing but blanks and delimiters
 * @param habits what the file has beyond the standard, or null
 */
public record Delimited(
        FileCharset charset,
        char delimiter,
        Character quote,
        boolean header,
        int skipLines,
        BlankRows blankRows,
        Habits habits)
        implements Format {

    /**
     * What partners add to the standard.
     *
     * @param comment what a line begins with that is passed over, or null
     * @param headerAnyCase whether names of the header row are compared without regard to upper and lower case
     * @param trailingDelimiter whether a delimiter may stand behind the last field
     */
    public record Habits(String comment, boolean headerAnyCase, boolean trailingDelimiter) {

        /** None beyond the standard. */
        public static final Habits NONE = new Habits(null, false, false);

        public Habits {
            comment = comment == null || comment.isBlank() ? null : comment;
        }
    }

    /** Plain RFC 4180. */
    public Delimited(
            FileCharset charset, char delimiter, Character quote, boolean header, int skipLines, BlankRows blankRows) {
        this(charset, delimiter, quote, header, skipLines, blankRows, null);
    }

    /** The habits, of which there may be none. */
    public Habits habitsOrNone() {
        return habits == null ? Habits.NONE : habits;
    }

    /** What happens to blank rows. They are counted in the tally whatever the choice. */
    public enum BlankRows {
        /** Passed over and counted. */
        SKIP,
        /** Passed over and counted, with a note for each. */
        NOTE,
        /** Set aside as a reject. */
        REJECT;

        @Override
        public String toString() {
            return name().toLowerCase();
        }
    }

    public Delimited {
        charset = charset == null ? FileCharset.UTF_8 : charset;
        blankRows = blankRows == null ? BlankRows.SKIP : blankRows;
        if (!charset.ascii()) {
            throw new DefinitionException("format.charset", "delimited files in " + charset + " cannot be read");
        }
        requireSingleByte("format.delimiter", delimiter, charset);
        if (quote != null) {
            requireSingleByte("format.quote", quote, charset);
            if (quote == delimiter) {
                throw new DefinitionException("format.quote", "is the same character as the delimiter");
            }
        }
        if (skipLines < 0 || skipLines > 10_000) {
            throw new DefinitionException("format.skipLines", "must be from 0 to 10000");
        }
    }

    private static void requireSingleByte(String part, char c, FileCharset charset) {
        if (c == '\r' || c == '\n' || c == 0) {
            throw new DefinitionException(part, "cannot be a line end or NUL");
        }
        if (charset.bytesOf(c) != 1) {
            throw new DefinitionException(part, "\"" + c + "\" is not a single byte in " + charset.label());
        }
    }
}
