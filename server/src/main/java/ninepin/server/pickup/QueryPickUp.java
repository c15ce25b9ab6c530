package ninepin.server.pickup;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.format.DateTimeFormatter;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.concurrent.ConcurrentHashMap;
import ninepin.core.deliver.TargetException;
import ninepin.core.deliver.database.QueryCopy;
import ninepin.core.format.Formats;
import ninepin.core.job.Job;
import ninepin.core.job.LegTargets;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.Layout;
import ninepin.core.pickup.From;
import ninepin.core.pickup.NewRows;
import ninepin.core.shape.RunFacts;
import ninepin.server.api.Problems;
import ninepin.server.config.Folders;
import ninepin.server.jobs.JobMapper.JobRow;
import ninepin.server.jobs.Jobs;
import ninepin.server.jobs.ShapingContexts;
import ninepin.server.runs.FileHome;
import ninepin.server.runs.Runs;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Service;
import org.springframework.transaction.support.TransactionTemplate;

/** Asks databases for the rows that jobs take in place of files, and hands them to runs. */
@Service
class QueryPickUp {

    private static final Logger LOG = LoggerFactory.getLogger(QueryPickUp.class);
    private static final DateTimeFormatter STAMP = DateTimeFormatter.ofPattern("yyyyMMdd-HHmmss");
    /** The rows of a sample. */
    private static final int SAMPLE = 2_000;

    private final Jobs jobs;
    private final Runs runs;
    private final Folders folders;
    private final LegTargets targets;
    private final ShapingContexts contexts;
    private final QueryMapper mapper;
    private final TransactionTemplate transaction;
    private final Clock clock;
    private final Map<Long, Object> asking = new ConcurrentHashMap<>();

    QueryPickUp(
            Jobs jobs,
            Runs runs,
            Folders folders,
            LegTargets targets,
            ShapingContexts contexts,
            QueryMapper mapper,
            TransactionTemplate transaction,
            Clock clock) {
        this.jobs = jobs;
        this.runs = runs;
        this.folders = folders;
        this.targets = targets;
        this.contexts = contexts;
        this.mapper = mapper;
        this.transaction = transaction;
        this.clock = clock;
    }

    /**
     * Asks once.
     *
     * @param row a job whose live version asks a database
     * @return the number of the run; empty where there are no rows
     */
    OptionalLong ask(JobRow row, Job job, String who, Map<String, String> asked) {
        // Asked by hand and by the schedule at once, a job would take the same rows twice.
        synchronized (asking.computeIfAbsent(row.id(), id -> new Object())) {
            return askAlone(row, job, who, asked);
        }
    }

    private OptionalLong askAlone(JobRow row, Job job, String who, Map<String, String> asked) {
        Layout layout = jobs.version(row.id(), row.liveVersion()).layout();
        From.Query source = job.pickUp().query();
        FileHome home = new FileHome(folders.uploads(job.name()));
        String name = job.name() + "_" + STAMP.format(LocalDateTime.now(clock))
                + Formats.of(layout).ending();
        try {
            Files.createDirectories(home.folder());
            Path part = Files.createTempFile(home.folder(), "query", ".part");
            boolean kept = false;
            try {
                QueryCopy query = targets.query(job, facts(job, name, asked));
                NewRows known = known(row.id(), source);
                String upTo = known.upTo(clock.instant(), source.lagSeconds());
                if (source.lagSeconds() > 0 && upTo == null) {
                    see(row.id(), known, query.highest(source.key()));
                    return OptionalLong.empty();
                }
                QueryCopy.Copied copied = query.write(layout, source.key(), known.taken(), upTo, 0, part);
                mapper.untroubled(row.id());
                if (copied.rows() == 0) {
                    return OptionalLong.empty();
                }
                OptionalLong run =
                        OptionalLong.of(accept(row, part, home, name, who, asked, source.onlyNew() ? copied : null));
                kept = true;
                return run;
            } finally {
                if (!kept) {
                    Files.deleteIfExists(part);
                }
            }
        } catch (TargetException | DefinitionException e) {
            LOG.warn("The query of {} gave no file: {}", job.name(), e.getMessage());
            mapper.troubled(row.id(), e.getMessage(), clock.instant());
            throw Problems.unprocessable("The query gave no file: " + e.getMessage());
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private NewRows known(long job, From.Query source) {
        if (!source.onlyNew()) {
            return NewRows.NONE;
        }
        String taken = mapper.lastKey(job).orElse(null);
        return source.lagSeconds() == 0
                ? new NewRows(taken, null, null)
                : mapper.seen(job)
                        .map(s -> new NewRows(taken, s.seenKey(), s.seenAt()))
                        .orElse(new NewRows(taken, null, null));
    }

    private void see(long job, NewRows known, String highest) {
        mapper.untroubled(job);
        NewRows now = known.seeing(highest, clock.instant());
        if (now != known) {
            mapper.saw(job, now.seen(), now.seenAt());
        }
    }

    /** The run and how far rows have been taken are one transaction, so that none is taken twice or passed over. */
    private long accept(
            JobRow row,
            Path claimed,
            FileHome home,
            String name,
            String who,
            Map<String, String> asked,
            QueryCopy.Copied copied) {
        return transaction.execute(status -> {
            try {
                long run = runs.accept(row, claimed, home, name, who, asked);
                if (copied != null && copied.lastKey() != null) {
                    mapper.taken(row.id(), copied.lastKey(), run, clock.instant());
                    mapper.unsee(row.id());
                }
                return run;
            } catch (IOException e) {
                throw new UncheckedIOException(e);
            }
        });
    }

    /** Why the query of a job gave no file when it was asked last, and when that was. */
    Optional<Map.Entry<String, Instant>> trouble(long job) {
        return mapper.trouble(job).map(t -> Map.entry(t.message(), t.happenedAt()));
    }

    private RunFacts facts(Job job, String name, Map<String, String> asked) {
        return contexts.facts(name).withAsked(job.askedValues(asked));
    }

    /** The layout of what a job's query gives. */
    Layout layoutOf(Job job, String name) throws TargetException {
        return targets.query(job, facts(job, "query", Map.of())).layout(name);
    }

    /** Takes the first rows of a job's query as its sample. */
    void sample(String jobName, Job job, Layout layout) throws TargetException, IOException {
        Path part = Files.createTempFile("ninepin-query", ".part");
        try {
            String name = job.name() + "_sample" + Formats.of(layout).ending();
            targets.query(job, facts(job, name, Map.of()))
                    .write(layout, job.pickUp().query().key(), null, null, SAMPLE, part);
            try (InputStream bytes = Files.newInputStream(part)) {
                jobs.setSample(jobName, name, bytes);
            }
        } finally {
            Files.deleteIfExists(part);
        }
    }
}
