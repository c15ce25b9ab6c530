package ninepin.standins.accounts;

import java.io.Closeable;
import java.io.IOException;
import java.io.RandomAccessFile;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import tools.jackson.databind.json.JsonMapper;

/**
 * What is booked: a file of one JSON object a line, forced to disk before a voucher counts as booked, so that what was
 * answered outlives any end of the process. Half a line at its end, from a crash, is cut off.
 */
final class Ledger implements Closeable {

    static final JsonMapper JSON = JsonMapper.builder().build();

    /** A line of the file: what was booked, or the account number of what was cancelled. */
    private record Entry(Voucher.Booked booked, String cancelled) {}

    private final FileChannel lock;
    private final RandomAccessFile file;
    private final Map<String, Voucher.Booked> booked = new LinkedHashMap<>();
    private final Map<String, Voucher.Booked> byKey = new HashMap<>();
    private final Map<String, Voucher.Booked> byNumber = new HashMap<>();
    private long given;

    Ledger(Path path) throws IOException {
        Files.createDirectories(path.toAbsolutePath().getParent());
        lock = lock(path.resolveSibling(path.getFileName() + ".lock"));
        file = new RandomAccessFile(path.toFile(), "rw");
        long whole = 0;
        byte[] all = Files.readAllBytes(path);
        for (int i = 0; i < all.length; i++) {
            if (all[i] == '\n') {
                take(JSON.readValue(
                        new String(all, (int) whole, i - (int) whole, StandardCharsets.UTF_8), Entry.class));
                whole = i + 1L;
            }
        }
        file.setLength(whole);
        file.seek(whole);
    }

    /** Two that write one ledger would each overwrite what the other books. */
    private static FileChannel lock(Path path) throws IOException {
        FileChannel channel = FileChannel.open(path, StandardOpenOption.CREATE, StandardOpenOption.WRITE);
        if (channel.tryLock() == null) {
            channel.close();
            throw new IOException("Another Farm Accounts has the ledger " + path.getParent() + ".");
        }
        return channel;
    }

    private void take(Entry entry) {
        if (entry.cancelled() != null) {
            Voucher.Booked gone = booked.remove(entry.cancelled());
            byNumber.remove(gone.voucher().number());
            return;
        }
        Voucher.Booked b = entry.booked();
        given++;
        booked.put(b.accountNumber(), b);
        byNumber.put(b.voucher().number(), b);
        if (b.key() != null) {
            byKey.put(b.key(), b);
        }
    }

    private void keep(Entry entry) throws IOException {
        long whole = file.length();
        try {
            file.write((JSON.writeValueAsString(entry) + "\n").getBytes(StandardCharsets.UTF_8));
            file.getFD().sync();
        } catch (IOException e) {
            // Half a line would spoil the next one.
            file.setLength(whole);
            file.seek(whole);
            throw e;
        }
        take(entry);
    }

    /** What was booked under an idempotency key. */
    synchronized Optional<Voucher.Booked> underKey(String key) {
        return Optional.ofNullable(byKey.get(key));
    }

    /** What was booked under a sender's number. */
    synchronized Optional<Voucher.Booked> numbered(String number) {
        return Optional.ofNullable(byNumber.get(number));
    }

    /**
     * Books a voucher, once for each key.
     *
     * @throws Refused where a voucher of that number is booked already
     */
    synchronized Voucher.Booked book(String key, Voucher voucher) throws IOException, Refused {
        if (key != null && byKey.containsKey(key)) {
            return byKey.get(key);
        }
        Voucher.Booked there = byNumber.get(voucher.number());
        if (there != null) {
            throw new Refused(
                    409,
                    "Voucher " + voucher.number() + " is booked already, as " + there.accountNumber() + ".",
                    List.of());
        }
        String number = String.format("FA-%06d", given + 1);
        Voucher.Booked b = new Voucher.Booked(number, Instant.now().truncatedTo(ChronoUnit.MILLIS), key, voucher);
        keep(new Entry(b, null));
        return b;
    }

    /** Cancels what is booked under an account number; false where there is nothing. */
    synchronized boolean cancel(String accountNumber) throws IOException {
        if (!booked.containsKey(accountNumber)) {
            return false;
        }
        keep(new Entry(null, accountNumber));
        return true;
    }

    /** All that is booked, the oldest first. */
    synchronized List<Voucher.Booked> all() {
        return new ArrayList<>(booked.values());
    }

    @Override
    public void close() throws IOException {
        file.close();
        lock.close();
    }
}
