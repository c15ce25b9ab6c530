package ninepin.core.record;

/**
 * A place between two records of a file, from which reading can start.
 *
 * @param offset the byte where the next record starts, from 0
 * @param line the line it stands on, from 1
 * @param records the number of records before it
 */
public record Position(long offset, long line, long records) {

    /** The start of a file. */
    public static final Position START = new Position(0, 1, 0);
}
