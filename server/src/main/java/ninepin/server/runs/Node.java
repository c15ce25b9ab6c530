package ninepin.server.runs;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.UUID;
import ninepin.server.config.NinepinSettings;
import org.springframework.stereotype.Component;

/**
 * This process as an owner of runs. Its name is that of its data folder, which only one process at a time can use, and a number
 * of this start: so a run whose owner has the name and another number belongs to a process that is gone.
 */
@Component
class Node {

    private final String name;
    private final String owner;

    Node(NinepinSettings settings) {
        this.name = name(settings.data().resolve("node"));
        this.owner = name + "/" + UUID.randomUUID();
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
    String owner() {
        return owner;
    }

    /** Whether an owner was an earlier process of this node. */
    boolean isGone(String other) {
        return other != null && other.startsWith(name + "/") && !other.equals(owner);
    }
}
