package ninepin.core.testing;

import java.io.ByteArrayOutputStream;
import java.util.Arrays;
import java.util.Random;

/** Good files with bytes changed, cut, doubled and moved. */
public final class SpoiltBytes {

    private SpoiltBytes() {}

    /** Spoils good bytes in one to four places, the same way for the same state of chance. */
    public static byte[] of(byte[] good, Random random) {
        byte[] bytes = good.clone();
        for (int n = random.nextInt(4); n >= 0; n--) {
            int at = random.nextInt(bytes.length);
            int to = Math.min(bytes.length, at + 1 + random.nextInt(60));
            switch (random.nextInt(6)) {
                case 0 -> bytes[at] = (byte) random.nextInt(256);
                case 1 -> bytes[at] = (byte) "<>&;\"'\r\n\0 ]-/=".charAt(random.nextInt(14));
                case 2 -> bytes = joined(Arrays.copyOf(bytes, at), Arrays.copyOfRange(bytes, to, bytes.length));
                case 3 -> bytes = joined(Arrays.copyOf(bytes, to), Arrays.copyOfRange(bytes, at, bytes.length));
                case 4 -> bytes = Arrays.copyOf(bytes, Math.max(1, at));
                default -> Arrays.fill(bytes, at, to, (byte) random.nextInt(256));
            }
            if (bytes.length == 0) {
                return new byte[] {' '};
            }
        }
        return bytes;
    }

    private static byte[] joined(byte[] a, byte[] b) {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        out.writeBytes(a);
        out.writeBytes(b);
        return out.toByteArray();
    }
}
