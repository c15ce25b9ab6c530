package ninepin.server.cli;

import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import ninepin.core.deliver.ApplicationAddress;
import ninepin.core.deliver.DatabaseAddress;
import ninepin.core.deliver.Destination;
import ninepin.core.deliver.TableDescription;
import ninepin.core.deliver.Target;
import ninepin.core.deliver.TargetException;
import ninepin.core.deliver.database.Dialect;
import ninepin.core.destination.Destinations;
import ninepin.core.destination.support.DestinationSupport;
import ninepin.core.destination.support.TargetContext;
import ninepin.core.job.Delivery;
import ninepin.core.job.Job;
import ninepin.core.job.Leg;
import ninepin.core.job.Shortcoming;
import ninepin.core.ready.StatementReadiness;
import ninepin.core.run.StopSignal;
import ninepin.core.shape.RunFacts;

/** The places that a job delivers to, through the connections and root folders that the settings name. */
final class CommandTargets {

    private final ninepin.core.deliver.Places places;
    private final Job job;
    private final RunFacts facts;
    private final String key;
    private final boolean rehearse;

    /**
     * @param key what the run is known by
     * @param rehearse whether nothing is delivered
     */
    CommandTargets(FileSettings settings, Job job, RunFacts facts, String key, boolean rehearse) {
        this.places = new Places(settings);
        this.job = job;
        this.facts = facts;
        this.key = key;
        this.rehearse = rehearse;
    }

    record Places(FileSettings settings) implements ninepin.core.deliver.Places {
        @Override
        public DatabaseAddress database(String connection) {
            return settings.connection(connection);
        }

        @Override
        public ApplicationAddress application(String connection) {
            return settings.application(connection);
        }

        @Override
        public Path folder(String root, String folder) throws TargetException {
            return settings.inside(root, folder);
        }

        @Override
        public boolean isRemote(String root) {
            return settings.isRemote(root);
        }

        @Override
        public Optional<TableDescription> table(String connection, String table) throws TargetException {
            DatabaseAddress address = settings.connection(connection);
            Dialect dialect = Dialect.of(address);
            try (Connection open = dialect.connect(address, Dialect.Use.QUESTIONS)) {
                return dialect.catalog(open).describe(table);
            } catch (SQLException e) {
                throw dialect.explain(e, "describe the tables");
            }
        }
    }

    /** What rules of each delivery may fill; empty where it is not there. */
    List<Optional<TableDescription>> describe(Job of) throws TargetException {
        List<Optional<TableDescription>> all = new ArrayList<>();
        for (Delivery delivery : of.deliveries()) {
            Destination to = delivery.to();
            all.add(to == null || !to.decided() ? Optional.empty() : Destinations.describe(to, places));
        }
        return all;
    }

    /** What keeps the statements of the job's own from running, and what its places cannot do. */
    List<Shortcoming> checkStatements() {
        List<Shortcoming> found = new ArrayList<>(StatementReadiness.check(job, facts, places));
        found.addAll(Destinations.check(job, facts, places));
        return found;
    }

    private String keyOf(Leg leg) {
        return leg.number() == 0 ? key : key + "-" + leg.number();
    }

    /** What sends the files of a leg; empty where it writes none. */
    Optional<CommandOutbox> outbox(Leg leg, Path files) {
        return Destinations.files(job, leg).map(of -> new CommandOutbox(of, places, keyOf(leg), files));
    }

    /**
     * Where the rows of a leg go.
     *
     * @param files where a target without transactions keeps what it needs
     */
    Target of(Leg leg, Path files, StopSignal stop) throws TargetException {
        String own = keyOf(leg);
        DestinationSupport of = Destinations.of(job, leg);
        return rehearse ? of.rehearsal(places, facts) : of.open(new TargetContext(places, facts, own, files, stop));
    }
}
