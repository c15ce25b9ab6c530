package ninepin.doors.source;

/**
 * What was fetched and is safe on this machine's disk.
 *
 * @param size the bytes of the file
 * @param reached how far the source has been taken with it, to be kept with the run; null where the source keeps no count
 */
public record Fetched(long size, String reached) {

    public Fetched(long size) {
        this(size, null);
    }
}
