package ninepin.server.runs;

import java.io.IOException;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Optional;
import ninepin.core.bytes.FileSource;
import ninepin.core.bytes.Fingerprint;
import ninepin.core.deliver.Mark;
import ninepin.core.deliver.Places;
import ninepin.core.deliver.TakeUp;
import ninepin.core.deliver.Tally;
import ninepin.core.deliver.Target;
import ninepin.core.deliver.TargetException;
import ninepin.core.deliver.database.DatabaseSequences;
import ninepin.core.destination.Destinations;
import ninepin.core.destination.support.TargetContext;
import ninepin.core.format.Transcripts;
import ninepin.core.job.Job;
import ninepin.core.job.Leg;
import ninepin.core.job.Shortcoming;
import ninepin.core.lookup.LookUpException;
import ninepin.core.ready.Readiness;
import ninepin.core.run.Legs;
import ninepin.core.run.Run;
import ninepin.core.run.RunOutcome;
import ninepin.core.run.RunPlan;
import ninepin.core.run.StopSignal;
import ninepin.core.shape.Sequences;
import ninepin.core.shape.ShapingContext;
import ninepin.server.config.Folders;
import ninepin.server.connections.Connections;
import ninepin.server.jobs.Jobs;
import ninepin.server.jobs.ShapingContexts;
import ninepin.server.lookups.LookUps;
import ninepin.server.runs.RunMapper.RunRow;
import ninepin.server.transfer.Outbox;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;
import org.springframework.web.ErrorResponseException;

/** Executes one run with the core, on the calling thread, keeps its account, and tells how it ended. */
@Component
class RunExecution {

    private static final Logger LOG = LoggerFactory.getLogger(RunExecution.class);

    private final RunMapper mapper;
    private final Jobs jobs;
    private final Connections connections;
    private final ShapingContexts contexts;
    private final LookUps lookUps;
    private final Folders folders;
    private final JournalImport journals;
    private final LegAccounts legAccounts;
    private final Places places;
    private final RunPlans plans;
    private final SameFile sameFile;
    private final Marks marks;
    private final FileMoves moves;
    private final Records records;
    private final Outbox outbox;
    private final Clock clock;

    private final Transcripts transcripts;

    RunExecution(
            RunMapper mapper,
            Jobs jobs,
            Connections connections,
            ShapingContexts contexts,
            LookUps lookUps,
            Folders folders,
            JournalImport journals,
            LegAccounts legAccounts,
            Places places,
            RunPlans plans,
            SameFile sameFile,
            Marks marks,
            FileMoves moves,
            Records records,
            Outbox outbox,
            Clock clock,
            Transcripts transcripts) {
        this.mapper = mapper;
        this.jobs = jobs;
        this.connections = connections;
        this.contexts = contexts;
        this.lookUps = lookUps;
        this.folders = folders;
        this.journals = journals;
        this.legAccounts = legAccounts;
        this.places = places;
        this.plans = plans;
        this.sameFile = sameFile;
        this.marks = marks;
        this.moves = moves;
        this.records = records;
        this.outbox = outbox;
        this.clock = clock;
        this.transcripts = transcripts;
    }

    /**
     * Executes a run that this process has taken up.
     *
     * @throws org.springframework.dao.DataAccessException where Ninepin's own database fails
     */
    RunEnd execute(RunRow row, LiveRun live) {
        Path file;
        String fingerprint;
        try {
            file = moves.settle(row.id());
            try (FileSource source = FileSource.open(file)) {
                fingerprint = Fingerprint.of(source);
            }
        } catch (NoSuchFileException e) {
            return RunEnd.failed("FIL-03", "The file " + row.fileName() + " is gone.", false);
        } catch (IOException e) {
            return RunEnd.failed("FIL-03", "The file " + row.fileName() + " cannot be read: " + e.getMessage(), true);
        }
        mapper.fingerprint(row.id(), fingerprint);
        Jobs.Definition definition = plans.definition(row);
        try {
            file = transcripts.readable(file, definition.layout());
        } catch (IOException e) {
            return RunEnd.failed(
                    "FIL-03", "The file " + row.fileName() + " cannot be transcribed: " + e.getMessage(), true);
        }
        try {
            Optional<String> elsewhere = row.parentRun() == null
                    ? sameFile.deliveredElsewhere(row, definition.job(), fingerprint)
                    : Optional.empty();
            if (elsewhere.isPresent()) {
                return RunEnd.of(
                        RunChange.REFUSE,
                        "FIL-06",
                        "The same file, byte for byte, " + elsewhere.get()
                                + " Allow the same file again in the pick-up if that is meant.");
            }
        } catch (TargetException e) {
            return RunEnd.failed(e.code(), e.getMessage(), e.mayPass());
        }
        return run(row, live, definition, file);
    }

    private RunEnd run(RunRow row, LiveRun live, Jobs.Definition definition, Path file) {
        List<String> changed = jobs.changedTargets(row.jobId(), row.version());
        if (!changed.isEmpty()) {
            String told = "Changed since version " + row.version() + " went live: " + String.join(". ", changed);
            mapper.event(row.id(), clock.instant(), "target changed", shortened(told), 0);
        }
        Job job = definition.job();
        try (DatabaseSequences sequences = sequences(job)) {
            Instant startedAt = row.startedAt().truncatedTo(ChronoUnit.SECONDS);
            ShapingContext context =
                    plans.context(row, job, startedAt, sequences == null ? Sequences.anew() : sequences);
            List<Shortcoming> shortcomings = jobs.check(definition);
            if (!Readiness.mayRun(shortcomings)) {
                Shortcoming first = shortcomings.stream()
                        .filter(Shortcoming::blocks)
                        .findFirst()
                        .orElseThrow();
                return RunEnd.failed(first.code(), first.message(), first.mayPass());
            }
            noteTaken(row, context);
            legAccounts.expect(row.id(), job);
            for (Leg leg : job.legs()) {
                journals.forgetUncommitted(row.id(), leg.number());
            }
            List<RunOutcome> outcomes = runLegs(row, live, definition, file, context);
            RunEnd end = RunEnd.of(job.legs(), outcomes);
            if (end.change() == RunChange.FINISH && !outcomes.contains(null)) {
                lookUps.ended(row.id());
            }
            return end;
        } catch (ErrorResponseException e) {
            return RunEnd.failed("DBS-10", e.getBody().getDetail(), false);
        } catch (TargetException e) {
            return RunEnd.failed(e.code(), "A code list cannot be read: " + e.getMessage(), e.mayPass());
        } catch (LookUpException e) {
            return RunEnd.failed("LKP-03", e.getMessage(), e.mayPass());
        }
    }

    /** Where the job draws its numbers; null where it delivers to no database. */
    private DatabaseSequences sequences(Job job) {
        return job.connection() == null ? null : new DatabaseSequences(connections.address(job.connection()));
    }

    private List<RunOutcome> runLegs(
            RunRow row, LiveRun live, Jobs.Definition definition, Path file, ShapingContext context) {
        Job job = definition.job();
        List<Leg> all = job.legs();
        Legs legs = new Legs(all.size(), job.executionMode());
        live.begin(legs, all.size());
        try {
            return legs.execute(number -> {
                Leg leg = all.get(number);
                legAccounts.begin(row.id(), number);
                RunOutcome outcome = runLeg(row, live, definition, file, context, leg, legs.stop(number));
                if (outcome.mark().commits() > 0) {
                    live.ended(number, outcome.mark());
                }
                records.until(
                        "the account of run " + row.id(),
                        () -> {
                            legAccounts.account(
                                    row.id(),
                                    row.epoch(),
                                    number,
                                    outcome.mark(),
                                    outcome.seen().journalLength());
                            if (outcome.state() == RunOutcome.State.FINISHED) {
                                Destinations.files(job, leg)
                                        .ifPresent(of -> outbox.add(
                                                row.id(), number, of, legAccounts.journal(row.id(), number)));
                            }
                            legAccounts.end(row.id(), number, outcome, live.handedOver());
                        },
                        live::handedOver);
                return outcome;
            });
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IllegalStateException("The run was interrupted", e);
        }
    }

    private RunOutcome runLeg(
            RunRow row,
            LiveRun live,
            Jobs.Definition definition,
            Path file,
            ShapingContext context,
            Leg leg,
            StopSignal stop) {
        Path journal = legAccounts.journal(row.id(), leg.number());
        String key = LegAccounts.key(row.runKey(), leg.number());
        try (Target target = Destinations.of(definition.job(), leg)
                .open(new TargetContext(places, context.facts(), key, journal, stop))) {
            RunPlan plan = definition.job().plan(definition.layout(), context, accepted(row), leg);
            TakeUp as = TakeUp.ofOwner(row.epoch());
            return new Run(plan, file, journal, target, live.leg(leg.number(), target), stop, as).execute();
        } catch (ErrorResponseException e) {
            // The connection of this place is not there; the others may be.
            return RunOutcome.unusable("DBS-10", e.getBody().getDetail());
        } catch (TargetException e) {
            return RunOutcome.unusable(e);
        }
    }

    private void noteTaken(RunRow row, ShapingContext context) {
        List<String> taken = contexts.taken(row.id(), context);
        if (row.epoch() == 1 && !taken.isEmpty()) {
            mapper.event(row.id(), clock.instant(), "took", shortened("Took " + String.join("; ", taken)), 0);
        }
    }

    private static Tally accepted(RunRow row) {
        return new Tally(row.acceptedRead(), 0, 0, 0, 0, row.acceptedRejected(), 0, 0, row.acceptedNotes());
    }

    /** Copies the accounts of a run under way, and the findings that belong to them. */
    void account(long id, LiveRun live) {
        for (int leg = 0; leg < live.legs(); leg++) {
            Mark mark = live.mark(leg);
            if (mark != null) {
                legAccounts.account(id, live.epoch(), leg, mark, mark.journalLength());
            }
        }
    }

    /** Brings the account of a run that was broken off up to its marks in the targets. */
    void recallMark(RunRow row) {
        Job job = plans.definition(row).job();
        for (Leg leg : job.legs()) {
            try {
                marks.of(row, job, leg)
                        .ifPresent(mark ->
                                legAccounts.account(row.id(), row.epoch(), leg.number(), mark, mark.journalLength()));
            } catch (TargetException | RuntimeException e) {
                LOG.warn("The mark of run {} cannot be asked now: {}", row.id(), e.getMessage());
            }
        }
    }

    static String shortened(String text) {
        return text.length() <= 480 ? text : text.substring(0, 480) + "…";
    }
}
