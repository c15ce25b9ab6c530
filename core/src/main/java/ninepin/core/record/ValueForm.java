package ninepin.core.record;

/**
 * How the values of a file stand in their slices, where the value is not all of the slice.
 *
 * @param padded whether blanks fill a slice up to its width
 * @param quote the byte of the quote, which stands doubled for itself inside quotes; 0 where there is none
 * @param nullText what stands for NULL where it is not quoted, as bytes of the file; null where nothing does
 * @param endingEarly whether a record may have fewer slices than it should: a note, and NULL for the others
 * @param trailingDelimiter whether an empty slice behind the last one means nothing
 */
public record ValueForm(boolean padded, byte quote, byte[] nullText, boolean endingEarly, boolean trailingDelimiter) {

    /** The value is the slice. */
    public static final ValueForm PLAIN = new ValueForm(false, (byte) 0, null, false, false);

    /** Blanks fill a slice up to its width. */
    public static final ValueForm PADDED = new ValueForm(true, (byte) 0, null, false, false);
}
