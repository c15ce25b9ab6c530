package ninepin.core.deliver;

/** Where the rows of a delivery go. */
public sealed interface Destination permits TableDelivery, ApplicationDelivery {

    /** The name of the connection, or empty while it is not chosen. */
    String connection();

    /** Whether it is said where rows go. */
    boolean decided();

    /** What it is called where several stand side by side, such as the name of a table. */
    String label();

    /**
     * The place that it is in. Deliveries to one place are made together: their rows are one transaction with one mark, or
     * one request for each document.
     */
    String place();

    /** The word for its kind in a definition; null for the usual one, a table. */
    String kind();
}
