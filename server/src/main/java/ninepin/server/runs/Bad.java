package ninepin.server.runs;

import ninepin.core.check.Finding;
import ninepin.core.format.RefusedFile;

/**
 * A place in the text of a record, in UTF-16 units, and what is said about it.
 *
 * @param hangsOnFile whether only the rest of the file gives the reason
 */
public record Bad(int from, int to, String code, String message, boolean hangsOnFile) {

    public Bad(int from, int to, String code, String message) {
        this(from, to, code, message, Finding.hangsOnFile(code));
    }

    /**
     * The place of a finding in the text of a record as it came; the whole record where it concerns all of it.
     *
     * @param raw the record as it is kept
     * @param from the first byte of the place, counted in the record's own file from the record's start
     * @param length the bytes of the place there
     */
    public static Bad of(RefusedFile files, byte[] raw, long from, int length, String code, String message) {
        RefusedFile.Place place = files.place(raw, from, length);
        return new Bad(place.from(), place.to(), code, message);
    }
}
