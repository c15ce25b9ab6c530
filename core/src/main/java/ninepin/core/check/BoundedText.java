package ninepin.core.check;

/**
 * A text that a regular expression may look at a bounded number of times, so that a pattern with runaway backtracking
 * ends as a finding and not as a run that hangs.
 */
public final class BoundedText implements CharSequence {

    private static final int MOST_STEPS = 2_000_000;

    /** Thrown out of the matcher when the bound is reached. */
    public static final class TooMuchWork extends RuntimeException {
        private static final long serialVersionUID = 1L;

        TooMuchWork() {
            super(null, null, false, false);
        }
    }

    private final String text;
    private int steps;

    public BoundedText(String text) {
        this.text = text;
    }

    @Override
    public char charAt(int index) {
        if (++steps > MOST_STEPS) {
            throw new TooMuchWork();
        }
        return text.charAt(index);
    }

    @Override
    public int length() {
        return text.length();
    }

    @Override
    public CharSequence subSequence(int start, int end) {
        return text.subSequence(start, end);
    }

    @Override
    public String toString() {
        return text;
    }
}
