package ninepin.core.job;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
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
import ninepin.core.deliver.database.OwnStatements;
import ninepin.core.deliver.database.RehearsalTarget;
import ninepin.core.deliver.file.FileDescription;
import ninepin.core.deliver.file.FileName;
import ninepin.core.deliver.file.FileRehearsal;
import ninepin.core.deliver.file.FileTarget;
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
    }

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
            case TABLES ->
                new DatabaseTarget(
                        places.database(connection),
                        leg.tables(),
                        key,
                        new OwnStatements(job.statements(leg), job.hosts(facts)));
            case APPLICATION ->
                new ApplicationTarget(
                        places.application(connection), leg.requests(), key, files, Patience.USUAL, stop::requested);
            case FILES -> new FileTarget(folder(leg), leg.records(), key, files, names(job.name(), facts));
        };
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
