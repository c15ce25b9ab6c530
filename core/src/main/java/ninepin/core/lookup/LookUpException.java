package ninepin.core.lookup;

/** What a look-up looks into cannot be read or does not fit. Its message says what and where. */
public final class LookUpException extends Exception {

    private final boolean mayPass;

    public LookUpException(String message) {
        this(message, false);
    }

    /**
     * @param mayPass whether it may be read later without anybody changing anything
     */
    public LookUpException(String message, boolean mayPass) {
        super(message);
        this.mayPass = mayPass;
    }

    public boolean mayPass() {
        return mayPass;
    }
}
