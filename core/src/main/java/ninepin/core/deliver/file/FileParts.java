package ninepin.core.deliver.file;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.OpenOption;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Predicate;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import ninepin.core.deliver.AppendedFile;

/** The files of a run under their hidden names, which say whose take-up they belong to. */
final class FileParts {

    /**
     * A file under its hidden name.
     *
     * @param epoch the take-up that wrote it; -1 for a copy that is not whole
     * @param number the number of the file in its run
     */
    record Part(Path path, long epoch, int number) {}

    private static final String COPY = ".copy";

    private final Path folder;
    private final String runKey;

    FileParts(Path folder, String runKey) {
        this.folder = folder;
        this.runKey = runKey;
    }

    Path path(long epoch, int number) {
        return folder.resolve("." + runKey + "." + epoch + "." + number + ".part");
    }

    /** All that are there by the numbers of their files, those of the latest take-up first. */
    Map<Integer, List<Part>> all() throws IOException {
        // Not by a pattern of the folder alone: the key of one delivery may be the beginning of another's.
        Pattern name =
                Pattern.compile("\\." + Pattern.quote(runKey) + "\\.(\\d{1,18})\\.(\\d{1,9})\\.part(?:\\.copy)?");
        Map<Integer, List<Part>> all = new TreeMap<>();
        try (DirectoryStream<Path> own = Files.newDirectoryStream(folder, "." + runKey + ".*")) {
            for (Path path : own) {
                Matcher m = name.matcher(path.getFileName().toString());
                if (m.matches()) {
                    long epoch = path.toString().endsWith(COPY) ? -1 : Long.parseLong(m.group(1));
                    int number = Integer.parseInt(m.group(2));
                    all.computeIfAbsent(number, n -> new ArrayList<>()).add(new Part(path, epoch, number));
                }
            }
        }
        all.values()
                .forEach(list -> list.sort(Comparator.comparingLong(Part::epoch).reversed()));
        return all;
    }

    void remove(Predicate<Part> which) throws IOException {
        for (List<Part> parts : all().values()) {
            for (Part part : parts) {
                if (which.test(part)) {
                    Files.deleteIfExists(part.path());
                }
            }
        }
    }

    /**
     * Gives what an earlier take-up has written of a file the name of a later one.
     *
     * @param length how much of the file is committed, in bytes
     * @param earlier the parts of the file
     * @param alone whether the process that wrote them is known to be gone; it may still have them open otherwise
     */
    void takeOver(long epoch, int number, long length, List<Part> earlier, boolean alone) throws IOException {
        Path own = path(epoch, number);
        if (Files.exists(own)) {
            return;
        }
        for (Part part : earlier) {
            if (part.epoch() >= 0 && Files.size(part.path()) >= length) {
                if (alone) {
                    Files.move(part.path(), own, StandardCopyOption.ATOMIC_MOVE);
                } else {
                    copy(part.path(), length, own);
                }
                return;
            }
        }
    }

    /** What is made of a part before it takes its place or its name; whoever takes the run up later removes it. */
    static Path copyOf(Path part) {
        return part.resolveSibling(part.getFileName() + COPY);
    }

    private static void copy(Path from, long length, Path own) throws IOException {
        Path copy = copyOf(own);
        Files.deleteIfExists(copy);
        AppendedFile.copy(from, length, copy);
        Files.move(copy, own, StandardCopyOption.ATOMIC_MOVE);
    }

    /**
     * Adds to a part; one that was begun before and is missing was taken away by whoever has taken the run over.
     *
     * @param first whether it may be new
     * @return its length then, in bytes
     */
    static long append(Path part, boolean first, byte[] bytes) throws IOException {
        Set<OpenOption> how = first && !Files.exists(part)
                ? Set.of(StandardOpenOption.CREATE_NEW, StandardOpenOption.WRITE)
                : Set.of(StandardOpenOption.WRITE, StandardOpenOption.APPEND);
        try (FileChannel out = FileChannel.open(part, how)) {
            ByteBuffer rest = ByteBuffer.wrap(bytes);
            while (rest.hasRemaining()) {
                out.write(rest);
            }
            return out.size();
        }
    }
}
