package ninepin.core.shape;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * Rows as text in UTF-8: fields apart by tabs, rows ended by line feeds, NULL as {@code \N}, and tab, line feed,
 * carriage return, NUL and backslash written with a backslash. The form that bulk loading statements take by default.
 */
public final class RowBuffer {

    private byte[] bytes = new byte[1 << 16];
    private int length;
    private int[] ends = new int[1024];
    private int rows;
    private int rowStart;

    /** The bytes; those up to {@link #length()} are rows. */
    public byte[] bytes() {
        return bytes;
    }

    public int length() {
        return length;
    }

    public int rows() {
        return rows;
    }

    /** Where a row starts in the bytes. */
    public int start(int row) {
        return row == 0 ? 0 : ends[row - 1];
    }

    /** The byte after a row's line feed. */
    public int end(int row) {
        return ends[row];
    }

    public void clear() {
        length = 0;
        rows = 0;
        rowStart = 0;
    }

    /** Forgets the rows from one on. */
    public void truncate(int toRows) {
        rows = toRows;
        length = toRows == 0 ? 0 : ends[toRows - 1];
        rowStart = length;
    }

    void endRow() {
        ensure(1);
        if (length > rowStart) {
            bytes[length - 1] = '\n';
        } else {
            bytes[length++] = '\n';
        }
        if (rows == ends.length) {
            ends = Arrays.copyOf(ends, rows * 2);
        }
        ends[rows++] = length;
        rowStart = length;
    }

    /** Forgets the row that has been begun. */
    void dropRow() {
        length = rowStart;
    }

    void nullField() {
        ensure(3);
        bytes[length++] = '\\';
        bytes[length++] = 'N';
        bytes[length++] = '\t';
    }

    void endField() {
        ensure(1);
        bytes[length++] = '\t';
    }

    /** Makes room and returns the array to write into. */
    byte[] ensure(int more) {
        if (bytes.length - length < more) {
            bytes = Arrays.copyOf(bytes, Math.max(bytes.length * 2, length + more));
        }
        return bytes;
    }

    void advance(int by) {
        length += by;
    }

    /** Writes UTF-8 bytes, escaping what needs it. */
    void escaped(byte[] from, int start, int end) {
        ensure((end - start) * 2);
        byte[] to = bytes;
        int at = length;
        for (int i = start; i < end; i++) {
            byte b = from[i];
            if (b > '\r' && b != '\\' || b < 0) {
                to[at++] = b;
            } else {
                at = escape(to, at, b);
            }
        }
        length = at;
    }

    private static int escape(byte[] to, int at, byte b) {
        byte letter;
        switch (b) {
            case '\t':
                letter = 't';
                break;
            case '\n':
                letter = 'n';
                break;
            case '\r':
                letter = 'r';
                break;
            case 0:
                letter = '0';
                break;
            case '\\':
                letter = '\\';
                break;
            default:
                to[at] = b;
                return at + 1;
        }
        to[at] = '\\';
        to[at + 1] = letter;
        return at + 2;
    }

    void text(String text) {
        byte[] utf8 = text.getBytes(StandardCharsets.UTF_8);
        escaped(utf8, 0, utf8.length);
    }

    /**
     * Writes a field: a text, what stands for it where it is missing or only blanks, or NULL.
     *
     * @param text the text, or null
     * @param whenBlank what stands for it, or null
     */
    void textOr(String text, String whenBlank) {
        String written = whenBlank != null && (text == null || text.isBlank()) ? whenBlank : text;
        if (written == null) {
            nullField();
        } else {
            text(written);
            endField();
        }
    }

    /** Writes a whole number in decimal digits. */
    void digits(long number) {
        ensure(20);
        if (number == Long.MIN_VALUE) {
            text(Long.toString(number));
            return;
        }
        long rest = number;
        if (rest < 0) {
            bytes[length++] = '-';
            rest = -rest;
        }
        int digits = 1;
        for (long r = rest; r >= 10; r /= 10) {
            digits++;
        }
        for (int i = length + digits - 1; i >= length; i--) {
            bytes[i] = (byte) ('0' + rest % 10);
            rest /= 10;
        }
        length += digits;
    }

    /** Writes a number below ten to the power of {@code width} with leading zeros. */
    void padded(long number, int width) {
        ensure(width);
        long rest = number;
        for (int i = length + width - 1; i >= length; i--) {
            bytes[i] = (byte) ('0' + rest % 10);
            rest /= 10;
        }
        length += width;
    }

    void raw(char c) {
        ensure(1);
        bytes[length++] = (byte) c;
    }

    /**
     * Adds a row of another buffer with numbers in place of some of its fields.
     *
     * @param fields which fields, counted from 0, in order; one behind the last is added to the row
     * @param numbers the number of each
     */
    public void addWith(RowBuffer from, int row, int[] fields, long[] numbers) {
        int at = from.start(row);
        int end = from.end(row) - 1;
        int next = 0;
        for (int field = 0; at <= end; field++) {
            int to = at;
            while (to < end && from.bytes[to] != '\t') {
                to++;
            }
            if (next < fields.length && fields[next] == field) {
                digits(numbers[next++]);
            } else {
                ensure(to - at);
                System.arraycopy(from.bytes, at, bytes, length, to - at);
                length += to - at;
            }
            endField();
            at = to + 1;
        }
        for (; next < fields.length; next++) {
            digits(numbers[next]);
            endField();
        }
        endRow();
    }

    /** The number in a field of a row. */
    public int number(int row, int field) {
        int at = start(row);
        for (int f = 0; f < field; f++) {
            while (bytes[at++] != '\t') {
                // Passes over the fields before it.
            }
        }
        int number = 0;
        for (; bytes[at] >= '0' && bytes[at] <= '9'; at++) {
            number = number * 10 + bytes[at] - '0';
        }
        return number;
    }

    /** The values of a row, read back; null for NULL. */
    public List<String> row(int row) {
        List<String> values = new ArrayList<>();
        byte[] field = new byte[end(row) - start(row)];
        int n = 0;
        boolean isNull = false;
        for (int i = start(row); i < end(row); i++) {
            byte b = bytes[i];
            if (b == '\t' || b == '\n') {
                values.add(isNull ? null : new String(field, 0, n, StandardCharsets.UTF_8));
                n = 0;
                isNull = false;
            } else if (b == '\\') {
                byte next = bytes[++i];
                if (next == 'N') {
                    isNull = true;
                } else {
                    field[n++] = unescape(next);
                }
            } else {
                field[n++] = b;
            }
        }
        return values;
    }

    private static byte unescape(byte letter) {
        switch (letter) {
            case 't':
                return '\t';
            case 'n':
                return '\n';
            case 'r':
                return '\r';
            case '0':
                return 0;
            default:
                return letter;
        }
    }
}
