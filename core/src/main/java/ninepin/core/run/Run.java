package ninepin.core.run;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.LinkedBlockingQueue;
import ninepin.core.bytes.FileSource;
import ninepin.core.bytes.Fingerprint;
import ninepin.core.check.Finding;
import ninepin.core.check.RecordChecker;
import ninepin.core.check.WholeFile;
import ninepin.core.deliver.Mark;
import ninepin.core.deliver.TakeUp;
import ninepin.core.deliver.Target;
import ninepin.core.deliver.TargetException;
import ninepin.core.document.DocumentFile;
import ninepin.core.document.DocumentShaper;
import ninepin.core.document.DocumentStream;
import ninepin.core.format.Formats;
import ninepin.core.layout.Severity;
import ninepin.core.record.Fault;
import ninepin.core.record.Opening;
import ninepin.core.record.Position;

/**
 * One execution of one version of a job on one file. Started again after any kind of end, it goes on from the mark in
 * the target; on a run that is complete it does nothing.
 */
public final class Run {

    private static final int AHEAD = 2;

    private final RunPlan plan;
    private final Path file;
    private final Path journalPath;
    private final Target target;
    private final RunListener listener;
    private final StopSignal stop;
    private final TakeUp as;

    /** A run that is taken up where nobody else has it. */
    public Run(RunPlan plan, Path file, Path journalPath, Target target, RunListener listener, StopSignal stop) {
        this(plan, file, journalPath, target, listener, stop, TakeUp.ALONE);
    }

    /**
     * @param plan what to do
     * @param file the claimed file, which must not change while the run lasts
     * @param journalPath where rejects and notes are kept
     * @param target where rows go; closed by the caller
     * @param listener told how it comes along
     * @param stop asks it to stop
     * @param as on what ground it is taken up
     */
    public Run(
            RunPlan plan,
            Path file,
            Path journalPath,
            Target target,
            RunListener listener,
            StopSignal stop,
            TakeUp as) {
        this.plan = plan;
        this.file = file;
        this.journalPath = journalPath;
        this.target = target;
        this.listener = listener;
        this.stop = stop;
        this.as = as;
    }

    /** Runs to an end. Never throws for bad input or a bad target: the outcome says what happened. */
    public RunOutcome execute() {
        Mark mark = Mark.none("");
        try (FileSource source = FileSource.open(file)) {
            String fingerprint = Fingerprint.of(source);
            mark = target.takeUp(as).orElse(Mark.none(fingerprint));
            if (!mark.fingerprint().equals(fingerprint)) {
                return RunOutcome.failed(
                        mark,
                        "FIL-02",
                        "The file is not the one this run began with: its bytes have changed. Nothing was delivered from it.");
            }
            if (mark.complete()) {
                return finished(mark);
            }
            return execute(source, mark);
        } catch (NoSuchFileException e) {
            return RunOutcome.failed(mark, "FIL-03", "The file " + file.getFileName() + " is gone.");
        } catch (IOException e) {
            return RunOutcome.interrupted(mark, "FIL-03", "Trouble with the file or its journal: " + e.getMessage());
        } catch (TargetException e) {
            return RunOutcome.failed(mark, e);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            return RunOutcome.interrupted(mark, "RUN-01", "The run was interrupted after its last commit.");
        }
    }

    private RunOutcome execute(FileSource source, Mark mark) throws IOException, InterruptedException {
        Opening opening = Formats.open(source, plan.layout());
        if (opening.fault() != null) {
            Finding halt = ofOpening(opening);
            return new RunOutcome(RunOutcome.State.HALTED, mark, mark, halt.code(), halt.message(), halt, false);
        }
        Position start = mark.commits() == 0 ? opening.body() : mark.position();
        RecordChecker checker = checker(opening);
        if (checker.looksAhead() && mark.commits() == 0) {
            Finding halt = new WholeFile(() -> FileSource.open(file), plan.layout(), plan.today(), stop::requested)
                    .check()
                    .halt();
            if (halt != null) {
                String message = halt.message() + " Nothing was delivered: the file was looked at as a whole first.";
                return new RunOutcome(RunOutcome.State.HALTED, mark, mark, halt.code(), message, halt, false);
            }
        }
        boolean again =
                start.records() > 0 && (checker.remembers() || plan.documents().remembers());
        try (DocumentFile ordered = DocumentFile.of(source, opening, plan.documents(), listener::gathering)) {
            return execute(source, opening, ordered, checker, mark, again ? opening.body() : start);
        }
    }

    private RunOutcome execute(
            FileSource source, Opening opening, DocumentFile ordered, RecordChecker checker, Mark mark, Position from)
            throws IOException, InterruptedException {
        try (DocumentStream stream = new DocumentStream(ordered.reader(from), checker, plan.documents())) {
            return execute(source, opening, ordered, stream, mark);
        }
    }

    private RunOutcome execute(
            FileSource source, Opening opening, DocumentFile ordered, DocumentStream stream, Mark mark)
            throws IOException, InterruptedException {
        DocumentShaper shaper = new DocumentShaper(plan.documents(), stream, plan.context());
        if (plan.documents().surveys()) {
            survey(ordered, opening, shaper);
        }
        remember(stream, shaper, mark.position());
        Files.createDirectories(journalPath.toAbsolutePath().getParent());
        try (Journal journal = Journal.open(journalPath, mark.journalLength());
                FileSource reread = FileSource.open(file)) {
            listener.started(mark, source.size());
            SummaryDelivery summaries = new SummaryDelivery(
                    plan,
                    mark.commits() == 0 ? shaper : null,
                    of -> new DocumentStream(ordered.reader(opening.body()), checker(opening), of),
                    journalPath,
                    stop);
            Committer committer = new Committer(plan, reread, journal, summaries, listener, mark);
            Ending ending = pump(stream, shaper, mark, committer);
            return outcome(ending, committer);
        }
    }

    private Ending pump(DocumentStream stream, DocumentShaper shaper, Mark mark, Committer committer)
            throws InterruptedException {
        BlockingQueue<Chunk> full = new ArrayBlockingQueue<>(AHEAD);
        BlockingQueue<Chunk> free = new LinkedBlockingQueue<>();
        for (int i = 0; i < AHEAD + loaders() + 1; i++) {
            free.add(new Chunk(plan.documents()));
        }
        Thread producer = new Thread(
                new ChunkProducer(plan, stream, shaper, mark, stop, free, full),
                Thread.currentThread().getName() + " reader");
        producer.start();
        try {
            return new OrderedLoaders(target, loaders(), plan.whole(), full, free, committer).run();
        } finally {
            producer.interrupt();
            producer.join();
        }
    }

    private int loaders() {
        return plan.whole() ? 1 : target.maxConnections();
    }

    private RecordChecker checker(Opening opening) {
        return new RecordChecker(plan.layout(), opening, plan.today());
    }

    /** Reads again what was delivered before a restart, for the checks and records that have to know it. */
    private static void remember(DocumentStream stream, DocumentShaper shaper, Position upTo) throws IOException {
        // Not so many records: blank rows behind the last one may be accounted for already.
        while (stream.after().offset() < upTo.offset()) {
            DocumentStream.Step step = stream.next();
            if (step == DocumentStream.Step.DOCUMENT) {
                shaper.remember();
            } else if (step != DocumentStream.Step.BLANK) {
                return;
            }
        }
    }

    /** Reads the file to its end, to know where the last record of each key stands. */
    private void survey(DocumentFile ordered, Opening opening, DocumentShaper shaper) throws IOException {
        try (DocumentStream stream =
                new DocumentStream(ordered.reader(opening.body()), checker(opening), plan.documents())) {
            shaper.survey(stream, plan.documents(), plan.context(), stop::requested);
        }
    }

    private RunOutcome outcome(Ending ending, Committer committer) {
        Mark mark = committer.committed();
        Mark seen = committer.mark();
        String nothing = plan.whole() ? " Nothing was delivered: the file is delivered whole or not at all." : "";
        switch (ending.why()) {
            case END_OF_FILE:
                return finished(mark);
            case STOP:
                String words = plan.whole() ? "Stopped on request." : "Stopped on request. Restart to go on from here.";
                return new RunOutcome(RunOutcome.State.STOPPED, mark, seen, null, words + nothing, null, false);
            case HALT:
                return new RunOutcome(
                        RunOutcome.State.HALTED,
                        mark,
                        seen,
                        ending.code(),
                        ending.message() + nothing,
                        ending.halt(),
                        false);
            default:
                return new RunOutcome(
                        RunOutcome.State.FAILED,
                        mark,
                        seen,
                        ending.code(),
                        ending.message() + nothing,
                        null,
                        ending.mayPass());
        }
    }

    private static RunOutcome finished(Mark mark) {
        if (!mark.tally().balances() || mark.tally().read() != mark.position().records()) {
            return RunOutcome.failed(mark, "TLY-01", "The tally of the run does not balance: " + mark.tally());
        }
        return new RunOutcome(RunOutcome.State.FINISHED, mark, mark, null, null, null, false);
    }

    /** The finding for what keeps a file from being read at its start. */
    public static Finding ofOpening(Opening opening) {
        Fault f = opening.fault();
        return new Finding(
                Severity.HALT,
                f.code(),
                opening.locator(),
                0,
                null,
                null,
                opening.header().offset() + f.from(),
                f.to() - f.from(),
                f.found(),
                f.expected(),
                f.advice());
    }
}
