package ninepin.server.cli;

import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import ninepin.core.deliver.ApplicationDelivery;
import ninepin.core.deliver.DatabaseAddress;
import ninepin.core.deliver.Destination;
import ninepin.core.deliver.TableDelivery;
import ninepin.core.deliver.TableDescription;
import ninepin.core.deliver.Target;
import ninepin.core.deliver.TargetException;
import ninepin.core.deliver.application.ApplicationRehearsal;
import ninepin.core.deliver.application.ApplicationTarget;
import ninepin.core.deliver.application.OpenApi;
import ninepin.core.deliver.application.Patience;
import ninepin.core.deliver.database.DatabaseTarget;
import ninepin.core.deliver.database.Dialect;
import ninepin.core.deliver.database.RehearsalTarget;
import ninepin.core.job.Delivery;
import ninepin.core.job.Job;
import ninepin.core.job.Leg;
import ninepin.core.run.StopSignal;

/** The places that a job delivers to, through the connections that the settings name. */
final class CommandTargets {

    private final FileSettings settings;
    private final String key;
    private final boolean rehearse;

    /**
     * @param key what the run is known by
     * @param rehearse whether nothing is delivered
     */
    CommandTargets(FileSettings settings, String key, boolean rehearse) {
        this.settings = settings;
        this.key = key;
        this.rehearse = rehearse;
    }

    /** What rules of each delivery may fill; empty where it is not there. */
    List<Optional<TableDescription>> describe(Job job) throws TargetException {
        List<Optional<TableDescription>> all = new ArrayList<>();
        for (Delivery delivery : job.deliveries()) {
            Destination to = delivery.to();
            all.add(to == null || !to.decided() ? Optional.empty() : describe(to));
        }
        return all;
    }

    private Optional<TableDescription> describe(Destination to) throws TargetException {
        if (to instanceof ApplicationDelivery a) {
            return OpenApi.read(settings.application(a.connection()).description())
                    .operation(a.method(), a.path())
                    .flatMap(o -> o.table(a.part()));
        }
        DatabaseAddress address = settings.connection(to.connection());
        Dialect dialect = Dialect.of(address);
        try (Connection connection = dialect.connect(address)) {
            return dialect.catalog(connection).describe(((TableDelivery) to).table());
        } catch (SQLException e) {
            throw dialect.explain(e, "describe the tables");
        }
    }

    /**
     * Where the rows of a leg go.
     *
     * @param files where a target without transactions keeps what it needs
     */
    Target of(Leg leg, Path files, StopSignal stop) {
        String connection = leg.to().connection();
        String own = leg.number() == 0 ? key : key + "-" + leg.number();
        if (leg.toApplication()) {
            return rehearse
                    ? new ApplicationRehearsal(settings.application(connection), leg.requests())
                    : new ApplicationTarget(
                            settings.application(connection),
                            leg.requests(),
                            own,
                            files,
                            Patience.USUAL,
                            stop::requested);
        }
        return rehearse
                ? new RehearsalTarget(settings.connection(connection), leg.tables())
                : new DatabaseTarget(settings.connection(connection), leg.tables(), own);
    }
}
