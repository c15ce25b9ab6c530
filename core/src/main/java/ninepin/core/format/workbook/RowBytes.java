package ninepin.core.format.workbook;

import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;

/** The cells of a row as they are written in a transcript, gathered and used again. */
final class RowBytes {

    /** More than a row of a transcript may have. */
    private static final int MOST = 15 << 20;

    byte[] bytes = new byte[1 << 12];
    int length;

    void clear() {
        length = 0;
    }

    /** Whether the row has become longer than it may be. */
    boolean isFull() {
        return length > MOST;
    }

    private void ensure(int more) {
        if (length + more > bytes.length) {
            bytes = Arrays.copyOf(bytes, Math.max(bytes.length * 2, length + more));
        }
    }

    void add(byte b) {
        ensure(1);
        bytes[length++] = b;
    }

    void add(byte[] from, int start, int count) {
        ensure(count);
        System.arraycopy(from, start, bytes, length, count);
        length += count;
    }

    void add(byte[] all) {
        add(all, 0, all.length);
    }

    /** Adds bytes of a buffer, whose position stays. */
    void add(ByteBuffer from, int start, int count) {
        ensure(count);
        from.get(start, bytes, length, count);
        length += count;
    }

    /** Adds a text of ASCII characters. */
    void addAscii(String text) {
        ensure(text.length());
        for (int i = 0; i < text.length(); i++) {
            bytes[length++] = (byte) text.charAt(i);
        }
    }

    /** Adds characters that are ASCII. */
    void addAscii(char[] chars, int from, int to) {
        ensure(to - from);
        for (int i = from; i < to; i++) {
            bytes[length++] = (byte) chars[i];
        }
    }

    /** Adds a whole number. */
    void add(long number) {
        addAscii(Long.toString(number));
    }

    /** Adds a text in quotes, with the escapes that it needs. */
    void addQuoted(char[] chars, int count) {
        ensure(count * 3 + 2);
        int start = length;
        bytes[length++] = CellText.QUOTE;
        for (int i = 0; i < count; i++) {
            char c = chars[i];
            if (c >= 0x80 || CellText.mustEscape(c)) {
                length = start;
                add(CellText.quoted(new String(chars, 0, count)));
                return;
            }
            bytes[length++] = (byte) c;
        }
        bytes[length++] = CellText.QUOTE;
    }

    @Override
    public String toString() {
        return new String(bytes, 0, length, StandardCharsets.UTF_8);
    }
}
