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

    /** Where all of it stands, as people find it. */
    default Locator locator() {
        Locator own = ownLocator();
        return own == null ? Locator.line(line()) : own;
    }

    /** Where it stands in words of its format, where the lines of what is read are none that people can look up; else null. */
    default Locator ownLocator() {
        return null;
    }
}
