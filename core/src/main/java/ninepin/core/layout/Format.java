package ninepin.core.layout;

import java.util.List;

/** How a file is written. One implementation for each kind of file. */
public sealed interface Format permits Delimited, FixedLength, Json, Workbook, Xml {

    /** The character encoding of the file's bytes. */
    FileCharset charset();

    /** What happens to records in which nothing stands. */
    BlankRows blankRows();

    /** Whether records can be told apart in such a way in a file written so. */
    boolean tells(Recognition when);

    /** Whether a record type has to say how it is told from others even where it is the only one. */
    default boolean tellsEach() {
        return false;
    }

    /** Refuses record types that are told apart where a file written so has one. */
    default void requireSeveral(String part) {}

    /** Whether several fields may stand in one place. */
    default boolean sharesPlaces() {
        return true;
    }

    /** Refuses a field that cannot stand where it is said to in a file written so. */
    void requirePlace(String part, Field field);

    /** Refuses what record types are not to each other in a file written so. */
    default void requireTypes(List<RecordType> types) {}
}
