package ninepin.core.deliver.application;

import java.io.Closeable;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import tools.jackson.databind.json.JsonMapper;

/** What an application has answered to the documents it took: one JSON object a line, cut back to the mark at a restart. */
public final class Answers implements Closeable {

    /**
     * What is kept of an answer.
     *
     * @param record the number of the document's first record
     * @param values the values that are kept, by name
     */
    public record Kept(long record, Map<String, String> values) {}

    private static final JsonMapper JSON = JsonMapper.builder().build();

    private final FileChannel channel;
    private final List<Kept> waiting = new ArrayList<>();
    private long length;

    /**
     * @param committed the bytes that belong to what is committed; what stands behind them is cut off
     */
    Answers(Path path, long committed) throws IOException {
        Files.createDirectories(path.toAbsolutePath().getParent());
        channel = FileChannel.open(path, StandardOpenOption.CREATE, StandardOpenOption.WRITE);
        channel.truncate(committed);
        channel.position(committed);
        length = committed;
    }

    void add(Kept kept) {
        if (!kept.values().isEmpty()) {
            waiting.add(kept);
        }
    }

    void forget() {
        waiting.clear();
    }

    /** Forces what was added to disk; the bytes there are now. */
    long force() throws IOException {
        if (!waiting.isEmpty()) {
            StringBuilder lines = new StringBuilder();
            waiting.forEach(k -> lines.append(JSON.writeValueAsString(k)).append('\n'));
            ByteBuffer bytes = ByteBuffer.wrap(lines.toString().getBytes(StandardCharsets.UTF_8));
            while (bytes.hasRemaining()) {
                length += channel.write(bytes);
            }
            channel.force(false);
            waiting.clear();
        }
        return length;
    }

    /** Reads what was kept, from one byte to another, both between lines. */
    public static List<Kept> read(Path path, long from, long to) throws IOException {
        List<Kept> all = new ArrayList<>();
        if (from < to) {
            try (FileChannel in = FileChannel.open(path, StandardOpenOption.READ)) {
                ByteBuffer bytes = ByteBuffer.allocate(Math.toIntExact(to - from));
                while (bytes.hasRemaining() && in.read(bytes, from + bytes.position()) >= 0) {
                    // Reads on.
                }
                for (String line : new String(bytes.array(), StandardCharsets.UTF_8).split("\n")) {
                    all.add(JSON.readValue(line, Kept.class));
                }
            }
        }
        return all;
    }

    @Override
    public void close() throws IOException {
        channel.close();
    }
}
