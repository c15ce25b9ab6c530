package ninepin.core.run;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.BlockingQueue;
import ninepin.core.check.Finding;
import ninepin.core.check.RecordChecker;
import ninepin.core.deliver.Mark;
import ninepin.core.deliver.Tally;
import ninepin.core.layout.Severity;
import ninepin.core.read.Position;
import ninepin.core.read.RawRecord;
import ninepin.core.read.RecordReader;
import ninepin.core.shape.Shaper;

/** Reads, checks and shapes on its own thread, ahead of the delivery, and fills chunks with whole documents. */
final class ChunkProducer implements Runnable {

    private final RunPlan plan;
    private final RecordReader reader;
    private final RecordChecker checker;
    private final Shaper[] shapers;
    /** For each record type the deliveries that make rows of it. */
    private final int[][] deliveriesOf;

    private final boolean nested;
    private final StopSignal stop;
    private final BlockingQueue<Chunk> free;
    private final BlockingQueue<Chunk> full;
    private final boolean noteBlankRows;

    private long sequence;
    private long rejected;
    /** Whether the reader's record was read for the chunk before, and belongs to this one. */
    private boolean pending;
    /** Where the open document starts, and where reading has come to behind it. */
    private Position documentStart;

    ChunkProducer(
            RunPlan plan,
            RecordReader reader,
            RecordChecker checker,
            Mark from,
            StopSignal stop,
            BlockingQueue<Chunk> free,
            BlockingQueue<Chunk> full) {
        this.plan = plan;
        this.reader = reader;
        this.checker = checker;
        this.shapers = plan.deliveries().stream()
                .map(d -> new Shaper(plan.layout(), d.type(), d.rules(), plan.facts()))
                .toArray(Shaper[]::new);
        this.deliveriesOf = plan.deliveriesOfTypes();
        this.nested = plan.layout().nested();
        this.stop = stop;
        this.free = free;
        this.full = full;
        this.noteBlankRows = plan.notesBlankRows();
        this.rejected = from.tally().rejected();
    }

    @Override
    public void run() {
        Ending ending = null;
        Position from = reader.position();
        try {
            while (ending == null) {
                Chunk chunk = free.take();
                chunk.reset(sequence++, from);
                ending = fillSafely(chunk);
                chunk.ending = ending;
                from = chunk.end;
                full.put(chunk);
            }
        } catch (InterruptedException e) {
            // The delivery has failed and says so itself.
            Thread.currentThread().interrupt();
        }
    }

    /** Fills a chunk; trouble with the file drops what the chunk holds, and a restart reads it again. */
    private Ending fillSafely(Chunk chunk) {
        try {
            return fill(chunk);
        } catch (IOException | UncheckedIOException e) {
            chunk.reset(chunk.sequence, chunk.start);
            return Ending.failure(
                    "FIL-03", "Could not read the file on: " + e.getMessage() + ". Restart when it is back.");
        } catch (RuntimeException | OutOfMemoryError | StackOverflowError e) {
            chunk.reset(chunk.sequence, chunk.start);
            return Ending.failure(
                    "RUN-02",
                    "Reading broke off behind line " + chunk.start.line() + ": " + e + ". Please report this.");
        }
    }

    private Ending fill(Chunk chunk) throws IOException {
        while (true) {
            if (!pending) {
                Position between = chunk.documentOpen() ? null : betweenDocuments(chunk);
                if (between != null) {
                    chunk.end = between;
                    return stop.requested() ? Ending.STOP : null;
                }
                RecordReader.Item item = reader.next();
                if (item == RecordReader.Item.END) {
                    return endOfFile(chunk);
                }
                if (item == RecordReader.Item.BLANK) {
                    blank(chunk, reader.record());
                    continue;
                }
            }
            pending = false;
            RawRecord record = reader.record();
            if (chunk.documentOpen() && checker.startsDocument(record)) {
                Ending limit = endDocument(chunk);
                if (limit != null || stop.requested() || chunk.full(plan.chunkRows())) {
                    chunk.end = before(record);
                    pending = true;
                    return limit != null ? limit : stop.requested() ? Ending.STOP : null;
                }
            }
            if (!chunk.documentOpen()) {
                chunk.beginDocument();
                documentStart = nested ? before(record) : null;
            }
            Ending ending = record(chunk, record);
            if (ending == null && !nested) {
                ending = endDocument(chunk);
                if (ending != null) {
                    chunk.end = reader.position();
                }
            }
            if (ending != null) {
                return ending;
            }
        }
    }

    /** The place at which the chunk ends where it is full or a stop is asked for; or null. */
    private Position betweenDocuments(Chunk chunk) {
        return chunk.full(plan.chunkRows()) || stop.requested() ? reader.position() : null;
    }

    private static Position before(RawRecord record) {
        return new Position(record.offset(), record.line(), record.number() - 1);
    }

    private Ending endOfFile(Chunk chunk) {
        if (chunk.documentOpen()) {
            Ending limit = endDocument(chunk);
            if (limit != null) {
                chunk.end = reader.position();
                return limit;
            }
        }
        chunk.end = reader.position();
        if (chunk.end.records() == 0) {
            chunk.addNotes(reader.record(), List.of(checker.noRecords(reader.record())));
        }
        List<Finding> findings = checker.atEnd();
        List<Finding> notes =
                findings.stream().filter(f -> f.severity() == Severity.NOTE).toList();
        if (!notes.isEmpty()) {
            chunk.addNotes(reader.record(), notes);
        }
        return findings.stream()
                .filter(f -> f.severity() == Severity.HALT)
                .findFirst()
                .map(Ending::halt)
                .orElse(Ending.END_OF_FILE);
    }

    private void blank(Chunk chunk, RawRecord row) {
        chunk.blank++;
        if (noteBlankRows) {
            chunk.addNotes(row, List.of(checker.blankRow(row)));
        }
    }

    /** Ends the open document; the limit that its rejects exceed, or null. */
    private Ending endDocument(Chunk chunk) {
        int refused = chunk.endDocument(checker.lacking());
        if (refused == 0) {
            return null;
        }
        rejected += refused;
        String exceeded = plan.exceeded(new Tally(reader.position().records(), 0, 0, 0, 0, rejected, 0, 0, 0));
        return exceeded == null ? null : Ending.limit(exceeded);
    }

    private Ending record(Chunk chunk, RawRecord record) {
        Severity worst = checker.check(record);
        if (worst == Severity.HALT) {
            Finding halt = checker.findings().stream()
                    .filter(f -> f.severity() == Severity.HALT)
                    .findFirst()
                    .orElseThrow();
            chunk.dropDocument();
            chunk.end = documentStart != null ? documentStart : before(record);
            return Ending.halt(halt);
        }
        if (worst == Severity.REJECT) {
            chunk.addReject(record, checker.findings());
            return null;
        }
        int[] deliveries = deliveriesOf[record.type()];
        List<Finding> misfits = List.of();
        for (int delivery : deliveries) {
            List<Finding> found = shapers[delivery].shape(record, checker.values(), chunk.batch.rows(delivery));
            misfits = joined(misfits, found);
        }
        if (!misfits.isEmpty()) {
            chunk.addReject(record, joined(checker.findings(), misfits));
            return null;
        }
        chunk.addRecord(record, nested, deliveries.length > 0);
        for (int delivery : deliveries) {
            chunk.addRow(delivery);
        }
        if (worst == Severity.NOTE) {
            chunk.addNotes(record, checker.findings());
        }
        return null;
    }

    private static List<Finding> joined(List<Finding> some, List<Finding> more) {
        if (more.isEmpty() || some.isEmpty()) {
            return more.isEmpty() ? some : more;
        }
        List<Finding> all = new ArrayList<>(some);
        all.addAll(more);
        return all;
    }
}
