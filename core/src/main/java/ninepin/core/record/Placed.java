package ninepin.core.record;

/** A record's place in its file. */
public interface Placed {

    /** The number of the record, from 1. */
    long number();

    /** The line it starts on, from 1. */
    long line();

    /** The byte it starts at. */
    long offset();

    /** The bytes it takes. */
    long fullLength();
}
