package ninepin.server.testing;

import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;

/**
 * Services whose root {@code share} counts as on another machine, with their sending under way.
 *
 * @param services what was started
 * @param world makes jobs and runs of them
 * @param folder where the other machine has its files; not there yet
 */
public record RemoteShare(Services services, SmallWorld world, Path folder) {

    /** Starts them on tables of a name. */
    public static RemoteShare start(Path folder, String name) throws IOException {
        Path share = folder.resolve("share");
        Services services = Services.start(
                folder, name, Map.of("ninepin.roots.share", share.toString(), "ninepin.remote-roots", "share"));
        services.startSending();
        return new RemoteShare(services, new SmallWorld(services), share);
    }

    /** The states of the files of a run that are to be sent, in their order. */
    public List<String> states(long run) {
        return services.database()
                .rows(services.tables(), "SELECT state FROM outbox WHERE run_id = " + run + " ORDER BY number");
    }
}
