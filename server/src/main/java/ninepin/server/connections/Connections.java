package ninepin.server.connections;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import ninepin.core.deliver.ApplicationAddress;
import ninepin.core.deliver.DatabaseAddress;
import ninepin.core.deliver.DatabaseKind;
import ninepin.core.deliver.TableDescription;
import ninepin.core.deliver.TargetException;
import ninepin.core.deliver.Tls;
import ninepin.core.deliver.application.OpenApi;
import ninepin.core.deliver.application.Operation;
import ninepin.core.deliver.database.Catalog;
import ninepin.core.deliver.database.Dialect;
import ninepin.core.deliver.jdbc.Drivers;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.Names;
import ninepin.server.api.Problems;
import ninepin.server.config.NinepinSettings;
import ninepin.server.security.Seal;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Service;

/** The connections and what can be asked of them. Passwords go in and never come out. */
@Service
public class Connections {

    /**
     * A connection as people see it.
     *
     * @param user the user; of an application, see {@link ninepin.core.deliver.Authentication}
     * @param hasPassword whether a password or another secret is kept; it is never told itself
     * @param base where an application answers; null for a database
     * @param authentication how callers show an application who they are; null for a database
     * @param descriptionPath where an application's OpenAPI document was fetched, or null
     * @param operations how many operations an application describes that take something
     * @param tls how the way to a database is kept from being read, as {@link Tls.Mode#named} knows it
     * @param certificate the certificate, as PEM text, that the database's is or is signed by; or null
     */
    public record ConnectionView(
            String name,
            String title,
            String kind,
            String host,
            int port,
            String database,
            String user,
            boolean hasPassword,
            String base,
            String authentication,
            String descriptionPath,
            int operations,
            String tls,
            String certificate,
            Instant updatedAt,
            String updatedBy) {}

    /**
     * A connection as people write it.
     *
     * @param kind what kind of database it is, as {@link DatabaseKind#named} knows it, or {@code application}
     * @param password the new password or other secret; null keeps the one that is there
     * @param base where an application answers
     * @param authentication how callers show it who they are
     * @param descriptionPath where its OpenAPI document stands, to be fetched; or null
     * @param description the document itself, where it is not fetched; null keeps the one that is there
     * @param tls how the way to a database is kept from being read; null for what is usual to its host
     * @param certificate the certificate, as PEM text, that the database's is or is signed by; null for the authorities that
     *     the Java runtime trusts
     */
    public record ConnectionInput(
            String title,
            String kind,
            String host,
            int port,
            String database,
            String user,
            String password,
            String base,
            String authentication,
            String descriptionPath,
            String description,
            String tls,
            String certificate) {

        /** Of MariaDB. */
        public ConnectionInput(String title, String host, int port, String database, String user, String password) {
            this(title, null, host, port, database, user, password);
        }

        /** Of a database. */
        public ConnectionInput(
                String title, String kind, String host, int port, String database, String user, String password) {
            this(title, kind, host, port, database, user, password, null, null, null, null, null, null);
        }

        /** Of an application. */
        public static ConnectionInput application(
                String title,
                String base,
                String authentication,
                String user,
                String secret,
                String descriptionPath,
                String description) {
            return new ConnectionInput(
                    title,
                    APPLICATION,
                    null,
                    0,
                    null,
                    user,
                    secret,
                    base,
                    authentication,
                    descriptionPath,
                    description,
                    null,
                    null);
        }

        /** How the way to a database is kept from being read. */
        Tls wire() {
            return tls == null || tls.isBlank()
                    ? new Tls(Tls.usual(host).mode(), certificate)
                    : new Tls(Tls.Mode.named(tls), certificate);
        }

        boolean application() {
            return APPLICATION.equals(kind);
        }

        public ConnectionInput {
            kind = kind == null || kind.isBlank() ? DatabaseKind.MARIADB.toString() : kind;
        }
    }

    /** Whether a connection answers: the server's version, or what is wrong. */
    public record TestResult(boolean ok, String message) {}

    /** A few rows of a table, as text. */
    public record TableRows(List<String> columns, List<List<String>> rows, long shown) {}

    private static final Logger LOG = LoggerFactory.getLogger(Connections.class);
    private static final int MOST_ROWS = 500;

    /** The kind of connections that lead to applications. */
    public static final String APPLICATION = "application";

    private final ConnectionMapper mapper;
    private final Seal seal;
    private final Clock clock;
    private final Applications applications;
    private final List<ConnectionUse> uses;
    private final KeptSecret secrets;
    private final Drivers drivers;

    Connections(
            ConnectionMapper mapper,
            Seal seal,
            Clock clock,
            Applications applications,
            List<ConnectionUse> uses,
            KeptSecret secrets,
            NinepinSettings settings) {
        this.drivers = Drivers.in(settings.drivers());
        drivers.troubles().forEach(LOG::warn);
        this.secrets = secrets;
        this.applications = applications;
        this.uses = uses;
        this.mapper = mapper;
        this.seal = seal;
        this.clock = clock;
    }

    public List<ConnectionView> all() {
        return mapper.all().stream().map(Connections::view).toList();
    }

    private static ConnectionView view(ConnectionMapper.Row r) {
        return new ConnectionView(
                r.name(),
                r.title(),
                r.kind(),
                r.host(),
                r.port(),
                r.databaseName(),
                r.userName(),
                r.hasSecret(),
                r.base(),
                r.authentication(),
                r.descriptionPath(),
                r.description() == null
                        ? 0
                        : OpenApi.read(r.description()).operations().size(),
                r.tls(),
                r.certificate(),
                r.updatedAt(),
                r.updatedBy());
    }

    public ConnectionView put(String name, ConnectionInput in, String who) {
        Names.requireSlug("connection name", name);
        byte[] sealed = seal.seal(secrets.of(name, in));
        String description = null;
        if (in.application()) {
            description = applications.description(name, in);
            OpenApi.read(description);
        } else {
            address(in, "");
        }
        mapper.put(new ConnectionMapper.Row(
                name,
                in.title() == null || in.title().isBlank() ? name : in.title(),
                in.kind(),
                in.application() ? "" : in.host(),
                in.port(),
                in.application() ? "" : in.database(),
                in.user() == null ? "" : in.user(),
                sealed,
                in.base(),
                in.authentication(),
                in.descriptionPath(),
                description,
                in.application() ? Tls.Mode.OFF.toString() : in.wire().mode().toString(),
                in.application() ? null : in.wire().issuer(),
                clock.instant(),
                who));
        return view(mapper.find(name).orElseThrow());
    }

    /** How an application is reached; its secret opened, for use and not for showing. */
    public ApplicationAddress application(String name) {
        return applications.address(name);
    }

    /** What an application takes, in the order of its description. */
    public List<Operation> operations(String name) {
        return OpenApi.read(application(name).description()).operations();
    }

    private DatabaseAddress address(ConnectionInput in, String password) {
        try {
            return addressOf(in.kind(), in.host(), in.port(), in.database(), in.user(), password, in.wire());
        } catch (IllegalArgumentException e) {
            throw new DefinitionException("connection", e.getMessage());
        }
    }

    /** What would no longer work without a connection. */
    List<ConnectionUse.Use> usesOf(String name) {
        return uses.stream().flatMap(u -> u.usesOf(name).stream()).toList();
    }

    /** Deletes a connection that nothing needs. */
    public void delete(String name) {
        List<ConnectionUse.Use> used = usesOf(name);
        if (!used.isEmpty()) {
            throw Problems.conflict("The connection " + name + " is used by "
                    + used.stream().map(Object::toString).collect(Collectors.joining(", ")) + ".");
        }
        if (mapper.delete(name) == 0) {
            throw Problems.notFound("There is no connection " + name + ".");
        }
    }

    /** The name of a connection that there is. */
    String known(String name) {
        return mapper.find(name)
                .orElseThrow(() -> Problems.notFound("There is no connection named " + name + "."))
                .name();
    }

    /** How a connection is reached; its password opened, for use and not for showing. */
    public DatabaseAddress address(String name) {
        ConnectionMapper.Row r = mapper.find(name)
                .orElseThrow(() -> Problems.unprocessable("There is no connection named " + name + "."));
        if (APPLICATION.equals(r.kind())) {
            throw Problems.unprocessable(name + " is an application and has no tables.");
        }
        return addressOf(
                r.kind(),
                r.host(),
                r.port(),
                r.databaseName(),
                r.userName(),
                seal.open(r.sealedPassword()),
                new Tls(Tls.Mode.named(r.tls()), r.certificate()));
    }

    private DatabaseAddress addressOf(
            String kind, String host, int port, String database, String user, String password, Tls wire) {
        return drivers.named(kind)
                .map(d -> new DatabaseAddress(d, host, port, database, user, password))
                .orElseGet(() ->
                        new DatabaseAddress(DatabaseKind.named(kind), host, port, database, user, password, wire));
    }

    /**
     * A kind of database that connections can lead to.
     *
     * @param port the port that its servers usually listen on; 0 where there is none
     * @param own whether Ninepin knows it itself; else the operator has put its driver there, whose address says how the way is kept
     */
    public record KindView(String name, String title, int port, boolean own) {}

    /** The kinds of databases that connections can lead to. */
    public List<KindView> kinds() {
        return Stream.concat(
                        Stream.of(DatabaseKind.MARIADB, DatabaseKind.POSTGRESQL)
                                .map(k -> new KindView(k.toString(), k.words(), k.port(), true)),
                        drivers.all().stream().map(d -> new KindView(d.name(), d.title(), d.port(), false)))
                .toList();
    }

    /** Tries a connection as it is written, with the password that is kept where none is given. */
    public TestResult test(String name, ConnectionInput in) {
        return in.application() ? applications.test(name, in) : testDatabase(name, in);
    }

    private TestResult testDatabase(String name, ConnectionInput in) {
        DatabaseAddress address = address(in, secrets.of(name, in));
        Dialect dialect = Dialect.of(address);
        try (Connection c = dialect.connect(address, Dialect.Use.QUESTIONS)) {
            String version = c.getMetaData().getDatabaseProductVersion();
            int tables = dialect.catalog(c).tables().size();
            return new TestResult(
                    true,
                    "Answers: " + c.getMetaData().getDatabaseProductName() + " " + version + ", " + tables
                            + (tables == 1 ? " table." : " tables."));
        } catch (TargetException e) {
            return new TestResult(false, e.getMessage());
        } catch (SQLException e) {
            return new TestResult(
                    false, dialect.explain(e, "look at the tables").getMessage());
        }
    }

    public List<Catalog.Listed> tables(String name) throws TargetException {
        return ask(name, (d, c) -> d.catalog(c).tables());
    }

    /** A table as the database describes it; empty when it is not there. */
    public Optional<TableDescription> table(String name, String table) throws TargetException {
        return ask(name, (d, c) -> d.catalog(c).describe(table));
    }

    /** Rows of a table as they are now, the newest first where its first column orders them. */
    public TableRows rows(String name, String table, int most) throws TargetException {
        return ask(name, (d, c) -> {
            TableDescription description = d.catalog(c)
                    .describe(table)
                    .orElseThrow(() -> Problems.notFound("There is no table " + table + "."));
            String from = d.qualified(description);
            List<List<String>> rows = new ArrayList<>();
            int shown = Math.min(Math.max(most, 1), MOST_ROWS);
            try (Statement s = c.createStatement()) {
                s.setMaxRows(shown);
                ResultSet r = s.executeQuery(d.limited("SELECT * FROM " + from + " ORDER BY 1 DESC", shown));
                while (r.next()) {
                    List<String> row = new ArrayList<>();
                    for (int i = 1; i <= description.columns().size(); i++) {
                        row.add(d.text(r, i));
                    }
                    rows.add(row);
                }
            }
            List<String> columns = description.columns().stream()
                    .map(TableDescription.Column::name)
                    .toList();
            return new TableRows(columns, rows, rows.size());
        });
    }

    /** A row by a key, as it is now; empty where there is none. */
    public Optional<Map<String, String>> row(String name, String table, Map<String, String> key)
            throws TargetException {
        return ask(name, (d, c) -> {
            TableDescription description = d.catalog(c).describe(table).orElse(null);
            if (description == null || key.isEmpty() || key.containsValue(null)) {
                return Optional.empty();
            }
            List<TableDescription.Column> columns = new ArrayList<>();
            for (String part : key.keySet()) {
                columns.add(description
                        .column(part)
                        .orElseThrow(
                                () -> Problems.unprocessable("There is no column " + part + " in " + table + ".")));
            }
            String from = d.qualified(description);
            String where = columns.stream()
                    .map(k -> d.quoted(k.name()) + " = " + d.parameter(k))
                    .collect(Collectors.joining(" AND "));
            try (PreparedStatement s = c.prepareStatement(d.limited("SELECT * FROM " + from + " WHERE " + where, 1))) {
                int at = 1;
                for (String value : key.values()) {
                    s.setString(at++, value);
                }
                try (ResultSet r = s.executeQuery()) {
                    return r.next() ? Optional.of(values(d, r, description)) : Optional.empty();
                }
            }
        });
    }

    private static Map<String, String> values(Dialect d, ResultSet r, TableDescription description)
            throws SQLException {
        Map<String, String> values = new LinkedHashMap<>();
        for (int i = 0; i < description.columns().size(); i++) {
            values.put(description.columns().get(i).name(), d.text(r, i + 1));
        }
        return values;
    }

    private interface Question<T> {
        T of(Dialect dialect, Connection connection) throws SQLException;
    }

    private <T> T ask(String name, Question<T> question) throws TargetException {
        DatabaseAddress address = address(name);
        Dialect dialect = Dialect.of(address);
        try (Connection c = dialect.connect(address, Dialect.Use.QUESTIONS)) {
            return question.of(dialect, c);
        } catch (SQLException e) {
            throw dialect.explain(e, "look at the tables");
        }
    }
}
