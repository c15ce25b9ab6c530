package ninepin.core.format;

import java.io.BufferedOutputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.attribute.BasicFileAttributes;
import java.nio.file.attribute.FileTime;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import ninepin.core.bytes.FileSource;
import ninepin.core.bytes.Fingerprint;
import ninepin.core.bytes.FlatFolder;
import ninepin.core.layout.Layout;
import ninepin.core.record.Transcription;

/**
 * Opens files by their layouts; those of formats that are transcribed as the text that they become. Texts are kept in a folder by the
 * fingerprints of their files, so that each file is transcribed once. One that is gone is made again, just the same.
 */
public final class Transcripts {

    /** Changes where the same file would give another text. */
    private static final int VERSION = 1;

    private static final int MOST_REMEMBERED = 1_000;
    private static final long MOST_BYTES = 8L << 30;
    /** A text that was opened within this time may be in use. */
    private static final Duration IN_USE = Duration.ofHours(6);

    private static final Duration KEPT = Duration.ofDays(14);
    private static final String ENDING = ".rows";

    private final Path folder;

    /** A file as it was when its fingerprint was taken. */
    private record Seen(String path, long size, FileTime changed, Object key) {}

    private final Map<Seen, String> fingerprints = Collections.synchronizedMap(new LinkedHashMap<>(16, 0.75f, true) {
        private static final long serialVersionUID = 1L;

        @Override
        protected boolean removeEldestEntry(Map.Entry<Seen, String> eldest) {
            return size() > MOST_REMEMBERED;
        }
    });

    /**
     * @param folder where the texts are kept; made when it is needed
     */
    public Transcripts(Path folder) {
        this.folder = folder;
    }

    /**
     * Opens a file as its layout reads it.
     *
     * @throws NoSuchFileException where it is gone
     */
    public FileSource open(Path file, Layout layout) throws IOException {
        return FileSource.open(readable(file, layout));
    }

    /** The file itself, or the text that it has been transcribed to. */
    public Path readable(Path file, Layout layout) throws IOException {
        Transcription transcription = Formats.of(layout).transcription().orElse(null);
        return transcription == null || isText(file, transcription) ? file : transcribed(file, transcription);
    }

    private static boolean isText(Path file, Transcription transcription) throws IOException {
        try (InputStream in = Files.newInputStream(file)) {
            return transcription.isText(in.readNBytes(Transcription.FIRST_BYTES));
        }
    }

    private Path transcribed(Path file, Transcription transcription) throws IOException {
        Files.createDirectories(folder);
        Path text = folder.resolve(fingerprint(file) + "-" + VERSION + transcription.key() + ENDING);
        if (!Files.exists(text)) {
            transcribe(file, transcription, text);
            makeRoom();
        }
        Files.setLastModifiedTime(text, FileTime.from(Instant.now()));
        return text;
    }

    /** Whoever else makes the same text meanwhile makes the same bytes. */
    private void transcribe(Path file, Transcription transcription, Path text) throws IOException {
        Path part = Files.createTempFile(folder, "transcript", ".part");
        try {
            transcription.transcribe(file, part);
            Files.move(part, text, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
        } catch (FileAlreadyExistsException e) {
            // It is there, which is what was wanted.
        } finally {
            Files.deleteIfExists(part);
        }
    }

    private String fingerprint(Path file) throws IOException {
        BasicFileAttributes now = Files.readAttributes(file, BasicFileAttributes.class);
        Seen seen = new Seen(file.toAbsolutePath().toString(), now.size(), now.lastModifiedTime(), now.fileKey());
        String known = fingerprints.get(seen);
        if (known == null) {
            try (FileSource source = FileSource.open(file)) {
                known = Fingerprint.of(source);
            }
            fingerprints.put(seen, known);
        }
        return known;
    }

    /** Removes texts that were not opened for long, and what a process that died has left behind. */
    private void makeRoom() throws IOException {
        List<Path> all = new ArrayList<>();
        try (Stream<Path> files = Files.list(folder)) {
            files.forEach(all::add);
        }
        Map<Path, FileTime> opened = new LinkedHashMap<>();
        long bytes = 0;
        for (Path file : all) {
            try {
                opened.put(file, Files.getLastModifiedTime(file));
                bytes += Files.size(file);
            } catch (NoSuchFileException e) {
                // Another one was quicker.
            }
        }
        Instant now = Instant.now();
        all.retainAll(opened.keySet());
        all.sort(Comparator.comparing(opened::get));
        for (Path file : all) {
            Duration age = Duration.between(opened.get(file).toInstant(), now);
            if (age.compareTo(KEPT) > 0 || bytes > MOST_BYTES && age.compareTo(IN_USE) > 0) {
                bytes -= Files.size(file);
                Files.deleteIfExists(file);
            }
        }
    }

    /**
     * Makes a file the text that its layout reads, where it is not that already.
     *
     * @param aside another file in the same folder, which is not there
     */
    public static void inPlace(Path file, Layout layout, Path aside) throws IOException {
        Transcription transcription = Formats.of(layout).transcription().orElse(null);
        if (transcription != null && !isText(file, transcription)) {
            transcription.transcribe(file, aside);
            Files.move(aside, file, StandardCopyOption.REPLACE_EXISTING, StandardCopyOption.ATOMIC_MOVE);
        }
    }

    /** Makes text that a writer of the format has written a file, where the format is transcribed. */
    public static void compose(Path file, Layout layout, Path aside) throws IOException {
        Transcription transcription = Formats.of(layout).transcription().orElse(null);
        if (transcription != null) {
            transcription.compose(file, aside);
            Files.move(aside, file, StandardCopyOption.REPLACE_EXISTING, StandardCopyOption.ATOMIC_MOVE);
        }
    }

    /** Writes something. */
    @FunctionalInterface
    public interface Content {
        void write(OutputStream out) throws IOException;
    }

    /** Does something with a file, for which another one may stand aside. */
    @FunctionalInterface
    private interface Step {
        void take(Path file, Path aside) throws IOException;
    }

    /** The bytes of a file as its layout reads it. */
    public static byte[] text(byte[] bytes, Layout layout) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        through(to -> to.write(bytes), layout, (file, aside) -> inPlace(file, layout, aside), out);
        return out.toByteArray();
    }

    /** The bytes of a file that a writer of its format, or the form of its rejects, has given. */
    public static byte[] composed(byte[] text, Layout layout) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        compose(to -> to.write(text), layout, out);
        return out.toByteArray();
    }

    /** Writes the file that is made of what a writer of its format, or the form of its rejects, gives. */
    public static void compose(Content text, Layout layout, OutputStream to) throws IOException {
        through(text, layout, (file, aside) -> compose(file, layout, aside), to);
    }

    /** Takes a step in a folder that is removed again; what is in a format without a transcript is as it is to be. */
    private static void through(Content content, Layout layout, Step step, OutputStream to) throws IOException {
        if (Formats.of(layout).transcription().isEmpty()) {
            content.write(to);
            return;
        }
        Path folder = Files.createTempDirectory("ninepin-transcript");
        Path file = folder.resolve("file");
        try {
            try (OutputStream out = new BufferedOutputStream(Files.newOutputStream(file))) {
                content.write(out);
            }
            step.take(file, folder.resolve("aside"));
            Files.copy(file, to);
        } finally {
            FlatFolder.remove(folder);
        }
    }
}
