package ninepin.server.app;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.TimeUnit;
import ninepin.core.testing.MariaDbServer;
import ninepin.core.testing.TestCertificate;
import ninepin.server.testing.ServerProcess;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;

/** Ninepin's own tables behind a server that lets nobody in in the clear. */
@Timeout(value = 5, unit = TimeUnit.MINUTES)
class EncryptedDatabaseTest {

    @TempDir
    Path folder;

    private ServerProcess application(MariaDbServer database, String name, String tls, TestCertificate trusted)
            throws Exception {
        return new ServerProcess(folder.resolve(name), database)
                .set("NINEPIN_DATABASE_HOST", "localhost")
                .set("NINEPIN_DATABASE_USER", "secure")
                .set("NINEPIN_DATABASE_PASSWORD", "for the test")
                .set("NINEPIN_DATABASE_TLS", tls)
                .set("NINEPIN_DATABASE_CERTIFICATE", trusted.certificateFile().toString());
    }

    @Test
    void it_is_spoken_to_encrypted_and_only_if_it_is_trusted() throws Exception {
        TestCertificate own = TestCertificate.make(folder, "localhost");
        TestCertificate other = TestCertificate.make(Files.createDirectory(folder.resolve("other")), "localhost");
        try (MariaDbServer database =
                MariaDbServer.start(List.of("--ssl-cert=" + own.certificateFile(), "--ssl-key=" + own.keyFile()))) {
            database.execute(
                    "mysql",
                    "CREATE DATABASE ninepin CHARACTER SET utf8mb4",
                    "CREATE USER secure@'%' IDENTIFIED BY 'for the test' REQUIRE SSL",
                    "CREATE USER secure@localhost IDENTIFIED BY 'for the test' REQUIRE SSL",
                    "GRANT ALL ON ninepin.* TO secure@'%'",
                    "GRANT ALL ON ninepin.* TO secure@localhost");
            try (ServerProcess server = application(database, "good", "verified", own)) {
                server.start();
                assertThat(server.get("/api/v1/jobs")).isEmpty();
            }
            for (String[] wrong : new String[][] {{"clear", "off"}, {"untrusted", "verified"}}) {
                try (ServerProcess server = application(database, wrong[0], wrong[1], other)) {
                    assertThatThrownBy(server::start).hasMessageContaining("The application ended");
                }
            }
        }
    }
}
