package ninepin.doors.store;

/** A store that does not do what it was asked for. */
public final class StoreException extends Exception {

    private static final long serialVersionUID = 1L;

    /** What that means for the file. */
    public enum Kind {
        /** The store cannot be reached, or has trouble of its own, which may pass. */
        AWAY("FIL-15"),
        /** A file of the same name is there and may not give way. */
        TAKEN("FIL-11"),
        /** It refuses: to try again by itself would be no use, or do harm. */
        REFUSED("FIL-16"),
        /** There is no such file. */
        GONE("FIL-03");

        private final String code;

        Kind(String code) {
            this.code = code;
        }
    }

    private final Kind kind;

    /**
     * @param message what is wrong and what to do
     */
    public StoreException(Kind kind, String message, Throwable cause) {
        super(message, cause);
        this.kind = kind;
    }

    public Kind kind() {
        return kind;
    }

    /** The stable code of the message. */
    public String code() {
        return kind.code;
    }
}
