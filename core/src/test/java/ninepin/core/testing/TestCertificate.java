package ninepin.core.testing;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.security.GeneralSecurityException;
import java.security.KeyStore;
import java.util.Base64;
import java.util.List;

/**
 * A certificate that signs itself, with its key, made by the JDK's own tool.
 *
 * @param store both in a PKCS #12 file with the password {@link #PASSWORD}
 * @param certificate the certificate as PEM text
 * @param certificateFile the same in a file
 * @param keyFile the key as a PEM file that only its owner reads
 */
public record TestCertificate(Path store, String certificate, Path certificateFile, Path keyFile) {

    public static final String PASSWORD = "for the test";

    /**
     * Makes one.
     *
     * @param folder where its files are made
     * @param name the host name that it is for
     */
    public static TestCertificate make(Path folder, String name) throws IOException {
        Path store = folder.resolve(name + ".p12");
        List<String> command = List.of(
                Path.of(System.getProperty("java.home"), "bin", "keytool").toString(),
                "-genkeypair",
                "-alias",
                "server",
                "-keyalg",
                "EC",
                "-groupname",
                "secp256r1",
                "-dname",
                "CN=" + name,
                "-ext",
                "san=dns:" + name,
                "-validity",
                "30",
                "-storetype",
                "PKCS12",
                "-keystore",
                store.toString(),
                "-storepass",
                PASSWORD);
        try {
            Process made = new ProcessBuilder(command).redirectErrorStream(true).start();
            String said = new String(made.getInputStream().readAllBytes());
            if (made.waitFor() != 0) {
                throw new IOException(said);
            }
            KeyStore keys = KeyStore.getInstance("PKCS12");
            try (InputStream in = Files.newInputStream(store)) {
                keys.load(in, PASSWORD.toCharArray());
            }
            String certificate =
                    pem("CERTIFICATE", keys.getCertificate("server").getEncoded());
            String key = pem(
                    "PRIVATE KEY", keys.getKey("server", PASSWORD.toCharArray()).getEncoded());
            Path certificateFile = Files.writeString(folder.resolve(name + ".crt"), certificate);
            Path keyFile = Files.writeString(folder.resolve(name + ".key"), key);
            Files.setPosixFilePermissions(keyFile, PosixFilePermissions.fromString("rw-------"));
            return new TestCertificate(store, certificate, certificateFile, keyFile);
        } catch (GeneralSecurityException e) {
            throw new IOException(e);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IOException(e);
        }
    }

    private static String pem(String what, byte[] content) {
        return "-----BEGIN " + what + "-----\n"
                + Base64.getMimeEncoder(64, new byte[] {'\n'}).encodeToString(content) + "\n-----END " + what
                + "-----\n";
    }
}
