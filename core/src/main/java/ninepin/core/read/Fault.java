package ninepin.core.read;

/**
 * What a reader has to say about a place where the file is not written as its layout says.
 *
 * @param code the stable code of the message, such as {@code QUO-01}
 * @param column the column it stands in, counted from 0, or -1 when it concerns the whole record
 * @param from the first byte concerned, counted from the start of the record
 * @param to the byte after the last one concerned
 * @param found what was found, in words
 * @param expected what was expected
 * @param advice what to do, or null
 */
public record Fault(String code, int column, int from, int to, String found, String expected, String advice) {}
