package ninepin.core.ready;

import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import ninepin.core.deliver.DatabaseAddress;
import ninepin.core.deliver.OwnStatement;
import ninepin.core.deliver.Places;
import ninepin.core.deliver.TargetException;
import ninepin.core.deliver.database.Dialect;
import ninepin.core.deliver.database.HostedSql;
import ninepin.core.deliver.database.OwnStatements;
import ninepin.core.job.Job;
import ninepin.core.job.Shortcoming;
import ninepin.core.layout.DefinitionException;
import ninepin.core.shape.RunFacts;

/** What keeps the statements of a job's own from running: each is shown to the server, which prepares it. */
public final class StatementReadiness {

    private final Job job;
    private final RunFacts facts;
    private final List<Shortcoming> found = new ArrayList<>();

    private StatementReadiness(Job job, RunFacts facts) {
        this.job = job;
        this.facts = facts;
    }

    /** Checks all statements of a job. */
    public static List<Shortcoming> check(Job job, RunFacts facts, Places places) {
        StatementReadiness readiness = new StatementReadiness(job, facts);
        for (int i = 0; i < job.statements().size(); i++) {
            readiness.check(i, job.statements().get(i), places);
        }
        return readiness.found;
    }

    private void check(int number, OwnStatement statement, Places places) {
        String name = "statement " + (number + 1);
        boolean goesThere = job.legs().stream()
                .anyMatch(l -> l.to().intoDatabase() && l.to().connection().equals(statement.connection()));
        if (!goesThere) {
            says(name, true, "JOB-45", "no delivery goes to its connection" + quoted(statement.connection()) + ".");
            return;
        }
        if (!places.ownSql()) {
            says(name, true, "JOB-46", Places.OWN_SQL_OFF);
            return;
        }
        DatabaseAddress address = places.database(statement.connection());
        HostedSql sql;
        try {
            sql = OwnStatements.parse(name, address.kind(), statement);
        } catch (DefinitionException e) {
            says(name, true, "JOB-46", e.getMessage());
            return;
        }
        List<String> unknown = sql.unknown(job.hosts(facts));
        if (!unknown.isEmpty()) {
            says(
                    name,
                    true,
                    "JOB-46",
                    "there is no host variable :" + unknown.get(0) + ". There are :"
                            + String.join(", :", job.hosts(facts).keySet()) + ".");
            return;
        }
        boolean commits =
                sql.sql().strip().toUpperCase(Locale.ROOT).matches("(?s)(CREATE|DROP|ALTER|TRUNCATE|RENAME)\\b.*");
        if (commits && !statement.alone()) {
            says(
                    name,
                    false,
                    "JOB-47",
                    "some databases commit what came before when they run it. Let it be a transaction of its own.");
        }
        Dialect dialect = Dialect.of(address);
        try (Connection connection = dialect.connect(address, Dialect.Use.STATEMENTS)) {
            String problem = OwnStatements.problem(dialect, connection, sql);
            if (problem != null) {
                says(name, true, "JOB-48", "the database does not take it: " + problem + ".");
            }
        } catch (TargetException e) {
            away(name, e);
        } catch (SQLException e) {
            away(name, dialect.explain(e, "show it to the database"));
        }
    }

    private void away(String name, TargetException e) {
        says(name, true, "JOB-48", e.getMessage());
        int last = found.size() - 1;
        found.set(last, found.get(last).passing(e.mayPass()));
    }

    private static String quoted(String name) {
        return name.isEmpty() ? "" : " " + name;
    }

    private void says(String name, boolean blocks, String code, String message) {
        String sentence = name.substring(0, 1).toUpperCase(Locale.ROOT) + name.substring(1) + ": " + message;
        found.add(new Shortcoming(blocks, 5, -1, name, code, sentence));
    }
}
