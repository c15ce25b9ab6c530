package ninepin.server.runs;

import java.io.IOException;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import ninepin.core.deliver.Mark;
import ninepin.core.deliver.Tally;
import ninepin.core.deliver.Target;
import ninepin.core.deliver.TargetException;
import ninepin.core.deliver.database.DatabaseSequences;
import ninepin.core.job.Definitions;
import ninepin.core.job.Job;
import ninepin.core.job.Leg;
import ninepin.core.job.LegTargets;
import ninepin.core.job.Readiness;
import ninepin.core.job.Shortcoming;
import ninepin.core.lookup.LookUpException;
import ninepin.core.run.Legs;
import ninepin.core.run.Run;
import ninepin.core.run.RunOutcome;
import ninepin.core.run.RunPlan;
import ninepin.core.run.StopSignal;
import ninepin.core.shape.Sequences;
import ninepin.core.shape.ShapingContext;
import ninepin.core.source.FileSource;
import ninepin.core.source.Fingerprint;
import ninepin.server.config.Folders;
import ninepin.server.connections.Connections;
import ninepin.server.jobs.Jobs;
import ninepin.server.jobs.ShapingContexts;
import ninepin.server.lookups.LookUps;
import ninepin.server.runs.RunMapper.RunRow;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;
import org.springframework.web.ErrorResponseException;

/** Executes one run with the core, on the calling thread, and keeps its account. */
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
    private final LegTargets targets;
    private final RunPlans plans;
    private final Clock clock;

    RunExecution(
            RunMapper mapper,
            Jobs jobs,
            Connections connections,
            ShapingContexts contexts,
            LookUps lookUps,
            Folders folders,
            JournalImport journals,
            LegAccounts legAccounts,
            LegTargets targets,
            RunPlans plans,
            Clock clock) {
        this.mapper = mapper;
        this.jobs = jobs;
        this.connections = connections;
        this.contexts = contexts;
        this.lookUps = lookUps;
        this.folders = folders;
        this.journals = journals;
        this.legAccounts = legAccounts;
        this.targets = targets;
        this.plans = plans;
        this.clock = clock;
    }

    void execute(RunRow row, LiveRun live) {
        Path file = Path.of(row.filePath());
        String fingerprint;
        try (FileSource source = FileSource.open(file)) {
            fingerprint = Fingerprint.of(source);
        } catch (IOException e) {
            end(
                    row,
                    live,
                    RunState.FAILED,
                    "FIL-03",
                    "The file " + row.fileName() + " cannot be read: " + e.getMessage());
            return;
        }
        Instant startedAt =
                row.startedAt() != null ? row.startedAt() : clock.instant().truncatedTo(ChronoUnit.SECONDS);
        mapper.begin(row.id(), startedAt, fingerprint);
        if (row.restarts() == 0) {
            mapper.event(
                    row.id(),
                    clock.instant(),
                    "start",
                    "Started by " + row.startedBy() + " with version " + row.version(),
                    0);
        }
        Jobs.Definition definition = plans.definition(row);
        Long earlier = mapper.sameFile(row.jobId(), fingerprint, row.id());
        boolean again =
                definition.job().pickUp() != null && definition.job().pickUp().takesAgain();
        if (earlier != null && !again && row.commits() == 0 && row.parentRun() == null) {
            end(
                    row,
                    live,
                    RunState.REFUSED,
                    "FIL-06",
                    "The same file, byte for byte, was delivered by run " + earlier
                            + ". Nothing was loaded. Allow the same file again in the pick-up if that is meant.");
            return;
        }
        run(row, live, definition, file, startedAt);
    }

    private void run(RunRow row, LiveRun live, Jobs.Definition definition, Path file, Instant startedAt) {
        List<String> changed = jobs.changedTargets(row.jobId(), row.version());
        if (!changed.isEmpty()) {
            String told = "Changed since version " + row.version() + " went live: " + String.join(". ", changed);
            mapper.event(row.id(), clock.instant(), "target changed", shortened(told), 0);
        }
        List<Shortcoming> shortcomings = jobs.check(definition);
        if (!Readiness.mayRun(shortcomings)) {
            Shortcoming first = shortcomings.stream()
                    .filter(Shortcoming::blocks)
                    .findFirst()
                    .orElseThrow();
            end(row, live, RunState.FAILED, first.code(), first.message());
            return;
        }
        Job job = definition.job();
        List<RunOutcome> outcomes;
        try (DatabaseSequences sequences = sequences(job)) {
            ShapingContext context =
                    plans.context(row, job, startedAt, sequences == null ? Sequences.anew() : sequences);
            noteTaken(row, context);
            legAccounts.expect(row.id(), job);
            for (Leg leg : job.legs()) {
                journals.forgetUncommitted(row.id(), leg.number());
            }
            outcomes = runLegs(row, live, definition, file, context);
        } catch (ErrorResponseException e) {
            end(row, live, RunState.FAILED, "DBS-10", e.getBody().getDetail());
            return;
        } catch (TargetException e) {
            end(row, live, RunState.FAILED, e.code(), "A code list cannot be read: " + e.getMessage());
            return;
        } catch (LookUpException e) {
            end(row, live, RunState.FAILED, "LKP-03", e.getMessage());
            return;
        }
        endWith(row, live, job.legs(), outcomes);
    }

    /** Where the job draws its numbers; null where it delivers to no database. */
    private DatabaseSequences sequences(Job job) {
        return job.connection() == null ? null : new DatabaseSequences(connections.address(job.connection()));
    }

    private List<RunOutcome> runLegs(
            RunRow row, LiveRun live, Jobs.Definition definition, Path file, ShapingContext context) {
        Job job = definition.job();
        List<Leg> all = job.legs();
        Legs legs = new Legs(all.size(), job.manner());
        boolean kept = LegAccounts.keptFor(job);
        live.begin(legs, all.size(), kept);
        try {
            return legs.execute(number -> {
                Leg leg = all.get(number);
                if (kept) {
                    legAccounts.begin(row.id(), number);
                }
                RunOutcome outcome = runLeg(row, live, definition, file, context, leg, legs.stop(number));
                if (outcome.mark().commits() > 0) {
                    live.ended(number, outcome.mark());
                }
                account(row.id(), number, kept, outcome.mark(), outcome.seen());
                if (kept) {
                    legAccounts.end(row.id(), number, outcome);
                }
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
        try (Target target = targets.of(leg, definition.job(), context.facts(), key, journal, stop)) {
            RunPlan plan = definition.job().plan(definition.layout(), context, accepted(row), leg);
            return new Run(plan, file, journal, target, live.leg(leg.number()), stop).execute();
        } catch (ErrorResponseException e) {
            // The connection of this place is not there; the others may be.
            return RunOutcome.unusable("DBS-10", e.getBody().getDetail());
        } catch (TargetException e) {
            return RunOutcome.unusable(e);
        }
    }

    private void endWith(RunRow row, LiveRun live, List<Leg> legs, List<RunOutcome> outcomes) {
        // A restart goes on in spite of the limit, in whichever place it was exceeded.
        outcomes.stream()
                .filter(o -> o != null && "LIM-01".equals(o.code()))
                .map(o -> o.seen().tally())
                .max(Comparator.comparingLong(Tally::rejected))
                .ifPresent(tally -> mapper.halted(row.id(), tally));
        RunOutcome worst = outcomes.get(0);
        int of = 0;
        boolean begun = true;
        for (int i = 1; i < outcomes.size(); i++) {
            RunOutcome outcome = outcomes.get(i);
            begun &= outcome != null;
            if (outcome != null && outcome.state().compareTo(worst.state()) > 0) {
                worst = outcome;
                of = i;
            }
        }
        if (begun && worst.state() == RunOutcome.State.FINISHED) {
            lookUps.ended(row.id());
        }
        String message = worst.message() == null || legs.size() == 1
                ? worst.message()
                : legs.get(of).label() + ": " + worst.message();
        end(row, live, RunState.valueOf(worst.state().name()), worst.code(), message);
    }

    private void noteTaken(RunRow row, ShapingContext context) {
        List<String> taken = contexts.taken(row.id(), context);
        if (row.restarts() == 0 && !taken.isEmpty()) {
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
                account(id, leg, live.keepsLegs(), mark, mark);
            }
        }
    }

    /**
     * Copies the account of a leg, and the findings that belong to it, from its mark.
     *
     * @param kept whether the run keeps an account of each leg
     * @param seen how far was looked, for what was found in a file that is delivered whole, and was not
     */
    private void account(long id, int leg, boolean kept, Mark mark, Mark seen) {
        // Without a commit there is nothing that is not known; a target that cannot be reached tells no mark.
        boolean any = mark.commits() > 0;
        if (any && leg == 0) {
            String shares = mark.shares().none() ? null : Definitions.mapper().writeValueAsString(mark.shares());
            mapper.account(id, mark.position().offset(), mark.commits(), mark.tally(), shares);
        }
        if (any && kept) {
            legAccounts.account(id, leg, mark);
        }
        journals.upTo(id, leg, legAccounts.journal(id, leg), seen.journalLength());
    }

    /** Brings the account of a run that was broken off up to its marks in the targets. */
    void recallMark(RunRow row) {
        Job job = plans.definition(row).job();
        for (Leg leg : job.legs()) {
            Path journal = legAccounts.journal(row.id(), leg.number());
            String key = LegAccounts.key(row.runKey(), leg.number());
            try (Target target = targets.of(leg, job, plans.facts(row), key, journal, new StopSignal())) {
                target.look().ifPresent(mark -> account(row.id(), leg.number(), LegAccounts.keptFor(job), mark, mark));
            } catch (TargetException | RuntimeException e) {
                LOG.warn("The mark of run {} cannot be asked now: {}", row.id(), e.getMessage());
            }
        }
    }

    private void end(RunRow row, LiveRun live, RunState state, String code, String message) {
        String path = row.filePath();
        String folder = folderFor(state);
        if (folder != null) {
            try {
                path = new FileHome(Path.of(row.fileHome()))
                        .move(Path.of(row.filePath()), folder, row.fileName())
                        .toString();
            } catch (IOException e) {
                LOG.warn("{} could not be moved to {}: {}", row.fileName(), folder, e.toString());
            }
        }
        mapper.end(row.id(), state, clock.instant(), code, message, path, live.millis());
        mapper.event(
                row.id(),
                clock.instant(),
                state.name().toLowerCase(),
                message == null ? "Finished" : shortened(message),
                live.tally().read());
    }

    private static String shortened(String text) {
        return text.length() <= 480 ? text : text.substring(0, 480) + "…";
    }

    private static String folderFor(RunState state) {
        switch (state) {
            case FINISHED:
                return "done";
            case FAILED, HALTED, REFUSED:
                return "failed";
            default:
                return null;
        }
    }

    /** The home of the files a job picks up; empty when it takes files by hand. */
    Optional<FileHome> homeOf(Job job) {
        return job.pickUp() == null || job.pickUp().query() != null
                ? Optional.empty()
                : folders.below(job.pickUp().root(), job.pickUp().folder()).map(f -> FileHome.below(f, job.name()));
    }
}
