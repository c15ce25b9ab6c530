package ninepin.server.cli;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import ninepin.core.deliver.DatabaseAddress;
import ninepin.core.job.Definitions;
import ninepin.core.layout.Layout;
import ninepin.core.lookup.LookUpException;
import ninepin.core.snapshot.LookUpSnapshots;

/** Where the names of look-ups lead on the command line: to the settings, and to layouts beside the job. */
final class CommandPlaces implements LookUpSnapshots.Places {

    private final JobFiles files;
    private final FileSettings settings;

    CommandPlaces(JobFiles files, FileSettings settings) {
        this.files = files;
        this.settings = settings;
    }

    @Override
    public DatabaseAddress connection(String name) {
        return settings.connection(name);
    }

    @Override
    public Optional<Path> folder(String root, String folder) throws LookUpException {
        Path base = settings.root(root);
        Path wanted = base.resolve(folder).normalize();
        try {
            if (!Files.isDirectory(wanted)) {
                return Optional.empty();
            }
            if (!wanted.toRealPath().startsWith(base.toRealPath())) {
                throw new LookUpException("The folder " + folder + " leads out of the root " + root + ".");
            }
            return Optional.of(wanted);
        } catch (IOException e) {
            return Optional.empty();
        }
    }

    @Override
    public Layout layout(String name) throws IOException {
        return Definitions.layout(Files.readString(files.beside(name + ".layout.json")));
    }
}
