package ninepin.server.config;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.UUID;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/**
 * This process as an owner of runs. Its name is that of its data folder, which only one process at a time can use, and a number
 * of this start: so a run whose owner has the name and another number belongs to a process that is gone.
 */
@Component
public class Node {

    private static final Logger LOG = LoggerFactory.getLogger(Node.class);

    /** For how long something stays with a process that is not known to be gone. */
    private static final Duration LONGEST = Duration.ofHours(1);

    private final String name;
    private final String owner;
    /** The last process of this node that was told to end. */
    private final String endedInOrder;

    Node(NinepinSettings settings) {
        this.name = name(settings.data().resolve("node"));
        this.owner = name + "/" + UUID.randomUUID();
        Path ending = settings.data().resolve("ending");
        this.endedInOrder = read(ending);
        // It is written at once and needs no database, which may be ending too: at the reboot of a machine all end
        // together.
        Runtime.getRuntime().addShutdownHook(new Thread(() -> write(ending), "told to end"));
    }

    private void write(Path ending) {
        if (!Files.isDirectory(ending.getParent())) {
            return;
        }
        try {
            Files.writeString(ending, owner);
        } catch (IOException e) {
            LOG.warn("It cannot be written down that this process was told to end: {}", e.toString());
        }
    }

    private static String read(Path ending) {
        try {
            return Files.exists(ending) ? Files.readString(ending).strip() : null;
        } catch (IOException e) {
            return null;
        }
    }

    private static String name(Path file) {
        try {
            if (!Files.exists(file)) {
                Files.createDirectories(file.getParent());
                Files.writeString(file, UUID.randomUUID().toString());
            }
            return Files.readString(file).strip();
        } catch (IOException e) {
            throw new UncheckedIOException("The name of this node cannot be kept in " + file, e);
        }
    }

    /** What this process is known by as an owner of runs. */
    public String owner() {
        return owner;
    }

    /** Whether an owner was the process before this one, and was told to end instead of being killed. */
    public boolean endedInOrder(String other) {
        return other != null && other.equals(endedInOrder);
    }

    /** Whether an owner was an earlier process of this node. */
    public boolean isGone(String other) {
        return other != null && other.startsWith(name + "/") && !other.equals(owner);
    }

    /**
     * Whether this process may go on with what an owner has begun: itself, one that is gone, or one that has been at it for too
     * long.
     */
    public boolean mayGoOn(String other, Instant begunAt, Instant now) {
        return other.equals(owner) || isGone(other) || begunAt.isBefore(now.minus(LONGEST));
    }
}
