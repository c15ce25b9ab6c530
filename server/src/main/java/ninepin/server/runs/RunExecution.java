package ninepin.server.runs;

import java.io.IOException;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import ninepin.core.deliver.Mark;
import ninepin.core.deliver.Tally;
import ninepin.core.deliver.TargetException;
import ninepin.core.deliver.database.DatabaseSequences;
import ninepin.core.deliver.database.DatabaseTarget;
import ninepin.core.job.Definitions;
import ninepin.core.job.Job;
import ninepin.core.job.Readiness;
import ninepin.core.job.Shortcoming;
import ninepin.core.lookup.LookUpException;
import ninepin.core.run.Run;
import ninepin.core.run.RunOutcome;
import ninepin.core.run.RunPlan;
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
    private final Clock clock;

    RunExecution(
            RunMapper mapper,
            Jobs jobs,
            Connections connections,
            ShapingContexts contexts,
            LookUps lookUps,
            Folders folders,
            JournalImport journals,
            Clock clock) {
        this.mapper = mapper;
        this.jobs = jobs;
        this.connections = connections;
        this.contexts = contexts;
        this.lookUps = lookUps;
        this.folders = folders;
        this.journals = journals;
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
        Jobs.Definition definition = jobs.version(row.jobId(), row.version());
        Long earlier = mapper.sameFile(row.jobId(), fingerprint, row.id());
        boolean again =
                definition.job().pickUp() != null && definition.job().pickUp().sameFileAgain();
        if (earlier != null && !again && row.commits() == 0) {
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
        List<Shortcoming> shortcomings = jobs.check(definition);
        if (!Readiness.mayRun(shortcomings)) {
            Shortcoming first = shortcomings.stream()
                    .filter(Shortcoming::blocks)
                    .findFirst()
                    .orElseThrow();
            end(row, live, RunState.FAILED, first.code(), first.message());
            return;
        }
        RunOutcome outcome;
        Job job = definition.job();
        try (DatabaseTarget target = target(row, job);
                DatabaseSequences sequences = new DatabaseSequences(connections.address(job.connection()))) {
            ShapingContext context =
                    contexts.run(job, row.id(), row.fileName(), row.today(), startedAt, asked(row), sequences);
            noteTaken(row, context);
            if (row.commits() == 0) {
                journals.forget(row.id());
            }
            RunPlan plan = job.plan(definition.layout(), context, accepted(row));
            outcome = new Run(plan, file, folders.journal(row.id()), target, live, live.stop).execute();
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
        account(row.id(), outcome.mark());
        // What was found in a file that was delivered whole, and was not.
        journals.upTo(row.id(), folders.journal(row.id()), outcome.seen().journalLength());
        if ("LIM-01".equals(outcome.code())) {
            mapper.halted(row.id(), outcome.seen().tally());
        }
        if (outcome.state() == RunOutcome.State.FINISHED) {
            lookUps.ended(row.id());
        }
        end(row, live, RunState.valueOf(outcome.state().name()), outcome.code(), outcome.message());
    }

    private void noteTaken(RunRow row, ShapingContext context) {
        List<String> taken = contexts.taken(row.id(), context);
        if (row.restarts() == 0 && !taken.isEmpty()) {
            mapper.event(row.id(), clock.instant(), "took", shortened("Took " + String.join("; ", taken)), 0);
        }
    }

    private DatabaseTarget target(RunRow row, Job job) {
        return new DatabaseTarget(connections.address(job.connection()), job.loads(), row.runKey());
    }

    @SuppressWarnings("unchecked")
    private static Map<String, String> asked(RunRow row) {
        return Definitions.mapper().readValue(row.asked(), TreeMap.class);
    }

    private static Tally accepted(RunRow row) {
        return new Tally(row.acceptedRead(), 0, 0, 0, 0, row.acceptedRejected(), 0, 0, row.acceptedNotes());
    }

    /** Copies the account of a run, and the findings that belong to it, from its mark. */
    void account(long id, Mark mark) {
        String shares = mark.shares().none() ? null : Definitions.mapper().writeValueAsString(mark.shares());
        mapper.account(id, mark.position().offset(), mark.commits(), mark.tally(), shares);
        journals.upTo(id, folders.journal(id), mark.journalLength());
    }

    /** Brings the account of a run that was broken off up to its mark in the target. */
    void recallMark(RunRow row) {
        try (DatabaseTarget target =
                target(row, jobs.version(row.jobId(), row.version()).job())) {
            target.prepare().ifPresent(mark -> account(row.id(), mark));
        } catch (TargetException | RuntimeException e) {
            LOG.warn("The mark of run {} cannot be asked now: {}", row.id(), e.getMessage());
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
        return job.pickUp() == null
                ? Optional.empty()
                : folders.below(job.pickUp().root(), job.pickUp().folder()).map(f -> FileHome.below(f, job.name()));
    }
}
