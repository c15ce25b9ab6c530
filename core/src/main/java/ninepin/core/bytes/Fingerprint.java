package ninepin.core.bytes;

import java.io.IOException;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;

/** The SHA-256 of a file's bytes, by which the same file is known again. */
public final class Fingerprint {

    private Fingerprint() {}

    /** The fingerprint of all bytes of the source, as 64 hexadecimal digits. */
    public static String of(ByteSource source) throws IOException {
        MessageDigest digest = sha256();
        byte[] piece = new byte[1 << 18];
        long position = 0;
        int n;
        while ((n = source.read(position, piece, 0, piece.length)) > 0) {
            digest.update(piece, 0, n);
            position += n;
        }
        return HexFormat.of().formatHex(digest.digest());
    }

    private static MessageDigest sha256() {
        try {
            return MessageDigest.getInstance("SHA-256");
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException("every Java has SHA-256", e);
        }
    }
}
