package ninepin.core.wording;

/** A part of an instruction that is not understood. */
final class Misunderstood extends RuntimeException {

    private static final long serialVersionUID = 1L;

    Misunderstood(String message) {
        super(message, null, false, false);
    }
}
