package ninepin.core.record;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import ninepin.core.bytes.Words;

/** The values of a document whose bytes in the file are not the values themselves, in UTF-8 one behind the other. */
public final class GatheredValues {

    private byte[] bytes = new byte[1 << 12];
    private int length;
    private char[] characters = new char[64];

    public void clear() {
        length = 0;
    }

    public byte[] bytes() {
        return bytes;
    }

    /** Adds the value of a field, so many characters, and tells the record where it stands. */
    public void put(RecordBuffer r, int field, char[] value, int count) {
        ensure(count * 3);
        int start = length;
        byte[] into = bytes;
        int at = length;
        int i = 0;
        char c;
        while (i < count && (c = value[i]) < 0x80) {
            into[at++] = (byte) c;
            i++;
        }
        if (i < count) {
            byte[] rest = new String(value, i, count - i).getBytes(StandardCharsets.UTF_8);
            System.arraycopy(rest, 0, into, at, rest.length);
            at += rest.length;
        }
        length = at;
        r.value(field, start, at);
    }

    /** Adds the value of a field, and tells the record where it stands. */
    public void put(RecordBuffer r, int field, String value) {
        if (characters.length < value.length()) {
            characters = new char[value.length() * 2];
        }
        value.getChars(0, value.length(), characters, 0);
        put(r, field, characters, value.length());
    }

    /** Adds the value of a field, bytes of UTF-8, and tells the record where it stands. */
    public void put(RecordBuffer r, int field, byte[] value, int from, int to) {
        ensure(to - from);
        System.arraycopy(value, from, bytes, length, to - from);
        r.value(field, length, length + to - from);
        length += to - from;
    }

    private void ensure(int more) {
        if (length + more + Words.SLACK > bytes.length) {
            bytes = Arrays.copyOf(bytes, Math.max(bytes.length * 2, length + more + Words.SLACK));
        }
    }
}
