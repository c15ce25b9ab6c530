package ninepin.core.check;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.ByteBuffer;
import java.nio.LongBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;

/**
 * Remembers every key of a file and the line it first stood on. Keys are held as the first 128 bits of their SHA-256,
 * so two different keys are taken for one with a chance below 2⁻⁶⁰ at a hundred million records. Small indexes live
 * on the heap; larger ones in temporary files mapped into memory, so the heap does not grow with the file.
 */
final class UniqueIndex {

    private static final int SEGMENTS = 16;
    private static final int ENTRY = 3;

    private final Segment[] segments = new Segment[SEGMENTS];
    private final MessageDigest digest;

    UniqueIndex() {
        for (int i = 0; i < SEGMENTS; i++) {
            segments[i] = new Segment();
        }
        try {
            digest = MessageDigest.getInstance("SHA-256");
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException("every Java has SHA-256", e);
        }
    }

    /**
     * Adds a key.
     *
     * @return the line it first stood on, or 0 when it is new
     */
    long add(byte[] key, int length, long line) {
        ByteBuffer hash = hash(key, length);
        return segment(hash).add(hash.getLong(0), low(hash), line);
    }

    /** Adds a key, or says of a known one that it stands on another line. */
    void put(byte[] key, int length, long line) {
        ByteBuffer hash = hash(key, length);
        segment(hash).put(hash.getLong(0), low(hash), line);
    }

    /** The line that is remembered of a key, or 0. */
    long line(byte[] key, int length) {
        ByteBuffer hash = hash(key, length);
        return segment(hash).line(hash.getLong(0), low(hash));
    }

    private ByteBuffer hash(byte[] key, int length) {
        digest.update(key, 0, length);
        return ByteBuffer.wrap(digest.digest());
    }

    private Segment segment(ByteBuffer hash) {
        return segments[(int) (hash.getLong(0) >>> 60)];
    }

    private static long low(ByteBuffer hash) {
        long low = hash.getLong(Long.BYTES);
        return low == 0 ? 1 : low;
    }

    /** Adds the keys of another; false as soon as one is known already. */
    boolean join(UniqueIndex behind) {
        for (int i = 0; i < SEGMENTS; i++) {
            if (!segments[i].join(behind.segments[i])) {
                return false;
            }
        }
        return true;
    }

    /** An open-addressed table of (high, low, line); low is never 0 in a taken slot. */
    private static final class Segment {
        private int capacity = 64;
        private int size;
        private LongBuffer table = LongBuffer.allocate(capacity * ENTRY);

        long add(long high, long low, long line) {
            int slot = slot(table, capacity, high, low);
            if (table.get(slot + 1) != 0) {
                return table.get(slot + 2);
            }
            put(table, slot, high, low, line);
            if (++size * 3L > capacity * 2L) {
                grow();
            }
            return 0;
        }

        void put(long high, long low, long line) {
            if (add(high, low, line) != 0) {
                table.put(slot(table, capacity, high, low) + 2, line);
            }
        }

        long line(long high, long low) {
            int slot = slot(table, capacity, high, low);
            return table.get(slot + 1) == 0 ? 0 : table.get(slot + 2);
        }

        boolean join(Segment behind) {
            for (int slot = 0; slot < behind.capacity * ENTRY; slot += ENTRY) {
                long low = behind.table.get(slot + 1);
                if (low != 0 && add(behind.table.get(slot), low, behind.table.get(slot + 2)) != 0) {
                    return false;
                }
            }
            return true;
        }

        private static void put(LongBuffer table, int slot, long high, long low, long line) {
            table.put(slot, high);
            table.put(slot + 1, low);
            table.put(slot + 2, line);
        }

        private static int slot(LongBuffer table, int capacity, long high, long low) {
            int i = (int) (low & (capacity - 1));
            while (true) {
                int slot = i * ENTRY;
                long taken = table.get(slot + 1);
                if (taken == 0 || taken == low && table.get(slot) == high) {
                    return slot;
                }
                i = (i + 1) & (capacity - 1);
            }
        }

        private void grow() {
            int larger = Math.multiplyExact(capacity, 2);
            LongBuffer next = larger <= 4096 ? LongBuffer.allocate(larger * ENTRY) : mapped(larger);
            for (int i = 0; i < capacity; i++) {
                long low = table.get(i * ENTRY + 1);
                if (low != 0) {
                    long high = table.get(i * ENTRY);
                    put(next, slot(next, larger, high, low), high, low, table.get(i * ENTRY + 2));
                }
            }
            table = next;
            capacity = larger;
        }

        private static LongBuffer mapped(int entries) {
            try {
                Path file = Files.createTempFile("ninepin-keys", ".tmp");
                try (FileChannel channel = FileChannel.open(
                        file, StandardOpenOption.READ, StandardOpenOption.WRITE, StandardOpenOption.DELETE_ON_CLOSE)) {
                    return channel.map(FileChannel.MapMode.READ_WRITE, 0, (long) entries * ENTRY * Long.BYTES)
                            .asLongBuffer();
                }
            } catch (IOException e) {
                throw new UncheckedIOException("No room for the keys of a unique check in the temporary folder", e);
            }
        }
    }
}
