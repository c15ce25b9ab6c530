package ninepin.doors.folder;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.NoSuchFileException;
import java.nio.file.NotDirectoryException;
import java.nio.file.Path;
import java.nio.file.attribute.BasicFileAttributes;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import ninepin.core.pickup.From;
import ninepin.doors.source.Fetched;
import ninepin.doors.source.Item;
import ninepin.doors.source.Source;
import ninepin.doors.source.SourceException;

/** Files of a folder, the oldest first. */
final class FolderSource implements Source {

    private final From.Folder from;
    private final Path folder;

    FolderSource(From.Folder from, Path folder) {
        this.from = from;
        this.folder = folder;
    }

    @Override
    public List<Item> list() throws SourceException {
        List<Item> found = new ArrayList<>();
        try (Stream<Path> files = Files.list(folder)) {
            for (Path file : (Iterable<Path>) files::iterator) {
                if (from.takes(file.getFileName().toString())) {
                    item(file).ifPresent(found::add);
                }
            }
        } catch (NoSuchFileException | NotDirectoryException e) {
            return List.of();
        } catch (IOException e) {
            throw new SourceException(
                    "FIL-03", "The folder " + FolderSupport.named(from) + " cannot be read: " + e, true, e);
        }
        found.sort(Comparator.comparing(Item::changedAt).thenComparing(Item::name));
        return found;
    }

    private static Optional<Item> item(Path file) throws IOException {
        try {
            BasicFileAttributes a = Files.readAttributes(file, BasicFileAttributes.class, LinkOption.NOFOLLOW_LINKS);
            String name = file.getFileName().toString();
            String version = a.size() + " " + a.lastModifiedTime();
            return a.isRegularFile()
                    ? Optional.of(
                            new Item(name, name, a.size(), a.lastModifiedTime().toInstant(), version))
                    : Optional.empty();
        } catch (NoSuchFileException e) {
            // It went away between the listing and the look.
            return Optional.empty();
        }
    }

    @Override
    public Optional<Fetched> fetch(Item item, Path into) throws IOException {
        try {
            FileMove.move(folder.resolve(item.id()), into);
            return Optional.of(new Fetched(Files.size(into)));
        } catch (NoSuchFileException e) {
            return Optional.empty();
        }
    }
}
