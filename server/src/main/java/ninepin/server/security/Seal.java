package ninepin.server.security;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.security.GeneralSecurityException;
import java.security.SecureRandom;
import javax.crypto.Cipher;
import javax.crypto.spec.GCMParameterSpec;
import javax.crypto.spec.SecretKeySpec;
import ninepin.server.config.Folders;
import ninepin.server.config.NinepinSettings;
import org.springframework.stereotype.Component;

/**
 * Seals secrets with AES-256 in GCM mode (NIST SP 800-38D) under a key in the data folder that only the owner can read,
 * so a copy of the database alone tells nothing.
 */
@Component
public class Seal {

    private static final int NONCE = 12;
    private static final int TAG = 16;

    /** The bytes that a sealed secret has more than the secret itself. */
    public static final int OVERHEAD = NONCE + TAG;

    private final SecretKeySpec key;
    private final SecureRandom random = new SecureRandom();

    Seal(NinepinSettings settings, Folders folders) throws IOException {
        Path file = settings.data().resolve("seal.key");
        if (!Files.exists(file)) {
            byte[] made = new byte[32];
            random.nextBytes(made);
            Files.createFile(file, PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rw-------")));
            Files.write(file, made);
        }
        this.key = new SecretKeySpec(Files.readAllBytes(file), "AES");
    }

    public byte[] seal(String secret) {
        try {
            byte[] nonce = new byte[NONCE];
            random.nextBytes(nonce);
            Cipher cipher = Cipher.getInstance("AES/GCM/NoPadding");
            cipher.init(Cipher.ENCRYPT_MODE, key, new GCMParameterSpec(TAG * 8, nonce));
            byte[] sealed = cipher.doFinal(secret.getBytes(StandardCharsets.UTF_8));
            return ByteBuffer.allocate(NONCE + sealed.length)
                    .put(nonce)
                    .put(sealed)
                    .array();
        } catch (GeneralSecurityException e) {
            throw new IllegalStateException("A secret could not be sealed", e);
        }
    }

    public String open(byte[] sealed) {
        try {
            Cipher cipher = Cipher.getInstance("AES/GCM/NoPadding");
            cipher.init(Cipher.DECRYPT_MODE, key, new GCMParameterSpec(TAG * 8, sealed, 0, NONCE));
            return new String(cipher.doFinal(sealed, NONCE, sealed.length - NONCE), StandardCharsets.UTF_8);
        } catch (GeneralSecurityException e) {
            throw new IllegalStateException(
                    "A sealed password cannot be opened: the key in the data folder is not the one it was sealed with",
                    e);
        }
    }
}
