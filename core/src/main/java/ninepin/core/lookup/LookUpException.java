package ninepin.core.lookup;

/** What a look-up looks into cannot be read or does not fit. Its message says what and where. */
public final class LookUpException extends Exception {

    public LookUpException(String message) {
        super(message);
    }
}
