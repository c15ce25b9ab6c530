package ninepin.core.run;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.List;
import java.util.concurrent.BlockingQueue;
import ninepin.core.check.Finding;
import ninepin.core.check.RecordChecker;
import ninepin.core.deliver.Mark;
import ninepin.core.deliver.Tally;
import ninepin.core.layout.Delimited;
import ninepin.core.layout.Severity;
import ninepin.core.read.DelimitedReader;
import ninepin.core.read.Position;
import ninepin.core.read.RawRecord;
import ninepin.core.read.RecordReader;
import ninepin.core.shape.Shaper;

/** Reads, checks and shapes on its own thread, ahead of the delivery, and fills chunks. */
final class ChunkProducer implements Runnable {

    private final RunPlan plan;
    private final DelimitedReader reader;
    private final RecordChecker checker;
    private final Shaper shaper;
    private final Mark from;
    private final StopSignal stop;
    private final BlockingQueue<Chunk> free;
    private final BlockingQueue<Chunk> full;
    private final boolean noteBlankRows;

    private long sequence;
    private long rejected;

    ChunkProducer(
            RunPlan plan,
            DelimitedReader reader,
            RecordChecker checker,
            Mark from,
            StopSignal stop,
            BlockingQueue<Chunk> free,
            BlockingQueue<Chunk> full) {
        this.plan = plan;
        this.reader = reader;
        this.checker = checker;
        this.shaper = new Shaper(plan.layout(), plan.rules(), plan.facts());
        this.from = from;
        this.stop = stop;
        this.free = free;
        this.full = full;
        this.noteBlankRows = ((Delimited) plan.layout().format()).blankRows() == Delimited.BlankRows.NOTE;
        this.rejected = from.tally().rejected();
    }

    @Override
    public void run() {
        Ending ending = null;
        try {
            while (ending == null) {
                Chunk chunk = free.take();
                chunk.reset(sequence++, reader.position());
                ending = fillSafely(chunk);
                chunk.ending = ending;
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
        } catch (RuntimeException | OutOfMemoryError e) {
            chunk.reset(chunk.sequence, chunk.start);
            return Ending.failure(
                    "RUN-02",
                    "Reading broke off behind line " + chunk.start.line() + ": " + e + ". Please report this.");
        }
    }

    private Ending fill(Chunk chunk) throws IOException {
        while (!chunk.full(plan.chunkRows())) {
            if (stop.requested()) {
                chunk.end = reader.position();
                return Ending.STOP;
            }
            RecordReader.Item item = reader.next();
            if (item == RecordReader.Item.END) {
                chunk.end = reader.position();
                if (chunk.end.records() == 0) {
                    chunk.addNotes(reader.record(), List.of(checker.noRecords(reader.record())));
                }
                return Ending.END_OF_FILE;
            }
            RawRecord record = reader.record();
            if (item == RecordReader.Item.BLANK) {
                blank(chunk, record);
                continue;
            }
            Ending ending = record(chunk, record);
            if (ending != null) {
                return ending;
            }
        }
        chunk.end = reader.position();
        return null;
    }

    private void blank(Chunk chunk, RawRecord row) {
        chunk.blank++;
        if (noteBlankRows) {
            chunk.addNotes(row, List.of(checker.blankRow(row)));
        }
    }

    private Ending record(Chunk chunk, RawRecord record) {
        Severity worst = checker.check(record);
        if (worst == Severity.HALT) {
            Finding halt = checker.findings().stream()
                    .filter(f -> f.severity() == Severity.HALT)
                    .findFirst()
                    .orElseThrow();
            chunk.end = new Position(record.offset(), record.line(), record.number() - 1);
            return Ending.halt(halt);
        }
        if (worst == Severity.REJECT) {
            chunk.addReject(record, checker.findings());
            rejected++;
            String exceeded = plan.exceeded(new Tally(record.number(), 0, 0, 0, 0, rejected, 0, 0, 0));
            if (exceeded != null) {
                chunk.end = reader.position();
                return Ending.limit(exceeded);
            }
            return null;
        }
        shaper.shape(record, checker.values(), chunk.rows);
        chunk.addRow(record);
        if (worst == Severity.NOTE) {
            chunk.addNotes(record, checker.findings());
        }
        return null;
    }
}
