package ninepin.core.document;

import java.io.BufferedInputStream;
import java.io.BufferedOutputStream;
import java.io.DataInputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.function.IntConsumer;
import ninepin.core.bytes.ByteSource;
import ninepin.core.bytes.FileSource;
import ninepin.core.check.RecordChecker;
import ninepin.core.check.SeenKeys;
import ninepin.core.format.Formats;
import ninepin.core.layout.Layout;
import ninepin.core.record.FormatSupport;
import ninepin.core.record.Opening;
import ninepin.core.record.Position;
import ninepin.core.record.RawRecord;
import ninepin.core.record.RecordReader;
import ninepin.core.record.RelocatedReader;
import ninepin.core.value.Value;

/**
 * A copy of a file in which the records of each document stand together, documents in the order in which each begins. It
 * is sorted outside memory, and the same file always gives the same copy, so that a restart goes on in it.
 */
final class GatheredFile implements DocumentFile {

    private static final long MOST_SLICE = 1 << 20;

    private final Path folder;
    private final FileSource copy;
    private final Opening opening;

    private GatheredFile(Path folder, Opening opening) throws IOException {
        this.folder = folder;
        this.opening = opening;
        this.copy = FileSource.open(folder.resolve("copy"));
    }

    static GatheredFile of(ByteSource file, Opening opening, DocumentPlan plan, IntConsumer percent)
            throws IOException {
        Path folder = Files.createTempDirectory("ninepin-gather");
        try (Sorter sorter = new Sorter(folder)) {
            readKeys(file, opening, plan, sorter, percent);
            write(file, opening, folder, sorter, percent);
            return new GatheredFile(folder, opening);
        } catch (IOException | RuntimeException e) {
            delete(folder);
            throw e;
        }
    }

    /** Gives each record the number of its document, in the order in which they begin; blank rows go to the end. */
    private static void readKeys(
            ByteSource file, Opening opening, DocumentPlan plan, Sorter sorter, IntConsumer percent)
            throws IOException {
        Layout layout = plan.file();
        int[] key = plan.gathering().by().stream()
                .mapToInt(layout.firstType()::indexOf)
                .toArray();
        SeenKeys seen = new SeenKeys(key, layout.format().charset().ofValues().charset());
        RecordChecker checker = new RecordChecker(layout, opening, LocalDate.EPOCH);
        RecordReader reader = opening.reader(file, opening.body());
        long documents = 0;
        long current = 0;
        RecordReader.Item item;
        while ((item = reader.next()) != RecordReader.Item.END) {
            RawRecord record = reader.record();
            long length = reader.offset() - record.offset();
            if (item == RecordReader.Item.BLANK) {
                sorter.add(Long.MAX_VALUE, 0, record.line(), record.offset(), length);
                continue;
            }
            checker.check(record);
            if (record.fault() == null) {
                Value[] values = checker.values()[record.type()];
                long known = seen.add(values, documents + 1);
                current = known == 0 ? ++documents : known;
            }
            sorter.add(current, record.number(), record.line(), record.offset(), length);
            if ((record.number() & 0xfff) == 0) {
                percent.accept((int) (record.offset() * 50 / Math.max(1, file.size())));
            }
        }
    }

    private static void write(ByteSource file, Opening opening, Path folder, Sorter sorter, IntConsumer percent)
            throws IOException {
        FormatSupport format = Formats.of(opening.layout());
        // What ends a record that was the last of its file and had no end.
        byte[] end = format.recordEnd("\n").getBytes(format.keptCharset());
        long at = opening.body().offset();
        try (OutputStream copy = new BufferedOutputStream(Files.newOutputStream(folder.resolve("copy")), 1 << 18);
                DataOutputStream origins = new DataOutputStream(
                        new BufferedOutputStream(Files.newOutputStream(folder.resolve("origins")), 1 << 18))) {
            slices(file, 0, at, copy);
            Sorter.Sorted sorted = sorter.sorted();
            long done = 0;
            while (sorted.next()) {
                origins.writeLong(at);
                origins.writeLong(sorted.number());
                origins.writeLong(sorted.line());
                origins.writeLong(sorted.offset());
                byte last = slices(file, sorted.offset(), sorted.length(), copy);
                at += sorted.length();
                boolean open = end.length > 0 && last != '\n' && last != '\r' && last != end[end.length - 1];
                if (open && sorted.offset() + sorted.length() >= file.size()) {
                    copy.write(end);
                    at += end.length;
                }
                if ((++done & 0xfff) == 0) {
                    percent.accept((int) (50 + at * 50 / Math.max(1, file.size())));
                }
            }
        }
        percent.accept(100);
    }

    /** Copies a piece of the file; its last byte. */
    private static byte slices(ByteSource file, long from, long length, OutputStream to) throws IOException {
        byte last = 0;
        for (long done = 0; done < length; ) {
            byte[] piece = file.slice(from + done, (int) Math.min(MOST_SLICE, length - done));
            to.write(piece);
            done += piece.length;
            last = piece[piece.length - 1];
        }
        return last;
    }

    @Override
    public RecordReader reader(Position start) throws IOException {
        return new RelocatedReader(opening.reader(copy, start), new Origins(folder.resolve("origins"), start.offset()));
    }

    @Override
    public void close() throws IOException {
        copy.close();
        delete(folder);
    }

    private static void delete(Path folder) throws IOException {
        try (var files = Files.list(folder)) {
            for (Path file : files.toList()) {
                Files.delete(file);
            }
        }
        Files.delete(folder);
    }

    /** The places in the file, in the order of the copy. */
    private static final class Origins implements RelocatedReader.Origins {
        private final DataInputStream in;
        private long ahead;
        private long number;
        private long line;
        private long offset;

        /**
         * @param from where in the copy the first item stands
         */
        Origins(Path path, long from) throws IOException {
            in = new DataInputStream(new BufferedInputStream(Files.newInputStream(path), 1 << 16));
            while (in.available() > 0 && (ahead = in.readLong()) < from) {
                in.skipNBytes(3L * Long.BYTES);
            }
        }

        @Override
        public void next() throws IOException {
            if (ahead < 0) {
                in.readLong();
            }
            ahead = -1;
            number = in.readLong();
            line = in.readLong();
            offset = in.readLong();
        }

        @Override
        public long number() {
            return number;
        }

        @Override
        public long line() {
            return line;
        }

        @Override
        public long offset() {
            return offset;
        }

        @Override
        public void close() throws IOException {
            in.close();
        }
    }
}
