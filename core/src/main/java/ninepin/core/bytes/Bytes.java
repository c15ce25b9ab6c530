package ninepin.core.bytes;

import java.io.ByteArrayOutputStream;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;

/** Bytes put together, and the bytes of texts. */
public final class Bytes {

    private Bytes() {}

    public static byte[] joined(byte[]... parts) {
        ByteArrayOutputStream all = new ByteArrayOutputStream();
        for (byte[] part : parts) {
            all.writeBytes(part);
        }
        return all.toByteArray();
    }

    /** The same text in another charset. */
    public static byte[] transcribed(byte[] bytes, Charset from, Charset to) {
        return from.equals(to) ? bytes : new String(bytes, from).getBytes(to);
    }

    /** Whether a charset has two bytes for each unit, in either order. */
    public static boolean isUtf16(Charset charset) {
        return charset.equals(StandardCharsets.UTF_16LE) || charset.equals(StandardCharsets.UTF_16BE);
    }
}
