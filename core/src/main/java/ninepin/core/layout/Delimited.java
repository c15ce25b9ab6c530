package ninepin.core.layout;

/**
 * Delimited text after RFC 4180: fields apart by a delimiter, quoted where they hold a delimiter, quote or line break,
 * a quote inside quotes doubled. Any line end (CR, LF, CR LF) is taken, mixed too.
 *
 * @param charset the character encoding
 * @param delimiter one or more characters, each one byte in the charset; not the quote, not a line end
 * @param quote one such character, or null where the file has none
 * @param header whether the first row after the skipped lines names the columns
 * @param skipLines lines at the start that are passed over before the header or the first record
 * @param blankRows what happens to a row with nothing but blanks and delimiters
 * @param habits what the file has beyond the standard, or null
 * @param tolerance what is let pass that a strict reading refuses, or null
 */
public record Delimited(
        FileCharset charset,
        String delimiter,
        Character quote,
        boolean header,
        int skipLines,
        BlankRows blankRows,
        Habits habits,
        Tolerance tolerance)
        implements Format {

    private static final int MOST_LINES = 10_000;
    private static final int MOST_CHARACTERS = 10;
    private static final int MOST_NULL = 20;

    /**
     * What partners add to the standard.
     *
     * @param comment what a line begins with that is passed over, or null
     * @param headerAnyCase whether names of the header row are compared without regard to upper and lower case
     * @param trailingDelimiter whether a delimiter may stand behind the last field
     * @param escape the character that takes the meaning from the one behind it, inside quotes and outside; or null,
     *     where a quote inside quotes is doubled
     * @param recordEnd what ends a record instead of a line end, or null
     * @param footerLines lines at the end that are passed over
     * @param nullText what stands without quotes for NULL, such as {@code \N}; an empty field is NULL in any case
     */
    public record Habits(
            String comment,
            boolean headerAnyCase,
            boolean trailingDelimiter,
            Character escape,
            String recordEnd,
            int footerLines,
            String nullText) {

        /** None beyond the standard. */
        public static final Habits NONE = new Habits(null, false, false);

        public Habits(String comment, boolean headerAnyCase, boolean trailingDelimiter) {
            this(comment, headerAnyCase, trailingDelimiter, null, null, 0, null);
        }

        /** These, with what stands for NULL. */
        public Habits withNullText(String text) {
            return new Habits(comment, headerAnyCase, trailingDelimiter, escape, recordEnd, footerLines, text);
        }

        public Habits {
            comment = comment == null || comment.isBlank() ? null : comment;
            recordEnd = recordEnd == null || recordEnd.isEmpty() ? null : recordEnd;
            nullText = nullText == null || nullText.isEmpty() ? null : nullText;
            if (nullText != null
                    && (nullText.length() > MOST_NULL
                            || !nullText.equals(nullText.strip())
                            || nullText.chars().anyMatch(Character::isISOControl))) {
                throw new DefinitionException(
                        "format.habits.nullText",
                        "has " + MOST_NULL + " characters at most, no blank around them and no control");
            }
            if (footerLines < 0 || footerLines > MOST_LINES) {
                throw new DefinitionException("format.habits.footerLines", "must be from 0 to " + MOST_LINES);
            }
            if (recordEnd != null && recordEnd.length() > MOST_CHARACTERS) {
                throw new DefinitionException(
                        "format.habits.recordEnd", "has " + MOST_CHARACTERS + " characters at most");
            }
        }
    }

    /**
     * What is let pass that a strict reading refuses. Nothing is let pass in silence: rows are noted.
     *
     * @param raggedRows whether a row may have fewer columns than the others, whose fields then are NULL, or more, which
     *     then are passed over
     * @param strayQuotes whether a quote that opens nothing, or does not close, is text
     * @param missingColumns whether the header row may lack columns whose fields need no value
     * @param extraColumns what is said of columns of the header row that no field describes
     */
    public record Tolerance(
            boolean raggedRows, boolean strayQuotes, boolean missingColumns, ExtraColumns extraColumns) {

        /** What a strict reading lets pass: only columns that no field describes. */
        public static final Tolerance STRICT = new Tolerance(false, false, false, ExtraColumns.IGNORE);

        public Tolerance {
            extraColumns = extraColumns == null ? ExtraColumns.IGNORE : extraColumns;
        }
    }

    /** What is said of columns of the header row that no field describes. */
    public enum ExtraColumns {
        /** Nothing. */
        IGNORE,
        /** A note. */
        NOTE,
        /** The file is not read. */
        HALT;

        @Override
        public String toString() {
            return name().toLowerCase();
        }
    }

    /** Plain RFC 4180. */
    public Delimited(
            FileCharset charset, char delimiter, Character quote, boolean header, int skipLines, BlankRows blankRows) {
        this(charset, delimiter, quote, header, skipLines, blankRows, null);
    }

    /** With habits, strictly read. */
    public Delimited(
            FileCharset charset,
            char delimiter,
            Character quote,
            boolean header,
            int skipLines,
            BlankRows blankRows,
            Habits habits) {
        this(charset, String.valueOf(delimiter), quote, header, skipLines, blankRows, habits, null);
    }

    /** The habits, of which there may be none. */
    public Habits habitsOrNone() {
        return habits == null ? Habits.NONE : habits;
    }

    /** What is let pass; no more than a strict reading does where nothing is said. */
    public Tolerance toleranceOrStrict() {
        return tolerance == null ? Tolerance.STRICT : tolerance;
    }

    /** The same without header and quotes, for what stands before the first record. */
    public Delimited plainLines() {
        Habits ends = new Habits(null, false, false, null, habitsOrNone().recordEnd(), 0, null);
        return new Delimited(charset, delimiter, null, false, 0, BlankRows.SKIP, ends, null);
    }

    /** Whether it takes no more than RFC 4180 with one delimiter, and comment lines. */
    public boolean standard() {
        return delimiter.length() == 1
                && habitsOrNone().escape() == null
                && habitsOrNone().recordEnd() == null
                && !toleranceOrStrict().strayQuotes();
    }

    public Delimited {
        charset = charset == null ? FileCharset.UTF_8 : charset;
        blankRows = blankRows == null ? BlankRows.SKIP : blankRows;
        if (!charset.held().ascii()) {
            throw new DefinitionException("format.charset", "delimited files in " + charset + " cannot be read");
        }
        if (delimiter == null || delimiter.isEmpty() || delimiter.length() > MOST_CHARACTERS) {
            throw new DefinitionException("format.delimiter", "has 1 to " + MOST_CHARACTERS + " characters");
        }
        for (char c : delimiter.toCharArray()) {
            requireSingleByte("format.delimiter", c, charset);
        }
        if (quote != null) {
            requireSingleByte("format.quote", quote, charset);
            if (delimiter.indexOf(quote) >= 0) {
                throw new DefinitionException("format.quote", "is the same character as the delimiter");
            }
        }
        Character escape = habits == null ? null : habits.escape();
        if (escape != null) {
            requireSingleByte("format.habits.escape", escape, charset);
            if (delimiter.indexOf(escape) >= 0 || escape.equals(quote)) {
                throw new DefinitionException("format.habits.escape", "is the delimiter or the quote too");
            }
        }
        if (habits != null && habits.recordEnd() != null && habits.recordEnd().contains(delimiter)) {
            throw new DefinitionException("format.habits.recordEnd", "holds the delimiter");
        }
        String nullText = habits == null ? null : habits.nullText();
        if (nullText != null && (nullText.contains(delimiter) || quote != null && nullText.indexOf(quote) >= 0)) {
            throw new DefinitionException("format.habits.nullText", "holds the delimiter or the quote");
        }
        if (skipLines < 0 || skipLines > MOST_LINES) {
            throw new DefinitionException("format.skipLines", "must be from 0 to " + MOST_LINES);
        }
    }

    private static void requireSingleByte(String part, char c, FileCharset charset) {
        if (c == '\r' || c == '\n' || c == 0) {
            throw new DefinitionException(part, "cannot be a line end or NUL");
        }
        if (charset.held().bytesOf(c) != 1) {
            throw new DefinitionException(part, "\"" + c + "\" is not a single byte in " + charset.label());
        }
    }

    @Override
    public boolean tells(Recognition when) {
        return when instanceof Recognition.Tag tag ? tag.column() != null : !(when instanceof Recognition.Path);
    }

    @Override
    public void requireSeveral(String part) {
        if (header) {
            throw new DefinitionException(part, "a file with a header row has one record type");
        }
    }

    @Override
    public boolean sharesPlaces() {
        return false;
    }

    @Override
    public void requirePlace(String part, Field field) {
        if (field.place() instanceof Place.Header) {
            if (!header) {
                throw new DefinitionException(part, "stands under a header name, but the layout has no header row");
            }
        } else if (!(field.place() instanceof Place.Column)) {
            throw new DefinitionException(part, "stands in a column of a delimited file");
        }
    }
}
