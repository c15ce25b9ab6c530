package ninepin.core.check;

import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import ninepin.core.layout.Severity;
import ninepin.core.read.Value;

/** A value, or several together, that may stand once in the file. */
final class UniqueCheck {

    final int field;
    final Severity severity;
    final String expected;
    private final int[] fields;
    private final Charset charset;
    private final UniqueIndex index = new UniqueIndex();

    /**
     * @param field the index of the field that carries the check
     * @param fields the indexes of all fields of the key, in order
     */
    UniqueCheck(int field, int[] fields, Severity severity, String expected, Charset charset) {
        this.field = field;
        this.fields = fields;
        this.severity = severity;
        this.expected = expected;
        this.charset = charset;
    }

    /** Adds the key of a record; the line it first stood on, or 0 when it is new or a part of it is NULL. */
    long add(Value[] values, long line) {
        StringBuilder key = new StringBuilder();
        for (int f : fields) {
            String text = values[f].text(charset);
            if (text == null) {
                return 0;
            }
            key.append(text.length()).append(':').append(text);
        }
        byte[] bytes = key.toString().getBytes(StandardCharsets.UTF_8);
        return index.add(bytes, bytes.length, line);
    }
}
