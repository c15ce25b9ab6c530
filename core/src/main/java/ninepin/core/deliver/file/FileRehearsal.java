package ninepin.core.deliver.file;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import ninepin.core.deliver.LoadConnection;
import ninepin.core.deliver.Mark;
import ninepin.core.deliver.TakeUp;
import ninepin.core.deliver.TargetException;
import ninepin.core.deliver.TargetException.Kind;
import ninepin.core.deliver.TrialTarget;

/** A rehearsal's target for files: they are written to a folder of their own, which goes with the rehearsal. */
public final class FileRehearsal implements TrialTarget {

    private final Path aside;
    private final FileTarget target;

    public FileRehearsal(List<FileLoad> loads, FileName.Facts facts) throws TargetException {
        try {
            this.aside = Files.createTempDirectory("ninepin-rehearsal");
        } catch (IOException e) {
            throw new TargetException(Kind.UNUSABLE, "FIL-09", "There is no place to rehearse in: " + e, e);
        }
        this.target = new FileTarget(aside.resolve("files"), loads, "rehearsal", aside.resolve("rehearsal"), facts);
    }

    @Override
    public Optional<Mark> takeUp(TakeUp as) throws TargetException {
        return target.takeUp(as);
    }

    @Override
    public int maxConnections() {
        return target.maxConnections();
    }

    @Override
    public LoadConnection connect() throws TargetException {
        return target.connect();
    }

    /** The files that were written; there until the rehearsal is closed. */
    public List<Path> files() throws IOException {
        try (Stream<Path> all = Files.list(aside.resolve("files"))) {
            return all.filter(p -> !p.getFileName().toString().startsWith("."))
                    .sorted()
                    .toList();
        }
    }

    @Override
    public void close() {
        target.close();
        try (Stream<Path> all = Files.walk(aside)) {
            for (Path path : all.sorted(Comparator.reverseOrder()).toList()) {
                Files.deleteIfExists(path);
            }
        } catch (IOException e) {
            // A file that stays behind in the folder for temporary files does no harm.
        }
    }
}
