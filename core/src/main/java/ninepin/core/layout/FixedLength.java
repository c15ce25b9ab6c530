package ninepin.core.layout;

/**
 * Fixed-length records: each field stands at its position. Records are lines, or blocks of one size without line ends.
 *
 * @param charset the character encoding
 * @param blockSize the bytes of a block, or null where records are lines
 * @param units what positions and lengths count
 * @param length what a whole record has of these units, or null for the end of its last field
 * @param shortRecords whether a record may end early; the fields that are missing are NULL
 * @param skipLines records at the start that are passed over
 * @param blankRows what happens to a record of nothing but blanks
 */
public record FixedLength(
        FileCharset charset,
        Integer blockSize,
        Units units,
        Integer length,
        boolean shortRecords,
        int skipLines,
        BlankRows blankRows)
        implements Format {

    /** What positions and lengths count. The same in charsets that write every character as one byte. */
    public enum Units {
        CHARACTERS,
        BYTES;

        @Override
        public String toString() {
            return name().toLowerCase();
        }
    }

    private static final int MOST = 1 << 20;

    public FixedLength {
        charset = charset == null ? FileCharset.UTF_8 : charset;
        units = units == null ? charset.shifts() ? Units.BYTES : Units.CHARACTERS : units;
        blankRows = blankRows == null ? BlankRows.SKIP : blankRows;
        if (blockSize != null && (blockSize < 1 || blockSize > MOST)) {
            throw new DefinitionException("format.blockSize", "must be from 1 to " + MOST + " bytes");
        }
        if (length != null && (length < 1 || length > MOST)) {
            throw new DefinitionException("format.length", "must be from 1 to " + MOST);
        }
        if (skipLines < 0 || skipLines > 10_000) {
            throw new DefinitionException("format.skipLines", "must be from 0 to 10000");
        }
        if (charset == FileCharset.UTF_16) {
            throw new DefinitionException("format.charset", "fixed-length files in UTF-16 cannot be read");
        }
        if (units == Units.CHARACTERS && charset.shifts()) {
            throw new DefinitionException(
                    "format.units", "must be bytes, because some characters of " + charset + " take two");
        }
    }

    /** Whether a unit may take more than one byte. */
    public boolean countsCharacters() {
        return units == Units.CHARACTERS && !charset.singleByte();
    }

    @Override
    public boolean tells(Recognition when) {
        return when instanceof Recognition.Tag tag ? tag.start() != null : !(when instanceof Recognition.Path);
    }

    @Override
    public void requirePlace(String part, Field field) {
        if (!(field.place() instanceof Place.Span span)) {
            throw new DefinitionException(part, "needs its start and length");
        }
        Integer most = length != null ? length : blockSize;
        if (most != null && span.end() > most) {
            throw new DefinitionException(part, "goes on behind the end of the record, " + most);
        }
    }
}
