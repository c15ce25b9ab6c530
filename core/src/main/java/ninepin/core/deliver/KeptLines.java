package ninepin.core.deliver;

import java.io.Closeable;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.List;
import tools.jackson.databind.json.JsonMapper;

/**
 * What a target without transactions writes down beside its mark: one JSON object a line, cut back to the mark at a
 * restart.
 *
 * @param <T> what a line holds
 */
public final class KeptLines<T> implements Closeable {

    private static final JsonMapper JSON = JsonMapper.builder().build();

    private final AppendedFile file;
    private final List<T> waiting = new ArrayList<>();

    /**
     * @param committed the bytes that belong to what is committed; what stands behind them is cut off
     */
    public KeptLines(Path path, long committed) throws IOException {
        file = AppendedFile.open(path, committed);
    }

    public void add(T line) {
        waiting.add(line);
    }

    /** Forgets what was added since it was last forced to disk. */
    public void forget() {
        waiting.clear();
    }

    /** Forces what was added to disk; the bytes there are now. */
    public long force() throws IOException {
        if (waiting.isEmpty()) {
            return file.length();
        }
        StringBuilder lines = new StringBuilder();
        waiting.forEach(k -> lines.append(JSON.writeValueAsString(k)).append('\n'));
        long length = file.append(lines.toString().getBytes(StandardCharsets.UTF_8));
        waiting.clear();
        return length;
    }

    /** Reads what was kept, from one byte to another, both between lines. */
    public static <T> List<T> read(Path path, Class<T> type, long from, long to) throws IOException {
        List<T> all = new ArrayList<>();
        if (from < to) {
            try (FileChannel in = FileChannel.open(path, StandardOpenOption.READ)) {
                ByteBuffer bytes = ByteBuffer.allocate(Math.toIntExact(to - from));
                while (bytes.hasRemaining() && in.read(bytes, from + bytes.position()) >= 0) {
                    // Reads on.
                }
                for (String line : new String(bytes.array(), StandardCharsets.UTF_8).split("\n")) {
                    all.add(JSON.readValue(line, type));
                }
            }
        }
        return all;
    }

    @Override
    public void close() throws IOException {
        file.close();
    }
}
