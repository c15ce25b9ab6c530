package ninepin.core.deliver.file;

import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import ninepin.core.deliver.Batch;
import ninepin.core.deliver.FileDelivery.OutFile;
import ninepin.core.deliver.KeptLines;
import ninepin.core.deliver.Loaded;
import ninepin.core.deliver.Mark;
import ninepin.core.deliver.MarkFile;
import ninepin.core.deliver.Target;
import ninepin.core.deliver.TargetException;
import ninepin.core.deliver.TargetException.Kind;
import ninepin.core.layout.Xml;
import ninepin.core.read.SchemaBreaches;
import ninepin.core.source.FileSource;
import ninepin.core.source.Fingerprint;
import ninepin.core.write.UnwritableException;

/**
 * Files of a folder as the target of a run. What is written stands under a hidden name until it is whole. With each commit it
 * is forced to disk, then how far each file has come, then the mark; files that are complete get their names last. So after
 * a crash everything behind the mark is cut off, and a name that was not given yet is given then.
 */
public final class FileTarget implements Target {

    /**
     * What became of the files of a run that was taken back.
     *
     * @param changed those that were changed since, and were left
     * @param gone those that are not there any more
     */
    public record TakenBack(int removed, List<String> changed, List<String> gone) {}

    private final Path folder;
    private final OutFile of;
    private final String runKey;
    private final Path files;
    private final MarkFile marks;
    private final FileComposer composer;

    private MarkFile.Kept kept;
    /** What has come to which length since the last commit. */
    private final Map<Integer, WrittenFile> changed = new TreeMap<>();

    /**
     * @param folder where the files go; made where it is not there
     * @param loads the deliveries, all of them to the same files
     * @param runKey what the run is known by, fit for the name of a file
     * @param files where the mark is kept: a path whose name gets an ending for each thing that is
     */
    public FileTarget(Path folder, List<FileLoad> loads, String runKey, Path files, FileName.Facts facts) {
        this.folder = folder;
        this.of = loads.get(0).delivery().file();
        this.runKey = runKey;
        this.files = files;
        this.marks = MarkFile.of(files);
        this.composer = new FileComposer(loads, facts);
    }

    private static Path written(Path files) {
        return files.resolveSibling(files.getFileName() + ".written");
    }

    /**
     * How far the files of a run have come that are committed, in the order of their numbers.
     *
     * @param files where the run keeps its mark
     */
    public static List<WrittenFile> writtenBy(Path files) throws IOException {
        MarkFile.Kept kept = MarkFile.of(files).read().orElse(null);
        return kept == null ? List.of() : List.copyOf(latest(files, kept.length()));
    }

    private static Collection<WrittenFile> latest(Path files, long length) throws IOException {
        Map<Integer, WrittenFile> latest = new TreeMap<>();
        KeptLines.read(written(files), WrittenFile.class, 0, length).forEach(w -> latest.put(w.number(), w));
        return latest.values();
    }

    @Override
    public Optional<Mark> prepare() throws TargetException {
        try {
            Files.createDirectories(folder);
            kept = marks.read().orElse(null);
            takeUp();
            return Optional.ofNullable(kept).map(MarkFile.Kept::mark);
        } catch (IOException e) {
            throw trouble(e);
        }
    }

    /** Brings the folder to what is committed: cuts files back, removes those begun since, gives names that were due. */
    private void takeUp() throws IOException, TargetException {
        changed.clear();
        Map<Path, WrittenFile> parts = new TreeMap<>();
        Collection<WrittenFile> known = kept == null ? List.of() : latest(files, kept.length());
        for (WrittenFile file : known) {
            parts.put(part(file.number()), file);
            if (file.complete()) {
                publish(file);
            } else {
                cutBack(file);
            }
        }
        try (DirectoryStream<Path> own = Files.newDirectoryStream(folder, "." + runKey + "-*.part")) {
            for (Path path : own) {
                if (!parts.containsKey(path)) {
                    Files.delete(path);
                }
            }
        }
        // Names that were due stay given, whatever happens to the machine.
        MarkFile.forceFolder(folder);
        composer.resume(known);
    }

    private Path part(int number) {
        return folder.resolve("." + runKey + "-" + number + ".part");
    }

    private void cutBack(WrittenFile file) throws IOException, TargetException {
        Path part = part(file.number());
        if (!Files.exists(part) || Files.size(part) < file.length()) {
            throw new TargetException(
                    Kind.UNUSABLE,
                    "FIL-12",
                    "What was written of " + file.name() + " is not there any more (" + part.getFileName()
                            + " in its folder). Take the run back and start it from the beginning.",
                    null);
        }
        try (FileChannel out = FileChannel.open(part, StandardOpenOption.WRITE)) {
            out.truncate(file.length());
        }
    }

    /** Gives a complete file its name, unless that was done. */
    private void publish(WrittenFile file) throws IOException, TargetException {
        Path part = part(file.number());
        if (!Files.exists(part)) {
            return;
        }
        Path name = folder.resolve(file.name());
        if (of.replace()) {
            Files.move(part, name, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
            return;
        }
        if (Files.exists(name)) {
            if (!Files.isSameFile(part, name)) {
                throw inTheWay(file.name());
            }
        } else {
            link(part, name);
        }
        Files.deleteIfExists(part);
    }

    /** A second name takes no other file's place, as moving could. */
    private static void link(Path part, Path name) throws IOException {
        try {
            Files.createLink(name, part);
        } catch (UnsupportedOperationException e) {
            Files.move(part, name, StandardCopyOption.ATOMIC_MOVE);
        }
    }

    private TargetException inTheWay(String name) {
        return new TargetException(
                Kind.UNUSABLE,
                "FIL-11",
                "There is a file " + name + " in " + of.root() + "/" + of.folder()
                        + " already. Move it away, let the name say more, or allow that it gives way; then restart.",
                null);
    }

    @Override
    public int lanes() {
        return 1;
    }

    @Override
    public Lane lane() throws TargetException {
        try {
            return new FileLane(new KeptLines<>(written(files), kept == null ? 0 : kept.length()));
        } catch (IOException e) {
            throw trouble(e);
        }
    }

    @Override
    public void close() {
        // Nothing is open.
    }

    private static TargetException trouble(IOException e) {
        String words = e.getMessage() == null ? e.getClass().getSimpleName() : e.getMessage();
        return new TargetException(
                Kind.UNUSABLE,
                "FIL-09",
                "The file cannot be written: " + words + ". What is committed stays; restart to go on.",
                e);
    }

    /** Writes documents one after another. */
    private final class FileLane implements Lane {
        private final KeptLines<WrittenFile> lines;
        /** Whether the folder may have names that are not forced to disk yet. */
        private boolean begun;

        FileLane(KeptLines<WrittenFile> lines) {
            this.lines = lines;
        }

        @Override
        public Loaded load(Batch batch) throws TargetException {
            try {
                Loaded loaded = composer.add(batch);
                store();
                return loaded;
            } catch (IOException e) {
                throw trouble(e);
            }
        }

        /** Writes what was composed to disk. */
        private void store() throws IOException, TargetException {
            for (OpenFile file : composer.touched()) {
                WrittenFile before = changed.get(file.number());
                begun |= before == null;
                if (!of.replace() && before == null && Files.exists(folder.resolve(file.name()))) {
                    throw inTheWay(file.name());
                }
                long length = append(part(file.number()), file.take());
                WrittenFile now = file.written(length);
                changed.put(file.number(), now);
                composer.kept(now);
            }
            composer.settled();
        }

        private static long append(Path part, byte[] bytes) throws IOException {
            try (FileChannel out = FileChannel.open(
                    part, StandardOpenOption.CREATE, StandardOpenOption.WRITE, StandardOpenOption.APPEND)) {
                ByteBuffer rest = ByteBuffer.wrap(bytes);
                while (rest.hasRemaining()) {
                    out.write(rest);
                }
                return out.size();
            }
        }

        @Override
        public void commit(Mark mark) throws TargetException {
            try {
                if (mark.complete()) {
                    completeFiles();
                }
                List<WrittenFile> complete = new ArrayList<>();
                if (begun) {
                    MarkFile.forceFolder(folder);
                    begun = false;
                }
                for (WrittenFile file : changed.values()) {
                    force(file.number());
                    WrittenFile now = file.complete() ? sealed(file) : file;
                    lines.add(now);
                    if (now.complete()) {
                        complete.add(now);
                    }
                }
                MarkFile.Kept next = new MarkFile.Kept(mark, lines.force(), 0);
                marks.write(next);
                kept = next;
                changed.clear();
                for (WrittenFile file : complete) {
                    publish(file);
                }
                if (!complete.isEmpty()) {
                    MarkFile.forceFolder(folder);
                }
            } catch (IOException e) {
                throw trouble(e);
            }
        }

        private void completeFiles() throws IOException, TargetException {
            try {
                composer.finish();
            } catch (RecordMaker.Unfit | UnwritableException e) {
                throw new TargetException(
                        Kind.UNUSABLE,
                        "FIL-13",
                        "What stands at the end of the file does not fit its layout: " + e.getMessage()
                                + ". Nothing of the last part was delivered.",
                        e);
            }
            store();
        }

        private void force(int number) throws IOException {
            try (FileChannel out = FileChannel.open(part(number), StandardOpenOption.WRITE)) {
                out.force(true);
            }
        }

        /** A complete file with its fingerprint, valid against the schema of its layout where that has one. */
        private WrittenFile sealed(WrittenFile file) throws IOException, TargetException {
            Path part = part(file.number());
            if (of.layout().format() instanceof Xml xml && !xml.schema().isEmpty()) {
                try (InputStream in = Files.newInputStream(part)) {
                    Optional<String> breach = SchemaBreaches.first(xml.schema(), in);
                    if (breach.isPresent()) {
                        throw new TargetException(
                                Kind.UNUSABLE,
                                "FIL-14",
                                file.name() + " would not be valid against its schema, " + breach.get()
                                        + ". Nothing of the last part was delivered.",
                                null);
                    }
                }
            }
            try (FileSource source = FileSource.open(part)) {
                return file.sealed(Fingerprint.of(source));
            }
        }

        @Override
        public void rollback() throws TargetException {
            lines.forget();
            try {
                takeUp();
            } catch (IOException e) {
                throw trouble(e);
            }
        }

        @Override
        public void close() {
            try {
                lines.close();
            } catch (IOException e) {
                // What belongs to the mark was forced to disk before it.
            }
        }
    }

    /**
     * Removes the files that a run has written, and its mark; those that are gone or were changed stay as they are.
     *
     * @param folder where they went
     * @param runKey what the run is known by
     * @param files where the run keeps its mark
     */
    public static TakenBack takeBack(Path folder, String runKey, Path files) throws IOException {
        int removed = 0;
        List<String> changed = new ArrayList<>();
        List<String> gone = new ArrayList<>();
        for (WrittenFile file : writtenBy(files)) {
            Path path = folder.resolve(file.name());
            if (!file.complete()) {
                continue;
            }
            if (!Files.exists(path)) {
                gone.add(file.name());
            } else if (isAsWritten(path, file)) {
                Files.delete(path);
                removed++;
            } else {
                changed.add(file.name());
            }
        }
        if (Files.isDirectory(folder)) {
            try (DirectoryStream<Path> own = Files.newDirectoryStream(folder, "." + runKey + "-*.part")) {
                for (Path part : own) {
                    Files.delete(part);
                }
            }
            MarkFile.forceFolder(folder);
        }
        MarkFile.of(files).remove();
        Files.deleteIfExists(written(files));
        return new TakenBack(removed, changed, gone);
    }

    private static boolean isAsWritten(Path path, WrittenFile file) throws IOException {
        if (Files.size(path) != file.length()) {
            return false;
        }
        try (FileSource source = FileSource.open(path)) {
            return Fingerprint.of(source).equals(file.fingerprint());
        }
    }
}
