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
 */
public record DatabaseAddress(
        DatabaseKind kind, String host, int port, String database, String user, String password, Tls tls) {

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
        if (port < 1 || port > 65_535) {
            throw new IllegalArgumentException(port + " is not a port");
        }
        if (database == null || !database.matches("[A-Za-z0-9_$-]{1,64}")) {
            throw new IllegalArgumentException("\"" + database + "\" is not a database name");
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
