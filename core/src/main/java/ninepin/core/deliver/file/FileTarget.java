package ninepin.core.deliver.file;

import java.io.Closeable;
import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.file.AccessDeniedException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.PosixFilePermission;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import ninepin.core.bytes.FileSource;
import ninepin.core.bytes.Fingerprint;
import ninepin.core.deliver.Batch;
import ninepin.core.deliver.FileDelivery.OutFile;
import ninepin.core.deliver.KeptLines;
import ninepin.core.deliver.LoadConnection;
import ninepin.core.deliver.Loaded;
import ninepin.core.deliver.MadeFolders;
import ninepin.core.deliver.Mark;
import ninepin.core.deliver.MarkFile;
import ninepin.core.deliver.ProcessLock;
import ninepin.core.deliver.TakeUp;
import ninepin.core.deliver.TakenBack;
import ninepin.core.deliver.Target;
import ninepin.core.deliver.TargetException;
import ninepin.core.deliver.TargetException.Kind;
import ninepin.core.format.Formats;
import ninepin.core.record.Transcription;
import ninepin.core.value.UnwritableException;

/**
 * Files of a folder as the target of a run. What is written stands under a hidden name until it is whole. With each commit it
 * is forced to disk, then how far each file has come, then the mark; files that are complete get their names last. So after
 * a crash everything behind the mark is cut off, and a name that was not given yet is given then.
 *
 * <p>The hidden name bears the epoch of the take-up. Whoever takes the run up gives the parts names of its own epoch: the same
 * files where the process before is known to be gone, copies where it may only be asleep. That process finds its parts
 * missing, and so can neither add to them nor give them their names.
 */
public final class FileTarget implements Target {

    /** The most files that are listed by name when some are taken back. */
    private static final int MOST_LISTED = 100;

    private final Path folder;
    private final OutFile of;
    private final FileParts parts;
    private final Path files;
    private final MarkFile marks;
    private final FileComposer composer;
    private final Set<PosixFilePermission> mode;

    private MarkFile.Kept kept;
    /** Held for as long as this process is at it; null where another one may only be asleep. */
    private ProcessLock lock;

    private KeptLines<WrittenFile> lines;
    /** What has come to which length since the last commit. */
    private final Map<Integer, WrittenFile> changed = new TreeMap<>();

    /**
     * @param folder where the files go; made where it is not there
     * @param loads the deliveries, all of them to the same files
     * @param runKey what the run is known by, fit for the name of a file
     * @param files where the mark is kept: a path whose name gets an ending for each thing that is
     */
    public FileTarget(Path folder, List<FileLoad> loads, String runKey, Path files, FileName.Facts facts) {
        this(folder, loads, runKey, files, facts, null);
    }

    /**
     * @param mode who may read and write the files when they have their names; null for whom the process makes files for
     */
    public FileTarget(
            Path folder,
            List<FileLoad> loads,
            String runKey,
            Path files,
            FileName.Facts facts,
            Set<PosixFilePermission> mode) {
        this.mode = mode;
        this.folder = folder;
        this.of = loads.get(0).delivery().file();
        this.parts = new FileParts(folder, runKey);
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
    public Optional<Mark> look() throws TargetException {
        try {
            return marks.read().map(MarkFile.Kept::mark);
        } catch (IOException e) {
            throw trouble(e);
        }
    }

    @Override
    public Optional<Mark> takeUp(TakeUp as) throws TargetException {
        try {
            MadeFolders.make(folder, null, mode);
            lock = ProcessLock.beside(files, as, "the folder " + of.root() + "/" + of.folder())
                    .orElse(null);
            kept = marks.takeUp(as);
            lines = new KeptLines<>(written(files), kept.length());
            bringToMark();
            return Optional.of(kept.mark()).filter(m -> m.commits() > 0);
        } catch (IOException e) {
            throw trouble(e);
        }
    }

    /** Brings the folder to what is committed: cuts files back, removes those begun since, gives names that were due. */
    private void bringToMark() throws IOException, TargetException {
        changed.clear();
        Collection<WrittenFile> known = latest(files, kept.length());
        Map<Integer, List<FileParts.Part>> there = parts.all();
        for (WrittenFile file : known) {
            List<FileParts.Part> earlier = there.getOrDefault(file.number(), List.of());
            parts.takeOver(marks.epoch(), file.number(), file.length(), earlier, lock != null);
            if (file.complete()) {
                publish(file);
            } else {
                cutBack(file);
            }
        }
        Set<Integer> numbers = known.stream().map(WrittenFile::number).collect(Collectors.toSet());
        parts.remove(part -> part.epoch() != marks.epoch() || !numbers.contains(part.number()));
        // Names that were due stay given, whatever happens to the machine.
        MarkFile.forceFolder(folder);
        composer.resume(known);
    }

    private Path part(int number) {
        return parts.path(marks.epoch(), number);
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
        Path whole = whole(part, file);
        if (mode != null) {
            Files.setPosixFilePermissions(whole, mode);
        }
        Path name = folder.resolve(file.name());
        if (of.replace()) {
            Files.move(whole, name, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
        } else if (Files.exists(name)) {
            // The same bytes under the name are this file: another process that had the run gave it.
            if (!Files.isSameFile(whole, name) && !isAsWritten(name, file)) {
                throw inTheWay(file.name());
            }
        } else {
            link(whole, name);
        }
        Files.deleteIfExists(whole);
        Files.deleteIfExists(part);
    }

    /**
     * What gets the name of the file: its part, or what is made of that, always the same, and forced to disk. A process that dies while
     * it is at it leaves the part as it is.
     */
    private Path composed(Path part) throws IOException {
        Transcription transcription = Formats.of(of.layout()).transcription().orElse(null);
        if (transcription == null) {
            return part;
        }
        Path whole = FileParts.copyOf(part);
        // One that was broken off may have its name already, and is not to be written to.
        Files.deleteIfExists(whole);
        transcription.compose(part, whole);
        force(whole);
        return whole;
    }

    /** The same of a sealed file, of which mostly is there what was composed when it was sealed. */
    private Path whole(Path part, WrittenFile file) throws IOException {
        Path whole = FileParts.copyOf(part);
        if (Files.exists(whole) && isAsWritten(whole, file)) {
            force(whole);
            return whole;
        }
        return composed(part);
    }

    private static void force(Path path) throws IOException {
        try (FileChannel out = FileChannel.open(path, StandardOpenOption.WRITE)) {
            out.force(true);
        }
    }

    /** A second name takes no other file's place, as moving could. */
    private static void link(Path part, Path name) throws IOException {
        try {
            Files.createLink(name, part);
        } catch (UnsupportedOperationException | AccessDeniedException e) {
            Files.move(part, name);
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
    public int maxConnections() {
        return 1;
    }

    @Override
    public LoadConnection connect() {
        return new FileConnection();
    }

    @Override
    public void close() {
        try {
            if (marks.epoch() > 0 && marks.isTakenOver()) {
                // What was begun since the run was taken over is nobody's.
                parts.remove(part -> part.epoch() == marks.epoch());
            }
        } catch (IOException e) {
            // They are hidden; the next take-up removes them.
        }
        closeQuietly(lines);
        closeQuietly(lock);
    }

    private static void closeQuietly(Closeable open) {
        if (open != null) {
            try {
                open.close();
            } catch (IOException e) {
                // What belongs to the mark was forced to disk before it.
            }
        }
    }

    /** What an error means: a part that is missing because another process has taken the run over, or a fault of the disk. */
    private TargetException trouble(IOException e) {
        try {
            if (marks.epoch() > 0 && marks.isTakenOver()) {
                return TargetException.fenced();
            }
        } catch (IOException unreadable) {
            e.addSuppressed(unreadable);
        }
        String words = e.getMessage() == null ? e.getClass().getSimpleName() : e.getMessage();
        return new TargetException(
                Kind.AWAY, "FIL-09", "The file cannot be written: " + words + ". What is committed stays.", e);
    }

    /** Writes documents one after another. */
    private final class FileConnection implements LoadConnection {
        /** Whether the folder may have names that are not forced to disk yet. */
        private boolean begun;

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
                long length = FileParts.append(part(file.number()), file.isNew(), file.take());
                WrittenFile now = file.written(length);
                changed.put(file.number(), now);
                composer.kept(now);
            }
            composer.settled();
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
                kept = marks.write(mark, lines.force(), 0);
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
            FileTarget.force(part(number));
        }

        /** A complete file with its fingerprint, valid against the schema of its layout where that has one. */
        private WrittenFile sealed(WrittenFile file) throws IOException, TargetException {
            Path whole = composed(part(file.number()));
            Optional<String> breach = Formats.of(of.layout()).breach(whole);
            if (breach.isPresent()) {
                throw new TargetException(
                        Kind.UNUSABLE,
                        "FIL-14",
                        file.name() + " would not be valid against its schema, " + breach.get()
                                + ". Nothing of the last part was delivered.",
                        null);
            }
            try (FileSource source = FileSource.open(whole)) {
                return file.sealed(Fingerprint.of(source), source.size());
            }
        }

        @Override
        public void rollback() throws TargetException {
            lines.forget();
            try {
                bringToMark();
            } catch (IOException e) {
                throw trouble(e);
            }
        }

        @Override
        public void close() {
            // The target's files are closed with it.
        }
    }

    /**
     * Removes the files that a run has written, and its mark; those that are gone or were changed stay as they are.
     *
     * @param label what the files are called together
     * @param folder where they went
     * @param runKey what the run is known by
     * @param files where the run keeps its mark
     */
    public static TakenBack takeBack(String label, Path folder, String runKey, Path files) throws IOException {
        int removed = 0;
        List<String> changed = new ArrayList<>();
        List<String> gone = new ArrayList<>();
        for (WrittenFile file : writtenBy(files)) {
            Path path = folder.resolve(file.name());
            if (!file.complete()) {
                continue;
            }
            if (!Files.exists(path)) {
                gone.add(file.name() + " (gone)");
            } else if (isAsWritten(path, file)) {
                Files.delete(path);
                removed++;
            } else {
                changed.add(file.name() + " (changed)");
            }
        }
        if (Files.isDirectory(folder)) {
            new FileParts(folder, runKey).remove(part -> true);
            MarkFile.forceFolder(folder);
        }
        MarkFile.of(files).remove();
        Files.deleteIfExists(written(files));
        List<String> left = Stream.concat(changed.stream(), gone.stream())
                .limit(MOST_LISTED)
                .toList();
        return new TakenBack(label, removed, changed.size(), gone.size(), left);
    }

    private static boolean isAsWritten(Path path, WrittenFile file) throws IOException {
        if (Files.size(path) != file.size()) {
            return false;
        }
        try (FileSource source = FileSource.open(path)) {
            return Fingerprint.of(source).equals(file.fingerprint());
        }
    }
}
