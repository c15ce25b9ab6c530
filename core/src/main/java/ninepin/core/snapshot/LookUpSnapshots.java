package ninepin.core.snapshot;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.attribute.FileTime;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import ninepin.core.bytes.FilePattern;
import ninepin.core.bytes.FileSource;
import ninepin.core.bytes.FlatFolder;
import ninepin.core.deliver.DatabaseAddress;
import ninepin.core.deliver.TargetException;
import ninepin.core.deliver.database.TableCopy;
import ninepin.core.format.Transcripts;
import ninepin.core.job.Definitions;
import ninepin.core.layout.Layout;
import ninepin.core.lookup.LookUp;
import ninepin.core.lookup.LookUpException;
import ninepin.core.lookup.LookUpReader;
import ninepin.core.lookup.LookUpTable;
import ninepin.core.lookup.LookUpTables;

/**
 * Copies what look-ups look into to a folder of the run, and reads it from there. A restart finds the copies and reads
 * the same again, whatever became of the table or the file meanwhile.
 */
public final class LookUpSnapshots {

    /** Where the names in a look-up lead. */
    public interface Places {
        /** How a connection is reached. */
        DatabaseAddress connection(String name) throws LookUpException;

        /** A folder; empty where it is not there. */
        Optional<Path> folder(String root, String folder) throws LookUpException;

        /** A layout by its name. */
        Layout layout(String name) throws LookUpException, IOException;
    }

    private final Places places;
    private final Path folder;

    /**
     * @param folder where the copies are kept; made when it is needed
     */
    public LookUpSnapshots(Places places, Path folder) {
        this.places = places;
        this.folder = folder;
    }

    /**
     * Reads what each look-up looks into, copying first what is not copied yet.
     *
     * @throws LookUpException where one cannot be read; its message names the look-up
     */
    public LookUpTables read(List<LookUp> lookUps, LocalDate today) throws LookUpException {
        List<LookUpTable> tables = new ArrayList<>();
        for (LookUp lookUp : lookUps) {
            tables.add(read(lookUp, today));
        }
        return new LookUpTables(tables);
    }

    private LookUpTable read(LookUp lookUp, LocalDate today) throws LookUpException {
        if (lookUp.lacking() != null) {
            throw new LookUpException("The look-up " + lookUp.name() + ": " + lookUp.lacking() + ".");
        }
        Path data = folder.resolve(lookUp.name() + ".data");
        Path layout = folder.resolve(lookUp.name() + ".layout.json");
        try {
            if (!Files.exists(layout)) {
                Files.createDirectories(folder);
                Path part = folder.resolve(lookUp.name() + ".part");
                String definition = Definitions.write(copy(lookUp, part));
                Files.move(part, data, StandardCopyOption.REPLACE_EXISTING, StandardCopyOption.ATOMIC_MOVE);
                Files.writeString(part, definition);
                Files.move(part, layout, StandardCopyOption.ATOMIC_MOVE);
            }
            try (FileSource source = FileSource.open(data)) {
                return LookUpReader.read(lookUp, Definitions.layout(Files.readString(layout)), source, today);
            }
        } catch (LookUpException e) {
            throw failed(lookUp, e, e.mayPass());
        } catch (TargetException e) {
            throw failed(lookUp, e, e.mayPass());
        } catch (IOException e) {
            throw new LookUpException("The look-up " + lookUp.name() + " cannot be copied: " + e.getMessage(), true);
        }
    }

    private static LookUpException failed(LookUp lookUp, Exception e, boolean mayPass) {
        return new LookUpException(
                "The look-up " + lookUp.name() + ", in " + lookUp.from().sentence() + ": " + e.getMessage(), mayPass);
    }

    private Layout copy(LookUp lookUp, Path to) throws LookUpException, TargetException, IOException {
        if (lookUp.from() instanceof LookUp.InTable in) {
            return TableCopy.write(places.connection(in.connection()), lookUp, to);
        }
        LookUp.InFile in = (LookUp.InFile) lookUp.from();
        Files.copy(newest(in.files()), to, StandardCopyOption.REPLACE_EXISTING);
        Layout layout = places.layout(in.layout());
        Transcripts.inPlace(to, layout, folder.resolve(lookUp.name() + ".aside"));
        return layout;
    }

    private Path newest(FilePattern files) throws LookUpException, IOException {
        Path home = places.folder(files.root(), files.folder())
                .orElseThrow(() ->
                        new LookUpException("There is no folder " + files.folder() + " below " + files.root() + "."));
        try (Stream<Path> all = Files.list(home)) {
            return all.filter(f -> Files.isRegularFile(f)
                            && files.takes(f.getFileName().toString()))
                    .max(Comparator.comparing(LookUpSnapshots::changed).thenComparing(Path::getFileName))
                    .orElseThrow(() -> new LookUpException("No file there is named so."));
        }
    }

    private static FileTime changed(Path file) {
        try {
            return Files.getLastModifiedTime(file);
        } catch (NoSuchFileException e) {
            return FileTime.fromMillis(0);
        } catch (IOException e) {
            throw new java.io.UncheckedIOException(e);
        }
    }

    /** Removes the copies. */
    public void remove() throws IOException {
        FlatFolder.remove(folder);
    }
}
