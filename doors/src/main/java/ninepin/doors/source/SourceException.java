package ninepin.doors.source;

/** A source that does not give what it was asked for. Nothing was taken. */
public final class SourceException extends Exception {

    private static final long serialVersionUID = 1L;

    private final String code;
    private final boolean mayPass;

    /**
     * @param code the stable code of the message
     * @param message what is wrong and what to do
     * @param mayPass whether it may be gone later without anybody changing anything, such as a server that is away
     */
    public SourceException(String code, String message, boolean mayPass, Throwable cause) {
        super(message, cause);
        this.code = code;
        this.mayPass = mayPass;
    }

    public String code() {
        return code;
    }

    public boolean mayPass() {
        return mayPass;
    }
}
