package ninepin.server.config;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.util.List;
import java.util.Optional;
import ninepin.server.api.Problems;
import org.springframework.stereotype.Component;

/** The folders the application uses. Paths from outside are held inside the configured roots. */
@Component
public class Folders {

    private final NinepinSettings settings;
    private final FileLock lock;

    public Folders(NinepinSettings settings) {
        this.settings = settings;
        this.lock = lock(settings.data());
    }

    /** Two applications on one data folder would each take the other's runs for broken ones. */
    private static FileLock lock(Path data) {
        try {
            Files.createDirectories(data);
            FileChannel channel =
                    FileChannel.open(data.resolve("lock"), StandardOpenOption.CREATE, StandardOpenOption.WRITE);
            FileLock taken = channel.tryLock();
            if (taken == null) {
                throw new IllegalStateException("Another Ninepin uses the folder " + data + ".");
            }
            return taken;
        } catch (IOException e) {
            throw new UncheckedIOException("The data folder " + data + " cannot be used", e);
        }
    }

    public Path journal(long run) {
        return settings.data().resolve("runs").resolve(run + ".ndjson");
    }

    /** Where a run keeps copies of what its look-ups look into. */
    public Path lookUps(long run) {
        return settings.data().resolve("runs").resolve(run + "-look-ups");
    }

    /** A sample, by the name of what it belongs to. */
    public Path sample(String owner) {
        return settings.data().resolve("samples").resolve(owner);
    }

    /** Keeps a sample; whoever reads it meanwhile sees the old one or the new one, whole. */
    public void keepSample(Path sample, InputStream bytes) throws IOException {
        Files.createDirectories(sample.getParent());
        // Two may give one at the same moment; the last one whole stays.
        Path part =
                Files.createTempFile(sample.getParent(), sample.getFileName().toString(), ".part");
        try {
            Files.copy(bytes, part, StandardCopyOption.REPLACE_EXISTING);
            Files.move(part, sample, StandardCopyOption.REPLACE_EXISTING, StandardCopyOption.ATOMIC_MOVE);
        } finally {
            Files.deleteIfExists(part);
        }
    }

    /** Where files given through the browser or the API are kept. */
    public Path uploads(String job) {
        return settings.data().resolve("uploads").resolve(job);
    }

    /** The names of the roots. */
    public List<String> roots() {
        return List.copyOf(settings.roots().keySet());
    }

    /** Where a folder is or would be, below a root. Refuses to leave the root, by links too. */
    public Path inside(String root, String folder) {
        Path base = root(root);
        try {
            if (!isRemote(root)) {
                Files.createDirectories(base);
            } else if (!Files.isDirectory(base)) {
                throw Problems.unprocessable("The root folder " + root + " is on another machine and not there now.");
            }
            Path realBase = base.toRealPath();
            Path wanted = realBase.resolve(folder).normalize();
            Path there = wanted;
            while (!Files.exists(there)) {
                there = there.getParent();
            }
            if (!wanted.startsWith(realBase) || !there.toRealPath().startsWith(realBase)) {
                throw Problems.unprocessable("The folder " + folder + " leads out of the root " + root + ".");
            }
            return wanted;
        } catch (IOException e) {
            throw Problems.unprocessable("The root folder " + root + " cannot be used: " + e.getMessage());
        }
    }

    private Path root(String name) {
        Path base = settings.roots().get(name);
        if (base == null) {
            throw Problems.unprocessable(
                    "There is no root folder named " + name + ". Configured are: " + String.join(", ", roots()) + ".");
        }
        return base;
    }

    /** Whether a root is on another machine, and may be away. */
    public boolean isRemote(String root) {
        return settings.remoteRoots().contains(root);
    }

    /** Whether a root is on another machine and away at this moment. */
    public boolean isAway(String root) {
        return isRemote(root) && !Files.isDirectory(root(root));
    }

    /** A folder below a root; empty when it is not there. Refuses to leave the root, by links too. */
    public Optional<Path> below(String root, String folder) {
        Path base = root(root);
        try {
            Path realBase = base.toRealPath();
            Path wanted = realBase.resolve(folder).normalize();
            if (!Files.isDirectory(wanted)) {
                return Optional.empty();
            }
            Path real = wanted.toRealPath();
            if (!real.startsWith(realBase)) {
                throw Problems.unprocessable("The folder " + folder + " leads out of the root " + root + ".");
            }
            return Optional.of(real);
        } catch (IOException e) {
            return Optional.empty();
        }
    }
}
