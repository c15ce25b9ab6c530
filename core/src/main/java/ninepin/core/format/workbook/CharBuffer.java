package ninepin.core.format.workbook;

import java.util.Arrays;
import javax.xml.stream.XMLStreamException;

/** Characters that are gathered and used again. */
final class CharBuffer {

    /** No cell has more than 32,767 characters (ISO/IEC 29500-1, 18.18.1); some programs write more. */
    private static final int MOST = 4 << 20;

    char[] chars = new char[1 << 10];
    int length;

    void clear() {
        length = 0;
    }

    void append(char[] from, int start, int count) throws XMLStreamException {
        if (length + count > MOST) {
            throw new XMLStreamException("a text of more than " + MOST + " characters");
        }
        if (length + count > chars.length) {
            chars = Arrays.copyOf(chars, Math.max(chars.length * 2, length + count));
        }
        System.arraycopy(from, start, chars, length, count);
        length += count;
    }

    @Override
    public String toString() {
        return new String(chars, 0, length);
    }
}
