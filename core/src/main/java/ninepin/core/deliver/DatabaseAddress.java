package ninepin.core.deliver;

import java.util.Objects;

/**
 * How a database is reached. Never printed with its password.
 *
 * @param kind what kind of database it is
 * @param host the host name or address
 * @param port the port, usually 3306
 * @param database the database (schema) that tables without a schema are looked for in
 * @param user the user
 * @param password the password, or empty
 * @param tls how the way there is kept from being read
 * @param driver the driver of another kind of database; else null
 */
public record DatabaseAddress(
        DatabaseKind kind,
        String host,
        int port,
        String database,
        String user,
        String password,
        Tls tls,
        JdbcDriver driver) {

    /** Of a kind that Ninepin knows itself. */
    public DatabaseAddress(
            DatabaseKind kind, String host, int port, String database, String user, String password, Tls tls) {
        this(kind, host, port, database, user, password, tls, null);
    }

    /** Of another kind, by a driver, whose own address says how the way there is kept. */
    public DatabaseAddress(JdbcDriver driver, String host, int port, String database, String user, String password) {
        this(DatabaseKind.OTHER, host, port, database, user, password, Tls.OFF, driver);
    }

    /** In the clear. */
    public DatabaseAddress(DatabaseKind kind, String host, int port, String database, String user, String password) {
        this(kind, host, port, database, user, password, Tls.OFF);
    }

    /** Of MariaDB, in the clear. */
    public DatabaseAddress(String host, int port, String database, String user, String password) {
        this(DatabaseKind.MARIADB, host, port, database, user, password);
    }

    public DatabaseAddress {
        kind = kind == null ? DatabaseKind.MARIADB : kind;
        if (host == null || !host.matches("[A-Za-z0-9._:-]{1,253}")) {
            throw new IllegalArgumentException("\"" + host + "\" is not a host name");
        }
        boolean none = kind == DatabaseKind.OTHER && port == 0;
        if (!none && (port < 1 || port > 65_535)) {
            throw new IllegalArgumentException(port + " is not a port");
        }
        if (database == null || !database.matches("[A-Za-z0-9_$-]{1,64}")) {
            throw new IllegalArgumentException("\"" + database + "\" is not a database name");
        }
        if ((kind == DatabaseKind.OTHER) != (driver != null)) {
            throw new IllegalArgumentException("a driver is what another kind of database needs, and no other");
        }
        user = Objects.requireNonNullElse(user, "");
        password = Objects.requireNonNullElse(password, "");
        tls = Objects.requireNonNullElse(tls, Tls.OFF);
    }

    @Override
    public String toString() {
        return user + "@" + host + ":" + port + "/" + database;
    }
}
