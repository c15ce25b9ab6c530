package ninepin.core.record;

/**
 * What a reader has to say about a place where the file is not written as its layout says.
 *
 * @param code the stable code of the message, such as {@code QUO-01}
 * @param column the column it stands in, counted from 0; -1 when it concerns the whole record, {@link #NO_FIELD} when
 *     it concerns a place that is no field's
 * @param from the first byte concerned, counted from the start of the record
 * @param to the byte after the last one concerned
 * @param found what was found, in words
 * @param expected what was expected
 * @param advice what to do, or null
 * @param halts whether the file cannot be read on behind it
 */
public record Fault(
        String code, int column, int from, int to, String found, String expected, String advice, boolean halts) {

    /** The column of a fault at a place that is no field's. */
    public static final int NO_FIELD = Integer.MAX_VALUE;

    /** A fault of one record, behind which reading goes on. */
    public Fault(String code, int column, int from, int to, String found, String expected, String advice) {
        this(code, column, from, to, found, expected, advice, false);
    }

    /** The same, behind which the file cannot be read on. */
    public Fault halting() {
        return new Fault(code, column, from, to, found, expected, advice, true);
    }
}
