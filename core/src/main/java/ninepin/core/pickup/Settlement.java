package ninepin.core.pickup;

/** What becomes of an item at its source once its file is safe here. */
public enum Settlement {
    /** Nothing: fetching it has taken it away, or it is another one each time. */
    NONE,
    /** It stays, and is remembered, so that the same version is not taken again. */
    LEAVE,
    /** It is deleted. */
    DELETE
}
