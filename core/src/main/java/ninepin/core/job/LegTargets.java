package ninepin.core.job;

import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermission;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import ninepin.core.deliver.ApplicationDelivery;
import ninepin.core.deliver.DatabaseAddress;
import ninepin.core.deliver.Destination;
import ninepin.core.deliver.FileDelivery;
import ninepin.core.deliver.FileDelivery.OutFile;
import ninepin.core.deliver.TableDelivery;
import ninepin.core.deliver.TableDescription;
import ninepin.core.deliver.Target;
import ninepin.core.deliver.TargetException;
import ninepin.core.deliver.application.ApplicationAddress;
import ninepin.core.deliver.application.ApplicationRehearsal;
import ninepin.core.deliver.application.ApplicationTarget;
import ninepin.core.deliver.application.OpenApi;
import ninepin.core.deliver.application.Patience;
import ninepin.core.deliver.database.DatabaseTarget;
import ninepin.core.deliver.database.HostedSql;
import ninepin.core.deliver.database.OwnStatements;
import ninepin.core.deliver.database.QueryCopy;
import ninepin.core.deliver.database.RehearsalTarget;
import ninepin.core.deliver.database.StagedTarget;
import ninepin.core.deliver.file.FileDescription;
import ninepin.core.deliver.file.FileName;
import ninepin.core.deliver.file.FileRehearsal;
import ninepin.core.deliver.file.FileTarget;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.Layout;
import ninepin.core.pickup.From;
import ninepin.core.run.StopSignal;
import ninepin.core.shape.RunFacts;

/** The targets of legs, wherever the names in their deliveries lead. */
public final class LegTargets {

    /** Where names lead. */
    public interface Places {
        DatabaseAddress database(String connection);

        ApplicationAddress application(String connection);

        /** The folder of files; it need not be there, and is never outside of its root. */
        Path folder(String root, String folder) throws TargetException;

        /** What a table takes; empty where it is not there. */
        Optional<TableDescription> table(String connection, String table) throws TargetException;

        /** Who may read and write delivered files; null for whom the process makes files for. */
        default Set<PosixFilePermission> modeOfFiles() {
            return null;
        }

        /** Whether SQL that people wrote may run. */
        default boolean ownSql() {
            return true;
        }
    }

    /** What is said where SQL that people wrote may not run. */
    public static final String OWN_SQL_OFF = "SQL of one's own is switched off here, by the setting ninepin.own-sql.";

    private final Places places;

    public LegTargets(Places places) {
        this.places = places;
    }

    /**
     * Where the rows of a leg go.
     *
     * @param key what the leg is known by in its target
     * @param files where the run keeps what a target without transactions needs kept
     */
    public Target of(Leg leg, Job job, RunFacts facts, String key, Path files, StopSignal stop) throws TargetException {
        String connection = leg.to().connection();
        return switch (leg.kind()) {
            case TABLES -> tables(leg, job, facts, key, stop);
            case APPLICATION ->
                new ApplicationTarget(
                        places.application(connection), leg.requests(), key, files, Patience.USUAL, stop::requested);
            case FILES ->
                new FileTarget(folder(leg), leg.records(), key, files, names(job.name(), facts), places.modeOfFiles());
        };
    }

    private Target tables(Leg leg, Job job, RunFacts facts, String key, StopSignal stop) {
        DatabaseAddress database = places.database(leg.to().connection());
        OwnStatements own = new OwnStatements(job.statements(leg), job.hosts(facts));
        return job.commit() == Job.Commit.STAGED
                ? new StagedTarget(database, leg.tables(), key, own, stop::requested)
                : new DatabaseTarget(database, leg.tables(), key, own, stop::requested);
    }

    /** The same, but that nothing is delivered. */
    public Target rehearsal(Leg leg, Job job, RunFacts facts) throws TargetException {
        String connection = leg.to().connection();
        return switch (leg.kind()) {
            case TABLES -> new RehearsalTarget(places.database(connection), leg.tables());
            case APPLICATION -> new ApplicationRehearsal(places.application(connection), leg.requests());
            case FILES -> new FileRehearsal(leg.records(), names(job.name(), facts));
        };
    }

    /** What keeps the statements of a job's own from running. */
    public List<Shortcoming> checkStatements(Job job, RunFacts facts) {
        return StatementReadiness.check(job, facts, places);
    }

    /**
     * What a job asks a database for in place of a file.
     *
     * @throws DefinitionException where the query cannot be read, or names a host variable that is not there
     */
    public QueryCopy query(Job job, RunFacts facts) {
        if (!places.ownSql()) {
            throw new DefinitionException("pickUp.query", OWN_SQL_OFF);
        }
        From.Query source = job.pickUp().query();
        DatabaseAddress address = places.database(source.connection());
        HostedSql sql = HostedSql.parse("pickUp.query", address.kind(), source.statement())
                .requireQuestion();
        Map<String, String> hosts = job.hosts(facts);
        List<String> unknown = sql.unknown(hosts);
        if (!unknown.isEmpty()) {
            throw new DefinitionException(
                    "pickUp.query",
                    "there is no host variable :" + unknown.get(0) + "; there are :"
                            + String.join(", :", hosts.keySet()));
        }
        return new QueryCopy(address, sql, hosts);
    }

    /** What keeps the query of a job from giving records of its layout. */
    public List<Shortcoming> checkQuery(Job job, Layout layout, RunFacts facts) {
        if (job.pickUp() == null || job.pickUp().query() == null) {
            return List.of();
        }
        if (!job.pickUp().query().decided()) {
            return List.of(ofQuery("There is no query yet: choose a connection and say what it is asked."));
        }
        try {
            query(job, facts).require(layout, job.pickUp().query().key());
            return List.of();
        } catch (DefinitionException e) {
            return List.of(ofQuery("The query: " + e.getMessage()));
        } catch (TargetException e) {
            return List.of(ofQuery("The query: " + e.getMessage()).passing(e.mayPass()));
        }
    }

    private static Shortcoming ofQuery(String message) {
        return new Shortcoming(true, 1, -1, "query", "JOB-49", message);
    }

    /** The folder that the files of a leg go to. */
    public Path folder(Leg leg) throws TargetException {
        OutFile file = ((FileDelivery) leg.to()).file();
        return places.folder(file.root(), file.folder());
    }

    private static FileName.Facts names(String job, RunFacts facts) {
        return new FileName.Facts(
                job,
                facts.runNumber(),
                facts.fileName(),
                facts.today().atTime(facts.startedAt().toLocalTime()));
    }

    /** What rules may fill; empty where it is not there. */
    public Optional<TableDescription> describe(Destination to) throws TargetException {
        if (to instanceof ApplicationDelivery a) {
            return OpenApi.read(places.application(a.connection()).description())
                    .operation(a.method(), a.path())
                    .flatMap(o -> o.table(a.part()));
        }
        if (to instanceof FileDelivery file) {
            return Optional.of(FileDescription.of(file));
        }
        return places.table(to.connection(), ((TableDelivery) to).table());
    }
}
