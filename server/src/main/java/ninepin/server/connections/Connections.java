package ninepin.server.connections;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import ninepin.core.deliver.DatabaseAddress;
import ninepin.core.deliver.DatabaseKind;
import ninepin.core.deliver.TableDescription;
import ninepin.core.deliver.TargetException;
import ninepin.core.deliver.database.Catalog;
import ninepin.core.deliver.database.Dialect;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.Names;
import ninepin.server.api.Problems;
import ninepin.server.security.Seal;
import org.springframework.stereotype.Service;

/** The connections and what can be asked of them. Passwords go in and never come out. */
@Service
public class Connections {

    /**
     * A connection as people see it.
     *
     * @param hasPassword whether a password is kept; the password itself is never told
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
            Instant updatedAt,
            String updatedBy) {}

    /**
     * A connection as people write it.
     *
     * @param kind what kind of database it is, as {@link DatabaseKind#named} knows it
     * @param password the new password; null keeps the one that is there
     */
    public record ConnectionInput(
            String title, String kind, String host, int port, String database, String user, String password) {

        /** Of MariaDB. */
        public ConnectionInput(String title, String host, int port, String database, String user, String password) {
            this(title, null, host, port, database, user, password);
        }

        public ConnectionInput {
            kind = kind == null || kind.isBlank() ? DatabaseKind.MARIADB.toString() : kind;
        }
    }

    /** Whether a connection answers: the server's version, or what is wrong. */
    public record TestResult(boolean ok, String message) {}

    /** A few rows of a table, as text. */
    public record TableRows(List<String> columns, List<List<String>> rows, long shown) {}

    private final ConnectionMapper mapper;
    private final Seal seal;
    private final Clock clock;
    private final List<ConnectionUse> uses;

    Connections(ConnectionMapper mapper, Seal seal, Clock clock, List<ConnectionUse> uses) {
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
                r.sealedPassword().length > 0,
                r.updatedAt(),
                r.updatedBy());
    }

    public ConnectionView put(String name, ConnectionInput in, String who) {
        Names.requireSlug("connection name", name);
        byte[] sealed = in.password() != null
                ? seal.seal(in.password())
                : mapper.find(name).map(ConnectionMapper.Row::sealedPassword).orElseGet(() -> seal.seal(""));
        address(in, "");
        mapper.put(new ConnectionMapper.Row(
                name,
                in.title() == null || in.title().isBlank() ? name : in.title(),
                in.kind(),
                in.host(),
                in.port(),
                in.database(),
                in.user(),
                sealed,
                clock.instant(),
                who));
        return view(mapper.find(name).orElseThrow());
    }

    private static DatabaseAddress address(ConnectionInput in, String password) {
        try {
            return new DatabaseAddress(
                    DatabaseKind.named(in.kind()), in.host(), in.port(), in.database(), in.user(), password);
        } catch (IllegalArgumentException e) {
            throw new DefinitionException("connection", e.getMessage());
        }
    }

    public List<String> usersOf(String name) {
        return uses.stream().flatMap(u -> u.usersOf(name).stream()).toList();
    }

    /** Deletes a connection that nothing needs. */
    public void delete(String name) {
        List<String> jobs = usersOf(name);
        if (!jobs.isEmpty()) {
            throw Problems.conflict("The connection " + name + " is used by " + String.join(", ", jobs) + ".");
        }
        if (mapper.delete(name) == 0) {
            throw Problems.notFound("There is no connection " + name + ".");
        }
    }

    /** How a connection is reached; its password opened, for use and not for showing. */
    public DatabaseAddress address(String name) {
        ConnectionMapper.Row r = mapper.find(name)
                .orElseThrow(() -> Problems.unprocessable("There is no connection named " + name + "."));
        return new DatabaseAddress(
                DatabaseKind.named(r.kind()),
                r.host(),
                r.port(),
                r.databaseName(),
                r.userName(),
                seal.open(r.sealedPassword()));
    }

    /** Tries a connection as it is written, with the password that is kept where none is given. */
    public TestResult test(String name, ConnectionInput in) {
        String password = in.password() != null
                ? in.password()
                : mapper.find(name).map(r -> seal.open(r.sealedPassword())).orElse("");
        DatabaseAddress address = address(in, password);
        Dialect dialect = Dialect.of(address);
        try (Connection c = dialect.connect(address)) {
            String version = c.getMetaData().getDatabaseProductVersion();
            int tables = dialect.catalog(c).tables().size();
            return new TestResult(
                    true,
                    "Answers: " + c.getMetaData().getDatabaseProductName() + " " + version + ", " + tables
                            + " tables.");
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
            String from = d.quoted(description.schema()) + "." + d.quoted(description.name());
            List<List<String>> rows = new ArrayList<>();
            try (Statement s = c.createStatement();
                    ResultSet r = s.executeQuery(
                            "SELECT * FROM " + from + " ORDER BY 1 DESC LIMIT " + Math.min(Math.max(most, 1), 500))) {
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

    private interface Question<T> {
        T of(Dialect dialect, Connection connection) throws SQLException;
    }

    private <T> T ask(String name, Question<T> question) throws TargetException {
        DatabaseAddress address = address(name);
        Dialect dialect = Dialect.of(address);
        try (Connection c = dialect.connect(address)) {
            return question.of(dialect, c);
        } catch (SQLException e) {
            throw dialect.explain(e, "look at the tables");
        }
    }
}
