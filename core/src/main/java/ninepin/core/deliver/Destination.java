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
}
