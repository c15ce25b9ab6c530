package ninepin.server.runs;

import java.nio.file.Path;
import ninepin.core.deliver.Target;
import ninepin.core.deliver.application.ApplicationRehearsal;
import ninepin.core.deliver.application.ApplicationTarget;
import ninepin.core.deliver.application.Patience;
import ninepin.core.deliver.database.DatabaseTarget;
import ninepin.core.deliver.database.RehearsalTarget;
import ninepin.core.job.Leg;
import ninepin.core.run.StopSignal;
import ninepin.server.connections.Connections;
import org.springframework.stereotype.Component;

/** The targets of legs, through the connections that their deliveries name. */
@Component
public class Targets {

    private final Connections connections;

    Targets(Connections connections) {
        this.connections = connections;
    }

    /**
     * Where the rows of a leg go.
     *
     * @param runKey what the run is known by in its targets
     * @param files where the run keeps what a target without transactions needs kept
     */
    Target of(Leg leg, String runKey, Path files, StopSignal stop) {
        String connection = leg.to().connection();
        return leg.toApplication()
                ? new ApplicationTarget(
                        connections.application(connection),
                        leg.requests(),
                        runKey,
                        files,
                        Patience.USUAL,
                        stop::requested)
                : new DatabaseTarget(connections.address(connection), leg.tables(), runKey);
    }

    /** The same, but that nothing is delivered. */
    public Target rehearsal(Leg leg) {
        String connection = leg.to().connection();
        return leg.toApplication()
                ? new ApplicationRehearsal(connections.application(connection), leg.requests())
                : new RehearsalTarget(connections.address(connection), leg.tables());
    }
}
