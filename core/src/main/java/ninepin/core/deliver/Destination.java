package ninepin.core.deliver;

/** Where the rows of a delivery go. */
public sealed interface Destination permits TableDelivery, ApplicationDelivery, FileDelivery {

    /** The name of the connection; empty while it is not chosen, and where there is none, as for a file. */
    String connection();

    /** Whether it is said where rows go. */
    boolean decided();

    /** What it is called where several stand side by side, such as the name of a table. */
    String label();

    /**
     * The place that it is in. Deliveries to one place are made together: their rows are one transaction with one mark, or
     * one request for each document,
     * or records of the same files.
     */
    String place();

    /** The word for its kind in a definition; null for the usual one, a table. */
    String kind();

    /** What the place of several deliveries is called; null where it is called by the labels of them. */
    default String placeLabel() {
        return null;
    }

    /** What an account says that the place is. */
    String sort();

    /** Whether it is a database, in which rows and their mark are one transaction. */
    default boolean intoDatabase() {
        return false;
    }

    /** The table that it fills; null where it fills none. */
    default String table() {
        return null;
    }

    /** Whether rows stand in a table afterwards, where they can be looked for. */
    default boolean fillsTable() {
        return false;
    }

    /** Whether all that is there gives way to the rows of a run. */
    default boolean replacesAll() {
        return false;
    }

    /** Whether each document is taken, or refused, by itself as it is sent; so nothing becomes visible all at once. */
    default boolean takesEachDocument() {
        return false;
    }

    /** Where rejects that are sent again go, so that they take no one's place. */
    default Destination again() {
        return this;
    }
}
