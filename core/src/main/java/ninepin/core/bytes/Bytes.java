package ninepin.core.bytes;

import java.io.ByteArrayOutputStream;

/** Bytes put together. */
public final class Bytes {

    private Bytes() {}

    public static byte[] joined(byte[]... parts) {
        ByteArrayOutputStream all = new ByteArrayOutputStream();
        for (byte[] part : parts) {
            all.writeBytes(part);
        }
        return all.toByteArray();
    }
}
