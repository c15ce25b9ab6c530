package ninepin.core.value;

import java.util.HashMap;
import java.util.Locale;
import java.util.Map;
import ninepin.core.layout.DataType;
import ninepin.core.layout.FileCharset;

/** Booleans by their tokens, compared without regard to case. */
final class BooleanParser extends ValueParser {

    private final FileCharset charset;
    private final Map<String, Boolean> tokens = new HashMap<>();
    private final String expected;

    BooleanParser(DataType.Bool type, FileCharset charset) {
        this.charset = charset;
        type.trueTokens().forEach(t -> tokens.put(t.toLowerCase(Locale.ROOT), true));
        type.falseTokens().forEach(t -> tokens.put(t.toLowerCase(Locale.ROOT), false));
        this.expected = String.join(", ", type.trueTokens()) + " for true or " + String.join(", ", type.falseTokens())
                + " for false";
    }

    @Override
    public Problem parse(byte[] bytes, int fieldFrom, int fieldTo, Value into) {
        int from = skipBlanks(bytes, fieldFrom, fieldTo);
        int to = trimEnd(bytes, from, fieldTo);
        into.setNull();
        if (from == to) {
            return null;
        }
        String token = new String(bytes, from, Math.min(to - from, 400), charset.charset()).toLowerCase(Locale.ROOT);
        Boolean value = tokens.get(token);
        if (value == null) {
            return new Problem("BOO-01", expected, "Add the word to the type's tokens if it is right.");
        }
        into.set(Value.Kind.BOOLEAN, value ? 1 : 0);
        return null;
    }
}
