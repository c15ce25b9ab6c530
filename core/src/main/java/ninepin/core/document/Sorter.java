package ninepin.core.document;

import java.io.BufferedInputStream;
import java.io.BufferedOutputStream;
import java.io.Closeable;
import java.io.DataInputStream;
import java.io.DataOutputStream;
import java.io.EOFException;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.PriorityQueue;

/** Sorts the places of records by the document they belong to, keeping their order inside; outside memory. */
final class Sorter implements Closeable {

    /** The entries that are sorted in memory at once: 16 MB of them. */
    private static final int RUN = 400_000;

    private static final int WIDTH = 5;

    /** The entries in their order. */
    interface Sorted {
        /** Goes to the next one; false behind the last. */
        boolean next() throws IOException;

        long number();

        long line();

        long offset();

        long length();
    }

    /** A run of entries on disk, with the one that comes next. */
    private static final class Run implements Closeable {
        private final int order;
        private final DataInputStream in;
        private final long[] entry = new long[WIDTH];

        Run(int order, Path file) throws IOException {
            this.order = order;
            this.in = new DataInputStream(new BufferedInputStream(Files.newInputStream(file), 1 << 16));
        }

        boolean advance() throws IOException {
            try {
                entry[0] = in.readLong();
            } catch (EOFException e) {
                return false;
            }
            for (int i = 1; i < WIDTH; i++) {
                entry[i] = in.readLong();
            }
            return true;
        }

        @Override
        public void close() throws IOException {
            in.close();
        }
    }

    private final Path folder;
    private final long[][] entries = new long[RUN][];
    private final List<Run> runs = new ArrayList<>();
    private int count;

    Sorter(Path folder) {
        this.folder = folder;
    }

    /** Adds the place of a record that belongs to a document. */
    void add(long document, long number, long line, long offset, long length) throws IOException {
        if (count == RUN) {
            spill();
        }
        entries[count++] = new long[] {document, number, line, offset, length};
    }

    private void spill() throws IOException {
        // Stable: entries come in the order of the file.
        Arrays.sort(entries, 0, count, Comparator.comparingLong(e -> e[0]));
        Path file = folder.resolve("run" + runs.size());
        try (DataOutputStream out =
                new DataOutputStream(new BufferedOutputStream(Files.newOutputStream(file), 1 << 16))) {
            for (int i = 0; i < count; i++) {
                for (long part : entries[i]) {
                    out.writeLong(part);
                }
                entries[i] = null;
            }
        }
        count = 0;
        runs.add(new Run(runs.size(), file));
    }

    /** All entries, sorted; asked for once, when all were added. */
    Sorted sorted() throws IOException {
        spill();
        PriorityQueue<Run> next = new PriorityQueue<>(
                Comparator.<Run>comparingLong(r -> r.entry[0]).thenComparingInt(r -> r.order));
        for (Run run : runs) {
            if (run.advance()) {
                next.add(run);
            }
        }
        return new Sorted() {
            private final long[] now = new long[WIDTH];

            @Override
            public boolean next() throws IOException {
                Run run = next.poll();
                if (run == null) {
                    return false;
                }
                System.arraycopy(run.entry, 0, now, 0, WIDTH);
                if (run.advance()) {
                    next.add(run);
                }
                return true;
            }

            @Override
            public long number() {
                return now[1];
            }

            @Override
            public long line() {
                return now[2];
            }

            @Override
            public long offset() {
                return now[3];
            }

            @Override
            public long length() {
                return now[4];
            }
        };
    }

    @Override
    public void close() throws IOException {
        for (Run run : runs) {
            run.close();
        }
    }
}
