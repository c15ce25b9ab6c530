package ninepin.core.run;

import java.io.BufferedReader;
import java.io.ByteArrayOutputStream;
import java.io.Closeable;
import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.nio.channels.Channels;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Consumer;
import java.util.function.Predicate;
import ninepin.core.check.Finding;
import ninepin.core.deliver.AppendedFile;
import tools.jackson.databind.DeserializationFeature;
import tools.jackson.databind.json.JsonMapper;

/**
 * The rejects and notes of a run, one JSON object a line, in the order of the file. Entries are forced to disk before
 * the commit whose mark counts their bytes; a restart cuts the file back to the mark. So the journal holds exactly what
 * belongs to committed rows.
 */
public final class Journal implements Closeable {

    private static final JsonMapper JSON = JsonMapper.builder()
            .disable(DeserializationFeature.FAIL_ON_NULL_FOR_PRIMITIVES)
            .addMixIn(Finding.class, FindingForm.Mixed.class)
            .build();

    private final AppendedFile file;

    private Journal(AppendedFile file) {
        this.file = file;
    }

    /**
     * Opens a journal to append to it. Whoever had it open before can add nothing more.
     *
     * @param path the file; made when there is none
     * @param committed the bytes that belong to committed rows; what stands behind them is cut off
     */
    public static Journal open(Path path, long committed) throws IOException {
        return new Journal(AppendedFile.open(path, committed));
    }

    /**
     * Appends entries and forces them to disk.
     *
     * @return the bytes of the journal with them
     */
    long append(List<JournalEntry> entries) throws IOException {
        if (entries.isEmpty()) {
            return file.length();
        }
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        for (JournalEntry entry : entries) {
            out.writeBytes(line(entry));
        }
        return file.append(out.toByteArray());
    }

    /** An entry as it stands in a journal, with the end of its line. */
    public static byte[] line(JournalEntry entry) {
        return (JSON.writeValueAsString(entry) + "\n").getBytes(StandardCharsets.UTF_8);
    }

    @Override
    public void close() throws IOException {
        file.close();
    }

    /**
     * Reads entries in order.
     *
     * @param path the file
     * @param from the byte to start at, the start of an entry
     * @param to the byte to end at, the end of an entry
     * @param each told of each entry
     */
    public static void read(Path path, long from, long to, Consumer<JournalEntry> each) throws IOException {
        if (from >= to) {
            return;
        }
        try (FileChannel channel = FileChannel.open(path, StandardOpenOption.READ)) {
            channel.position(from);
            InputStream in = new BoundedInput(Channels.newInputStream(channel), to - from);
            BufferedReader lines = new BufferedReader(new InputStreamReader(in, StandardCharsets.UTF_8), 1 << 16);
            String line;
            while ((line = lines.readLine()) != null) {
                each.accept(JSON.readValue(line, JournalEntry.class));
            }
        }
    }

    /** Appends the entries of one journal that are wanted to another. */
    public static void copy(Path from, Path to, Predicate<JournalEntry> wanted) throws IOException {
        if (!Files.exists(from)) {
            return;
        }
        List<JournalEntry> entries = new ArrayList<>();
        read(from, 0, Files.size(from), e -> {
            if (wanted.test(e)) {
                entries.add(e);
            }
        });
        try (Journal journal = open(to, Files.exists(to) ? Files.size(to) : 0)) {
            journal.append(entries);
        }
    }

    /** The first bytes of a stream. */
    private static final class BoundedInput extends FilterInputStream {
        private long left;

        BoundedInput(InputStream in, long left) {
            super(in);
            this.left = left;
        }

        @Override
        public int read() throws IOException {
            if (left <= 0) {
                return -1;
            }
            int b = super.read();
            left--;
            return b;
        }

        @Override
        public int read(byte[] into, int offset, int length) throws IOException {
            if (left <= 0) {
                return -1;
            }
            int n = super.read(into, offset, (int) Math.min(length, left));
            left -= Math.max(n, 0);
            return n;
        }
    }
}
