package ninepin.server.pickup;

import java.time.Clock;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.concurrent.ConcurrentHashMap;
import ninepin.core.deliver.Places;
import ninepin.core.format.Formats;
import ninepin.core.job.Job;
import ninepin.core.layout.Layout;
import ninepin.core.pickup.From;
import ninepin.core.pickup.PickUp;
import ninepin.doors.Sources;
import ninepin.doors.source.Item;
import ninepin.doors.source.Source;
import ninepin.doors.source.SourceContext;
import ninepin.doors.source.SourceException;
import ninepin.doors.source.SourceSupport;
import ninepin.server.api.Problems;
import ninepin.server.config.Folders;
import ninepin.server.jobs.JobMapper.JobRow;
import ninepin.server.jobs.Jobs;
import ninepin.server.jobs.ShapingContexts;
import ninepin.server.pickup.SourceMapper.Trouble;
import ninepin.server.runs.ClaimMapper.ClaimRow;
import ninepin.server.runs.Claims;
import ninepin.server.runs.FileHome;
import ninepin.server.schedule.JobSchedules;
import ninepin.server.schedule.Looker;
import ninepin.server.transfer.Transfers;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Service;

/** Looks for what jobs take, whatever the source, and takes what is ready. */
@Service
public class PickUps implements Looker {

    private static final Logger LOG = LoggerFactory.getLogger(PickUps.class);
    private static final DateTimeFormatter STAMP = DateTimeFormatter.ofPattern("yyyyMMdd-HHmmss");
    private static final String BY_SCHEDULE = "schedule";

    /** A file that is not ready yet. */
    public record WaitingFile(String name, long size, Instant changedAt) {}

    private final Jobs jobs;
    private final Claims claims;
    private final Folders folders;
    private final Places places;
    private final ShapingContexts contexts;
    private final JobSchedules schedules;
    private final SourceMapper mapper;
    private final Transfers transfers;
    private final Clock clock;
    private final ReadyWatch watch = new ReadyWatch();
    private final Map<String, List<WaitingFile>> waiting = new ConcurrentHashMap<>();

    PickUps(
            Jobs jobs,
            Claims claims,
            Folders folders,
            Places places,
            ShapingContexts contexts,
            JobSchedules schedules,
            SourceMapper mapper,
            Transfers transfers,
            Clock clock) {
        this.jobs = jobs;
        this.claims = claims;
        this.folders = folders;
        this.places = places;
        this.contexts = contexts;
        this.schedules = schedules;
        this.mapper = mapper;
        this.transfers = transfers;
        this.clock = clock;
    }

    /** Looks once, on a thread of the source. */
    @Override
    public void look(String jobName) {
        JobRow row = jobs.get(jobName);
        pickUp(row)
                .ifPresent(p -> transfers.soon(jobName, Sources.of(p.from()).through(), "look", () -> {
                    try {
                        lookNow(jobs.get(jobName), BY_SCHEDULE, Map.of());
                    } catch (SourceException e) {
                        // It is on record as the trouble of the job.
                    }
                }));
    }

    /** Looks once and waits until what came is a run; for the demo's past. */
    public void lookAndWait(String jobName) {
        JobRow row = jobs.get(jobName);
        pickUp(row).ifPresent(p -> ask(row, p, BY_SCHEDULE, Map.of()));
    }

    private Optional<PickUp> pickUp(JobRow row) {
        return row.liveVersion() == null
                ? Optional.empty()
                : Optional.ofNullable(
                        jobs.version(row.id(), row.liveVersion()).job().pickUp());
    }

    /**
     * Asks a job's source at once, for a person, and waits until what came is a run.
     *
     * @return the number of the last run that was made; empty where nothing came
     */
    OptionalLong ask(JobRow row, PickUp pickUp, String who, Map<String, String> asked) {
        return transfers.now(row.name(), Sources.of(pickUp.from()).through(), () -> {
            try {
                return lookNow(jobs.get(row.name()), who, asked);
            } catch (SourceException e) {
                throw Problems.unprocessable("The query gave no file: " + e.getMessage());
            }
        });
    }

    private OptionalLong lookNow(JobRow row, String who, Map<String, String> asked) throws SourceException {
        PickUp pickUp = pickUp(row).orElse(null);
        goOn(row);
        if (pickUp == null) {
            return OptionalLong.empty();
        }
        SourceSupport support = Sources.of(pickUp.from());
        SourceContext context = context(row, row.liveVersion(), null, asked);
        OptionalLong last = OptionalLong.empty();
        try (Source source = support.open(context)) {
            Claims.Taking taking = new Claims.Taking(
                    row,
                    pickUp.from(),
                    support.place(row.name()),
                    home(row, support, context),
                    pickUp.from().settlement(),
                    who,
                    asked);
            for (Item item : ready(row, pickUp, claims.free(taking, source.list()))) {
                OptionalLong run = claims.take(taking, item, source, (reached, of) -> reached(row.id(), reached, of));
                watch.forget(row.name(), item);
                last = run.isPresent() ? run : last;
            }
            mapper.untroubled(row.id());
            return last;
        } catch (SourceException e) {
            LOG.warn("The source of {} gave no file: {}", row.name(), e.getMessage());
            mapper.troubled(row.id(), e.getMessage(), clock.instant());
            throw e;
        }
    }

    /** What may be taken now; what may not is shown as waiting. */
    private List<Item> ready(JobRow row, PickUp pickUp, List<Item> items) {
        List<Item> ready = new ArrayList<>();
        List<WaitingFile> unready = new ArrayList<>();
        for (Item item : items) {
            if (item.changedAt() == null
                    || watch.ready(row.name(), item, pickUp.ready().unchangedSeconds())) {
                ready.add(item);
            } else {
                unready.add(new WaitingFile(item.name(), item.size(), item.changedAt()));
            }
        }
        waiting.put(row.name(), unready);
        if (!unready.isEmpty() && pickUp.schedule().cron() != null) {
            schedules.lookAgain(row.name(), pickUp.ready().unchangedSeconds());
        }
        return ready;
    }

    private void reached(long job, String reached, long run) {
        mapper.taken(job, reached, run, clock.instant());
        mapper.unsee(job);
    }

    private FileHome home(JobRow row, SourceSupport support, SourceContext context) throws SourceException {
        return support.beside(context)
                .map(folder -> FileHome.below(folder, row.name()))
                .orElseGet(() -> new FileHome(folders.uploads(row.name())));
    }

    private SourceContext context(JobRow row, int version, String fileName, Map<String, String> asked) {
        Jobs.Definition definition = jobs.version(row.id(), version);
        String name = fileName != null
                ? fileName
                : row.name() + "_" + STAMP.format(LocalDateTime.now(clock))
                        + Formats.of(definition.layout()).ending();
        return new SourceContext(
                definition.job(),
                definition.layout(),
                contexts.facts(name).withAsked(definition.job().askedValues(asked)),
                places,
                new KeptProgress(mapper, row.id()),
                clock);
    }

    /** What a draft takes, to be looked at. */
    SourceContext context(Job job, Layout layout, String fileName) {
        return new SourceContext(
                job,
                layout,
                contexts.facts(fileName).withAsked(job.askedValues(Map.of())),
                places,
                SourceContext.FIRST_LOOK,
                clock);
    }

    /** Goes on with what was broken off, of all jobs. */
    @Scheduled(fixedDelay = 2000)
    void goOn() {
        try {
            for (long id : claims.jobsWithOpen()) {
                jobs.byId(id).ifPresent(row -> {
                    From from = claims.open(id).stream()
                            .findFirst()
                            .map(ClaimRow::from)
                            .orElse(null);
                    if (from != null) {
                        transfers.soon(row.name(), Sources.of(from).through(), "go on", () -> goOn(row));
                    }
                });
            }
        } catch (RuntimeException e) {
            LOG.warn("What was being taken cannot be looked after now: {}", e.toString());
        }
    }

    private void goOn(JobRow row) {
        for (ClaimRow claim : claims.open(row.id())) {
            SourceSupport support = Sources.of(claim.from());
            try (Source source = support.open(context(row, claim.version(), claim.fileName(), claim.given()))) {
                claims.goOn(claim, source, (reached, run) -> reached(row.id(), reached, run));
            } catch (SourceException e) {
                LOG.warn("{} of {} was not taken: {}", claim.fileName(), row.name(), e.getMessage());
                mapper.troubled(row.id(), e.getMessage(), clock.instant());
            }
        }
    }

    /** What the last look of a job found and left, because it may still be written. */
    public List<WaitingFile> waiting(String jobName) {
        return waiting.getOrDefault(jobName, List.of());
    }

    /** Why the source of a job gave no file when it was asked last, and when that was. */
    public Optional<Trouble> trouble(long job) {
        return mapper.trouble(job);
    }
}
