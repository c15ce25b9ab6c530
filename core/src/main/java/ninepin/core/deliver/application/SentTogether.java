package ninepin.core.deliver.application;

import java.io.Closeable;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import ninepin.core.deliver.AppendedFile;

/**
 * Which documents were sent in one request since the last commit, written down before each request: a line with the numbers
 * of their first records. The key of a request hangs on what is in it, so after a crash the same documents have to go
 * together again, however the file is cut into parts then.
 */
final class SentTogether implements Closeable {

    private final Path path;
    /** The documents of each request by the number of its first one; those of the largest request where it was halved. */
    private final Map<Long, List<Long>> before = new HashMap<>();

    private AppendedFile file;

    private SentTogether(Path path) {
        this.path = path;
    }

    /**
     * Opens what a run has written down.
     *
     * @param files where the run keeps its mark
     */
    static SentTogether open(Path files) throws IOException {
        SentTogether sent = new SentTogether(files.resolveSibling(files.getFileName() + ".sent"));
        long whole = sent.read();
        sent.file = AppendedFile.open(sent.path, whole);
        return sent;
    }

    /** Reads whole lines; a line that was cut off belongs to a request that was not sent. */
    private long read() throws IOException {
        if (!Files.exists(path)) {
            return 0;
        }
        String text = Files.readString(path, StandardCharsets.US_ASCII);
        int whole = text.lastIndexOf('\n') + 1;
        text.substring(0, whole).lines().forEach(line -> {
            List<Long> numbers =
                    List.of(line.split(" ")).stream().map(Long::valueOf).toList();
            before.merge(numbers.get(0), numbers, (a, b) -> a.size() >= b.size() ? a : b);
        });
        return whole;
    }

    /**
     * How many of the next documents go together: those that did before; otherwise as many as may, up to the next that
     * were sent before.
     *
     * @param next the numbers of the documents that come next, at least one
     * @param most how many may go together
     * @return at least 1; -1 where documents went together before that do not come next now
     */
    int together(List<Long> next, int most) {
        List<Long> then = before.get(next.get(0));
        if (then != null) {
            boolean again =
                    then.size() <= next.size() && next.subList(0, then.size()).equals(then);
            return again ? then.size() : -1;
        }
        int together = 1;
        while (together < Math.min(most, next.size()) && !before.containsKey(next.get(together))) {
            together++;
        }
        return together;
    }

    /** Writes down what is about to be sent. */
    void note(List<Long> numbers) throws IOException {
        if (!numbers.equals(before.get(numbers.get(0)))) {
            String line = numbers.stream().map(String::valueOf).collect(Collectors.joining(" ", "", "\n"));
            file.append(line.getBytes(StandardCharsets.US_ASCII));
        }
    }

    /** All that was sent is committed. */
    void forget() throws IOException {
        before.clear();
        if (file.length() > 0) {
            file.close();
            file = AppendedFile.open(path, 0);
        }
    }

    @Override
    public void close() throws IOException {
        file.close();
    }
}
