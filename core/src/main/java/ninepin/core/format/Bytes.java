package ninepin.core.format;

import java.io.ByteArrayOutputStream;

/** Bytes put together. */
final class Bytes {

    private Bytes() {}

    static byte[] joined(byte[]... parts) {
        ByteArrayOutputStream all = new ByteArrayOutputStream();
        for (byte[] part : parts) {
            all.writeBytes(part);
        }
        return all.toByteArray();
    }
}
