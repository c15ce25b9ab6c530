package ninepin.core.layout;

/** A definition (layout, job, rule) that cannot be: says which part, and what is wrong with it. */
public final class DefinitionException extends IllegalArgumentException {

    private static final long serialVersionUID = 1L;

    private final String part;

    /**
     * @param part the path of the part inside the definition, such as {@code fields.volume.type}
     * @param message what is wrong, in plain words
     */
    public DefinitionException(String part, String message) {
        super(part + ": " + message);
        this.part = part;
    }

    public String part() {
        return part;
    }
}
