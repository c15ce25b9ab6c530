package ninepin.core.run;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.List;
import java.util.concurrent.BlockingQueue;
import ninepin.core.check.Finding;
import ninepin.core.deliver.Mark;
import ninepin.core.deliver.Tally;
import ninepin.core.document.DocumentShaper;
import ninepin.core.document.DocumentStream;
import ninepin.core.document.SummaryGroups;
import ninepin.core.layout.Severity;
import ninepin.core.record.Position;
import ninepin.core.shape.Sequences;

/** Reads, checks and shapes on its own thread, ahead of the delivery, and fills chunks with whole documents. */
final class ChunkProducer implements Runnable {

    private final RunPlan plan;
    private final DocumentStream stream;
    private final DocumentShaper shaper;
    private final StopSignal stop;
    private final BlockingQueue<Chunk> free;
    private final BlockingQueue<Chunk> full;

    private long sequence;
    private long rejected;
    private long notes;

    ChunkProducer(
            RunPlan plan,
            DocumentStream stream,
            DocumentShaper shaper,
            Mark from,
            StopSignal stop,
            BlockingQueue<Chunk> free,
            BlockingQueue<Chunk> full) {
        this.plan = plan;
        this.stream = stream;
        this.shaper = shaper;
        this.stop = stop;
        this.free = free;
        this.full = full;
        this.rejected = from.tally().rejected();
        this.notes = from.tally().notes();
    }

    @Override
    public void run() {
        Ending ending = null;
        Position from = stream.after();
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
            return Ending.interruption("FIL-03", "Could not read on in the file: " + e.getMessage() + ".");
        } catch (SummaryGroups.TooMany e) {
            chunk.reset(chunk.sequence, chunk.start);
            return Ending.failure("SUM-01", e.getMessage());
        } catch (Sequences.Unavailable e) {
            chunk.reset(chunk.sequence, chunk.start);
            return e.mayPass()
                    ? Ending.interruption("SEQ-01", e.getMessage())
                    : Ending.failure("SEQ-01", e.getMessage());
        } catch (RuntimeException | OutOfMemoryError | StackOverflowError e) {
            chunk.reset(chunk.sequence, chunk.start);
            return Ending.failure(
                    "RUN-02",
                    "Reading broke off behind line " + chunk.start.line() + ": " + e + ". Please report this.");
        }
    }

    private Ending fill(Chunk chunk) throws IOException {
        Ending ending = null;
        while (ending == null && !stop.requested() && !chunk.full(plan.chunkRows())) {
            ending = step(chunk);
        }
        chunk.end = stream.after();
        if (ending == Ending.END_OF_FILE) {
            return endOfFile(chunk);
        }
        return ending == null && stop.requested() ? Ending.STOP : ending;
    }

    /** Adds what comes next to a chunk; why the stream ends with it, or null. */
    private Ending step(Chunk chunk) throws IOException {
        switch (stream.next()) {
            case BLANK:
                chunk.blank++;
                if (plan.notesBlankRows()) {
                    chunk.addNotes(stream.record(), List.of(stream.checker().blankRow(stream.record())));
                    return limit(0, 1);
                }
                return null;
            case HALT:
                return Ending.halt(firstHalt(stream.checker().findings()));
            case END:
                return Ending.END_OF_FILE;
            default:
                shaper.settle(chunk);
                long before = chunk.notes;
                int refused = chunk.add(stream.document(), shaper, stream.record());
                return limit(refused, chunk.notes - before);
        }
    }

    /** The end of the run where a limit is exceeded with more rejects and notes, or null. */
    private Ending limit(int moreRejects, long moreNotes) {
        if (moreRejects == 0 && moreNotes == 0) {
            return null;
        }
        rejected += moreRejects;
        notes += moreNotes;
        String exceeded = plan.exceeded(new Tally(stream.after().records(), 0, 0, 0, 0, rejected, 0, 0, notes));
        return exceeded == null ? null : Ending.limit(exceeded, plan.whole());
    }

    private Ending endOfFile(Chunk chunk) {
        if (chunk.end.records() == 0) {
            chunk.addNotes(stream.record(), List.of(stream.checker().noRecords(stream.record())));
        }
        List<Finding> findings = stream.atEnd();
        List<Finding> notes =
                findings.stream().filter(f -> f.severity() == Severity.NOTE).toList();
        if (!notes.isEmpty()) {
            chunk.addNotes(stream.record(), notes);
        }
        return findings.stream().anyMatch(f -> f.severity() == Severity.HALT)
                ? Ending.halt(firstHalt(findings))
                : Ending.END_OF_FILE;
    }

    private static Finding firstHalt(List<Finding> findings) {
        return findings.stream()
                .filter(f -> f.severity() == Severity.HALT)
                .findFirst()
                .orElseThrow();
    }
}
