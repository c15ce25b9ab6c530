package ninepin.doors.folder;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import ninepin.core.deliver.TargetException;
import ninepin.core.job.Shortcoming;
import ninepin.core.pickup.From;
import ninepin.doors.source.Source;
import ninepin.doors.source.SourceContext;
import ninepin.doors.source.SourceException;
import ninepin.doors.source.SourceSupport;

/** Files of a folder below a root. */
public record FolderSupport(From.Folder from) implements SourceSupport {

    static String named(From.Folder from) {
        return from.root() + (from.folder().isEmpty() ? "" : "/" + from.folder());
    }

    @Override
    public String words() {
        return from.pattern() + " in " + named(from);
    }

    @Override
    public String place(String job) {
        return "folder " + named(from);
    }

    @Override
    public String through() {
        return "root " + from.root();
    }

    @Override
    public List<Shortcoming> check(SourceContext context) {
        try {
            return Files.isDirectory(folder(context))
                    ? List.of()
                    : List.of(new Shortcoming(
                            false,
                            1,
                            -1,
                            from.folder(),
                            "JOB-21",
                            "The folder " + from.folder() + " is not there yet below " + from.root() + "."));
        } catch (SourceException e) {
            return List.of(new Shortcoming(true, 1, -1, null, "JOB-22", e.getMessage()));
        }
    }

    private Path folder(SourceContext context) throws SourceException {
        try {
            return context.places().folder(from.root(), from.folder());
        } catch (TargetException e) {
            throw new SourceException(e.code(), e.getMessage(), e.mayPass(), e);
        }
    }

    @Override
    public Source open(SourceContext context) throws SourceException {
        return new FolderSource(from, folder(context));
    }

    @Override
    public Optional<Path> beside(SourceContext context) throws SourceException {
        return Optional.of(folder(context));
    }
}
