package ninepin.core.lookup;

import java.math.BigDecimal;
import java.nio.charset.Charset;
import ninepin.core.value.Value;

/** Writes the parts of a key as one text, so that keys are the same just where all parts are equal as values. */
public final class KeyText {

    private final StringBuilder text = new StringBuilder();

    public KeyText clear() {
        text.setLength(0);
        return this;
    }

    /** Adds a text; no other text and no other place of the next part gives the same. */
    public void text(String part) {
        text.append(part.length()).append(':').append(part);
    }

    /** Adds a number; 7, 7.0 and 07 are the same. */
    public void number(BigDecimal part) {
        text(part.signum() == 0 ? "0" : part.stripTrailingZeros().toPlainString());
    }

    /** Adds a date, a time, a timestamp or a truth value, by its numbers. */
    public void numbers(long number, long nanos) {
        text(number + "/" + nanos);
    }

    /** Adds a value; false where it is NULL. */
    public boolean value(Value part, Charset charset) {
        switch (part.kind()) {
            case NULL:
                return false;
            case TEXT:
                text(part.text(charset));
                return true;
            case NUMBER, BIG_NUMBER:
                number(part.ordered());
                return true;
            case TIMESTAMP:
                numbers(part.number(), part.nanos());
                return true;
            default:
                numbers(part.number(), 0);
                return true;
        }
    }

    @Override
    public String toString() {
        return text.toString();
    }
}
