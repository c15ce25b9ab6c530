package ninepin.core.check;

import java.nio.ByteBuffer;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import ninepin.core.layout.Severity;
import ninepin.core.value.Value;

/** A value, or several together, that may stand once in the file. */
final class UniqueCheck {

    final int field;
    final Severity severity;
    final String expected;
    private final int[] fields;
    private final Charset charset;
    private final UniqueIndex index = new UniqueIndex();
    private ByteBuffer key = ByteBuffer.allocate(64);

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
        return ask(values) ? index.add(line) : 0;
    }

    /** Says of the key of a record, known or not, that it stands on a line. */
    void put(Value[] values, long line) {
        if (ask(values)) {
            index.put(line);
        }
    }

    /** The line that is remembered of a record's key, or 0. */
    long line(Value[] values) {
        return ask(values) ? index.line() : 0;
    }

    /** Asks the index for the key of a record; false where a part of it is NULL. */
    private boolean ask(Value[] values) {
        Value first = values[fields[0]];
        if (fields.length == 1 && first.kind() == Value.Kind.NUMBER && first.scale() == 0) {
            index.ask(first.number());
            return true;
        }
        key.clear();
        for (int f : fields) {
            if (values[f].isNull()) {
                return false;
            }
            put(values[f]);
        }
        index.ask(key.array(), key.position());
        return true;
    }

    /** Two values of one field have the same bytes where they have the same text. */
    private void put(Value value) {
        ensure(32);
        key.put((byte) value.kind().ordinal());
        switch (value.kind()) {
            case TEXT -> putBytes(value.bytes(), value.from(), value.to() - value.from());
            case NUMBER -> key.putLong(value.number()).putInt(value.scale());
            case BOOLEAN, DATE, TIME -> key.putLong(value.number());
            default -> {
                byte[] text = value.text(charset).getBytes(StandardCharsets.UTF_8);
                putBytes(text, 0, text.length);
            }
        }
    }

    private void putBytes(byte[] bytes, int from, int length) {
        ensure(length + Integer.BYTES);
        key.putInt(length).put(bytes, from, length);
    }

    private void ensure(int more) {
        if (key.remaining() < more) {
            key = ByteBuffer.allocate((key.position() + more) * 2).put(key.flip());
        }
    }

    /** Adds the keys of the same check of records behind these; false as soon as one is known already. */
    boolean join(UniqueCheck behind) {
        return index.join(behind.index);
    }
}
