package ninepin.core.deliver.database;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import java.util.stream.Stream;
import ninepin.core.deliver.DatabaseAddress;
import ninepin.core.deliver.DatabaseKind;
import ninepin.core.deliver.TargetException;
import ninepin.core.deliver.Tls;
import ninepin.core.deliver.database.Dialect.Use;
import ninepin.core.testing.MariaDbServer;
import ninepin.core.testing.PostgreSqlServer;
import ninepin.core.testing.SmallDisk;
import ninepin.core.testing.TestCertificate;
import ninepin.core.testing.TestDatabase;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.MethodSource;

/** What a connection lets a statement do, and to whom it speaks. */
class ConnectionsTest {

    @TempDir
    Path folder;

    static Stream<Arguments> databases() {
        return Stream.of(
                Arguments.of("mariadb", MariaDbServer.shared()), Arguments.of("postgresql", PostgreSqlServer.shared()));
    }

    private static void execute(DatabaseAddress address, Use use, String sql) throws Exception {
        try (Connection c = Dialect.of(address).connect(address, use);
                Statement s = c.createStatement()) {
            s.execute(sql);
        }
    }

    @ParameterizedTest(name = "{0}", autoCloseArguments = false)
    @MethodSource("databases")
    void one_for_questions_writes_nothing(String name, TestDatabase server) throws Exception {
        DatabaseAddress address = server.database("uses");
        execute(address, Use.STATEMENTS, "CREATE TABLE farm (no INT)");
        for (String sql : List.of("INSERT INTO farm VALUES (1)", "CREATE TABLE other (no INT)", "DROP TABLE farm")) {
            assertThatThrownBy(() -> execute(address, Use.QUESTIONS, sql))
                    .isInstanceOf(SQLException.class)
                    .message()
                    .containsIgnoringCase("read");
        }
        execute(address, Use.STATEMENTS, "INSERT INTO farm VALUES (2)");
        assertThat(server.rows("uses", "SELECT no FROM farm")).containsExactly("2");
    }

    /** A server or a statement cannot have the driver send a file of this machine. */
    @Test
    void no_statement_reads_a_file_of_this_machine() throws Exception {
        TestDatabase server = MariaDbServer.shared();
        DatabaseAddress address = server.database("uses");
        execute(address, Use.STATEMENTS, "CREATE TABLE stolen (line VARCHAR(200))");
        Path secret = Files.writeString(folder.resolve("seal.key"), "the key\n");
        String load = "LOAD DATA LOCAL INFILE '" + secret + "' INTO TABLE stolen";
        for (Use use : List.of(Use.QUESTIONS, Use.STATEMENTS)) {
            assertThatThrownBy(() -> execute(address, use, load)).isInstanceOf(SQLException.class);
        }
        Dialect dialect = Dialect.of(address);
        try (Connection c = dialect.connect(address, Use.LOADS);
                PreparedStatement s = c.prepareStatement(load)) {
            dialect.keepFromFiles(s);
            assertThatThrownBy(s::execute).isInstanceOf(SQLException.class);
        }
        assertThat(server.rows("uses", "SELECT COUNT(*) FROM stolen")).containsExactly("0");
    }

    private TestDatabase encrypted(DatabaseKind kind, TestCertificate own) throws Exception {
        if (kind == DatabaseKind.MARIADB) {
            return MariaDbServer.start(List.of("--ssl-cert=" + own.certificateFile(), "--ssl-key=" + own.keyFile()));
        }
        // PostgreSQL wants the key to be its user's own.
        Files.setPosixFilePermissions(folder, PosixFilePermissions.fromString("rwxr-xr-x"));
        if ("root".equals(System.getProperty("user.name"))) {
            SmallDisk.shell("chown postgres " + own.keyFile());
        }
        return PostgreSqlServer.start(List.of(
                "-c", "ssl=on", "-c", "ssl_cert_file=" + own.certificateFile(), "-c", "ssl_key_file=" + own.keyFile()));
    }

    private static DatabaseAddress at(DatabaseAddress a, String host, Tls tls) {
        return new DatabaseAddress(a.kind(), host, a.port(), a.database(), a.user(), a.password(), tls);
    }

    private static boolean isEncrypted(DatabaseAddress address) throws Exception {
        String sql = address.kind() == DatabaseKind.MARIADB
                ? "SELECT variable_value <> '' FROM information_schema.session_status WHERE variable_name = 'SSL_CIPHER'"
                : "SELECT ssl FROM pg_stat_ssl WHERE pid = pg_backend_pid()";
        try (Connection c = Dialect.of(address).connect(address, Use.QUESTIONS);
                var r = c.createStatement().executeQuery(sql)) {
            return r.next() && r.getBoolean(1);
        }
    }

    @ParameterizedTest
    @EnumSource(DatabaseKind.class)
    void encrypted_to_the_server_that_is_trusted_and_to_no_other(DatabaseKind kind) throws Exception {
        TestCertificate own = TestCertificate.make(folder, "localhost");
        TestCertificate other = TestCertificate.make(Files.createDirectory(folder.resolve("other")), "localhost");
        try (TestDatabase server = encrypted(kind, own)) {
            DatabaseAddress plain = server.database("wire");
            assertThat(isEncrypted(at(plain, "localhost", Tls.OFF))).isFalse();
            assertThat(isEncrypted(at(plain, "localhost", new Tls(Tls.Mode.VERIFIED, own.certificate()))))
                    .isTrue();
            for (DatabaseAddress untrusted : List.of(
                    at(plain, "localhost", new Tls(Tls.Mode.VERIFIED, null)),
                    at(plain, "localhost", new Tls(Tls.Mode.VERIFIED, other.certificate())),
                    at(plain, "127.0.0.1", new Tls(Tls.Mode.VERIFIED, own.certificate())))) {
                refused(untrusted, "certificate is not trusted, or bears another name");
            }
        }
    }

    @Test
    void a_server_that_offers_no_encryption_is_not_spoken_to() throws Exception {
        DatabaseAddress plain = PostgreSqlServer.shared().database("wire");
        refused(at(plain, "localhost", new Tls(Tls.Mode.VERIFIED, null)), "offers no encrypted connection");
    }

    private static void refused(DatabaseAddress address, String says) {
        TargetException told = catchThrowableOfType(
                TargetException.class, () -> Dialect.of(address).connect(address, Use.QUESTIONS));
        assertThat(told).as("%s", address.tls()).isNotNull();
        assertThat(told.code()).as(told.getMessage()).isEqualTo("DBS-11");
        assertThat(told.mayPass()).isFalse();
        assertThat(told).hasMessageContaining(says);
    }
}
