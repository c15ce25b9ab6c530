package ninepin.core.check;

import java.io.IOException;
import java.io.InterruptedIOException;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.function.BooleanSupplier;
import ninepin.core.bytes.ByteSource;
import ninepin.core.format.Formats;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Severity;
import ninepin.core.record.Opening;
import ninepin.core.record.Piece;
import ninepin.core.record.RecordReader;

/**
 * Reads and checks a file to its end before anything is delivered. A large file is cut into pieces that are checked side
 * by side. That is taken to hold only where it must say the same as one pass from the start: each piece ended where the
 * next begins, nothing in a piece hangs on what stands before it, and nothing halts the file. Otherwise one pass follows,
 * which alone says what halts it, and where.
 */
public final class WholeFile {

    /** The least bytes that make a piece worth a thread. */
    private static final long PIECE = 4L << 20;

    private static final long DOUBTFUL = -1;

    /** Opens the file; each reader has a source of its own. */
    @FunctionalInterface
    public interface Source {
        ByteSource open() throws IOException;
    }

    /**
     * What there is to say of a file.
     *
     * @param records how many records were read
     * @param refused how many of them have a finding worse than a note
     * @param halt the first finding that halts it, or null; nothing behind it was read
     */
    public record Summary(long records, long refused, Finding halt) {}

    /** What was checked of a piece. */
    private record Checked(RecordChecker checker, long records, long refused, long end) {

        /** With the piece behind it; of a doubtful end where that would have been checked otherwise with this one. */
        Checked join(Checked behind) {
            boolean same = checker.join(behind.checker);
            return new Checked(
                    checker, records + behind.records, refused + behind.refused, same ? behind.end : DOUBTFUL);
        }
    }

    private final Source source;
    private final Layout layout;
    private final LocalDate today;
    private final BooleanSupplier stop;

    /**
     * @param source opens the file, again for each piece
     * @param layout the layout, with all checks that apply
     * @param today the day of the run
     * @param stop whether to leave off; what is found then says nothing of the rest of the file
     */
    public WholeFile(Source source, Layout layout, LocalDate today, BooleanSupplier stop) {
        this.source = source;
        this.layout = layout;
        this.today = today;
        this.stop = stop;
    }

    /** Checks the file on all processors of the machine. */
    public Summary check() throws IOException {
        Optional<Summary> sideBySide = inPieces(Runtime.getRuntime().availableProcessors(), PIECE);
        return sideBySide.isPresent() ? sideBySide.get() : inOne();
    }

    /** Checks the file in one pass. */
    Summary inOne() throws IOException {
        try (ByteSource file = source.open()) {
            Opening opening = Formats.open(file, layout);
            RecordChecker checker = new RecordChecker(layout, opening, today);
            RecordReader reader = opening.reader(file, opening.body());
            long records = 0;
            long refused = 0;
            RecordReader.Item item;
            while ((item = reader.next()) != RecordReader.Item.END && !stop.getAsBoolean()) {
                if (item == RecordReader.Item.BLANK) {
                    continue;
                }
                records++;
                Severity worst = checker.check(reader.record());
                if (worst == Severity.HALT) {
                    return new Summary(records, refused + 1, halting(checker.findings()));
                }
                refused += worst == null || worst == Severity.NOTE ? 0 : 1;
            }
            return new Summary(records, refused, item == RecordReader.Item.END ? halting(checker.atEnd()) : null);
        }
    }

    /**
     * Checks the file in pieces side by side; empty where they do not tell what one pass would.
     *
     * @param most the most pieces
     * @param least the least bytes of a piece
     */
    Optional<Summary> inPieces(int most, long least) throws IOException {
        try (ByteSource file = source.open()) {
            Opening opening = Formats.open(file, layout);
            int pieces = (int) Math.min(most, file.size() / least);
            long[] cuts = pieces > 1 && opening.fault() == null ? opening.cuts(file, pieces) : new long[0];
            return cuts.length == 0 ? Optional.empty() : inPieces(opening, cuts);
        }
    }

    private Optional<Summary> inPieces(Opening opening, long[] cuts) throws IOException {
        ExecutorService threads = Executors.newFixedThreadPool(cuts.length);
        try {
            List<Future<Checked>> later = new ArrayList<>();
            for (int i = 0; i < cuts.length; i++) {
                long from = cuts[i];
                long to = i + 1 < cuts.length ? cuts[i + 1] : Long.MAX_VALUE;
                later.add(threads.submit(() -> piece(opening, from, to)));
            }
            Checked all = piece(opening, opening.body().offset(), cuts[0]);
            for (int i = 0; i < cuts.length && all.end() == cuts[i]; i++) {
                all = all.join(later.get(i).get());
            }
            boolean whole =
                    all.end() > cuts[cuts.length - 1] && halting(all.checker().atEnd()) == null;
            return whole ? Optional.of(new Summary(all.records(), all.refused(), null)) : Optional.empty();
        } catch (ExecutionException e) {
            if (e.getCause() instanceof IOException trouble) {
                throw trouble;
            }
            throw new IllegalStateException("A piece of the file could not be checked", e.getCause());
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new InterruptedIOException("The check of the file was interrupted");
        } finally {
            threads.shutdownNow();
        }
    }

    /** Checks from one place to another; the end says where it came to: at a record, or {@link #DOUBTFUL}. */
    private Checked piece(Opening opening, long from, long to) throws IOException {
        RecordChecker checker = new RecordChecker(layout, opening, today, true);
        boolean last = to == Long.MAX_VALUE;
        long records = 0;
        long refused = 0;
        try (ByteSource file = source.open();
                Piece piece = opening.piece(file, from, last)) {
            RecordReader reader = piece.reader();
            RecordReader.Item item;
            while ((item = reader.next()) != RecordReader.Item.END && piece.offset() < to) {
                if (item == RecordReader.Item.BLANK) {
                    continue;
                }
                if (stop.getAsBoolean() || Thread.interrupted()) {
                    return new Checked(checker, records, refused, DOUBTFUL);
                }
                records++;
                Severity worst = checker.check(reader.record());
                if (worst == Severity.HALT) {
                    return new Checked(checker, records, refused, DOUBTFUL);
                }
                refused += worst == null || worst == Severity.NOTE ? 0 : 1;
            }
            boolean atCut =
                    item == RecordReader.Item.RECORD && piece.offset() == to && checker.startsDocument(reader.record());
            long end = last || atCut ? piece.offset() : DOUBTFUL;
            return new Checked(checker, records, refused, end);
        }
    }

    private static Finding halting(List<Finding> findings) {
        return findings.stream()
                .filter(f -> f.severity() == Severity.HALT)
                .findFirst()
                .orElse(null);
    }
}
