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
import java.security.SecureRandom;

/**
 * Remembers every key of a file and the line it first stood on. A key that is one whole number is held as it
 * is, any other as the first 128 bits of its SHA-256, so two different keys are taken for one with a chance below 2⁻⁶⁰ at
 * a hundred million records. Small indexes live
 * on the heap; larger ones in temporary files mapped into memory, so the heap does not grow with the file.
 */
final class UniqueIndex {

    private static final int SEGMENTS = 16;
    private static final int ENTRY = 3;
    /** The most entries of a segment that stand on the heap; all segments together are then 6 MiB. */
    private static final int ON_HEAP = 1 << 14;

    /** Keeps whole numbers from being chosen so that they meet in one place. */
    private static final long SALT = new SecureRandom().nextLong();

    private final Segment[] segments = new Segment[SEGMENTS];
    private final MessageDigest digest;
    /** The key that is asked for. */
    private long high;

    private long low;

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

    /** Asks for a key of bytes from now on. */
    void ask(byte[] key, int length) {
        digest.update(key, 0, length);
        ByteBuffer hash = ByteBuffer.wrap(digest.digest());
        take(hash.getLong(0), hash.getLong(Long.BYTES));
    }

    /** Asks for a key that is one whole number from now on; no two numbers are taken for one. */
    void ask(long number) {
        long mixed = mix(number ^ SALT);
        take(Long.rotateLeft(mixed, Integer.SIZE), mixed);
    }

    private void take(long newHigh, long newLow) {
        high = newHigh;
        low = newLow == 0 ? 1 : newLow;
    }

    /** Spreads the bits of a number over a word, one to one (the finalizer of SplitMix64, G. L. Steele et al., 2014). */
    private static long mix(long number) {
        long z = (number ^ number >>> 30) * 0xbf58476d1ce4e5b9L;
        z = (z ^ z >>> 27) * 0x94d049bb133111ebL;
        return z ^ z >>> 31;
    }

    /**
     * Adds the key.
     *
     * @return the line it first stood on, or 0 when it is new
     */
    long add(long line) {
        return segment().add(high, low, line);
    }

    /** Adds the key, or says of a known one that it stands on another line. */
    void put(long line) {
        segment().put(high, low, line);
    }

    /** The line that is remembered of the key, or 0. */
    long line() {
        return segment().line(high, low);
    }

    private Segment segment() {
        return segments[(int) (high >>> 60)];
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
            LongBuffer next = larger <= ON_HEAP ? LongBuffer.allocate(larger * ENTRY) : mapped(larger);
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
