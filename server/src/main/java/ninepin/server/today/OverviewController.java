package ninepin.server.today;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import ninepin.core.job.Definitions;
import ninepin.core.job.Job;
import ninepin.core.pickup.PickUp;
import ninepin.server.config.Folders;
import ninepin.server.jobs.JobMapper.JobRow;
import ninepin.server.jobs.Jobs;
import ninepin.server.jobs.Words;
import ninepin.server.pickup.PickUps;
import ninepin.server.rejects.RejectDesk;
import ninepin.server.runs.RunMapper;
import ninepin.server.runs.RunMapper.RunRow;
import ninepin.server.runs.RunState;
import ninepin.server.schedule.JobSchedules;
import ninepin.server.transfer.Outbox;
import ninepin.server.transfer.OutboxMapper;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.databind.JsonNode;

@RestController
class OverviewController {

    /** A run in a row of bars. */
    record Bar(long run, RunState state, long delivered, long rejected) {}

    /** A job in the table of jobs. */
    record JobLine(
            String name,
            String title,
            String pickUp,
            String layout,
            String delivery,
            String schedule,
            Integer liveVersion,
            boolean draftAhead,
            boolean scheduled,
            List<Bar> lastRuns,
            Instant next) {}

    /** Something that needs a person, and the run or job that helps. */
    record Need(String kind, String title, String text, String job, Long run, Instant at) {}

    /** A run on the strip of a day. */
    record Mark(long run, RunState state, Instant from, Instant to, long delivered, long rejected, String file) {}

    /** The strip of one job. */
    record Strip(
            String job,
            String title,
            List<Mark> marks,
            Instant expected,
            Instant next,
            List<PickUps.WaitingFile> waiting) {}

    /** The first screen. */
    record Today(
            Instant now,
            Instant from,
            List<Need> needs,
            List<Strip> strips,
            long runs,
            long delivered,
            long rejected,
            long notes) {}

    private static final int BARS = 14;

    private final Jobs jobs;
    private final RunMapper runs;
    private final JobSchedules schedules;
    private final Folders folders;
    private final PickUps pickUp;
    private final Clock clock;
    private final RejectDesk desk;
    private final Outbox outbox;

    OverviewController(
            Jobs jobs,
            RunMapper runs,
            JobSchedules schedules,
            Folders folders,
            PickUps pickUp,
            Clock clock,
            RejectDesk desk,
            Outbox outbox) {
        this.outbox = outbox;
        this.desk = desk;
        this.pickUp = pickUp;
        this.jobs = jobs;
        this.runs = runs;
        this.schedules = schedules;
        this.folders = folders;
        this.clock = clock;
    }

    /** The names of the root folders that the settings have. */
    @GetMapping("/api/v1/roots")
    List<String> roots() {
        return folders.roots();
    }

    /** All jobs, with what they take and deliver and how their last runs went. */
    @GetMapping("/api/v1/jobs")
    List<JobLine> jobs() {
        return jobs.all().stream().map(this::line).toList();
    }

    private JobLine line(JobRow row) {
        List<Bar> bars = new ArrayList<>(runs.page(row.name(), null, null, BARS).stream()
                .map(r -> new Bar(r.id(), r.state(), r.delivered(), r.rejected()))
                .toList());
        java.util.Collections.reverse(bars);
        Instant next = row.scheduled() ? schedules.next(row.name()).orElse(null) : null;
        try {
            Job job = Definitions.job(row.draft());
            return new JobLine(
                    row.name(),
                    job.title(),
                    Words.pickUp(job.pickUp()),
                    job.layout(),
                    Words.deliveries(job),
                    Words.schedule(job.pickUp()),
                    row.liveVersion(),
                    jobs.draftAhead(row),
                    row.scheduled(),
                    bars,
                    next);
        } catch (RuntimeException e) {
            JsonNode draft = Definitions.mapper().readTree(row.draft());
            return new JobLine(
                    row.name(),
                    draft.path("title").asString(row.name()),
                    "the draft is not whole",
                    draft.path("layout").asString(""),
                    "",
                    "",
                    row.liveVersion(),
                    true,
                    row.scheduled(),
                    bars,
                    next);
        }
    }

    /** What has run, waits or needs somebody today. */
    @GetMapping("/api/v1/today")
    Today today() {
        Instant now = clock.instant();
        Instant from = now.minus(Duration.ofHours(24));
        List<RunRow> day = runs.since(from);
        List<Need> needs = new ArrayList<>();
        List<Strip> strips = new ArrayList<>();
        for (JobRow row : jobs.all()) {
            List<RunRow> own = day.stream().filter(r -> r.jobId() == row.id()).toList();
            String title = title(row);
            strips.add(strip(row, title, own, now, needs));
            own.forEach(r -> need(r, title, needs));
        }
        outbox.stuck().forEach(s -> needs.add(unsent(s)));
        needs.sort(Comparator.comparing(Need::at).reversed());
        return new Today(
                now,
                from,
                needs,
                strips,
                day.size(),
                day.stream().mapToLong(r -> r.delivered()).sum(),
                day.stream().mapToLong(RunRow::rejected).sum(),
                day.stream().mapToLong(RunRow::notes).sum());
    }

    private static String title(JobRow row) {
        return Definitions.mapper().readTree(row.draft()).path("title").asString(row.name());
    }

    private Need unsent(OutboxMapper.Stuck stuck) {
        RunRow run = runs.find(stuck.runId()).orElseThrow();
        String title = title(jobs.get(run.jobName()));
        String text = (stuck.files() == 1 ? "A file waits" : stuck.files() + " files wait") + " to be sent to "
                + stuck.root() + (stuck.folder().isEmpty() ? "" : "/" + stuck.folder()) + ". " + stuck.trouble();
        return new Need("unsent", title, text, run.jobName(), run.id(), stuck.since());
    }

    private void need(RunRow r, String title, List<Need> needs) {
        Instant at = r.endedAt() == null ? r.createdAt() : r.endedAt();
        switch (r.state()) {
            case FAILED, HALTED, INTERRUPTED ->
                needs.add(new Need(
                        r.state().name().toLowerCase(),
                        title,
                        r.fileName() + ": " + r.message(),
                        r.jobName(),
                        r.id(),
                        at));
            case PAUSED ->
                needs.add(new Need(
                        "paused",
                        title,
                        r.fileName() + " goes on by itself. " + r.message(),
                        r.jobName(),
                        r.id(),
                        r.startedAt()));
            case STOPPED ->
                needs.add(new Need(
                        "stopped",
                        title,
                        r.fileName() + " was stopped and can be restarted.",
                        r.jobName(),
                        r.id(),
                        at));
            case REFUSED ->
                needs.add(new Need("refused", title, r.fileName() + ": " + r.message(), r.jobName(), r.id(), at));
            case FINISHED -> {
                long open = r.rejected() > 0 ? desk.open(r.id()) : 0;
                if (open > 0) {
                    String text = open + (open == 1 ? " reject" : " rejects") + " of " + r.recordsRead()
                            + " records in " + r.fileName();
                    needs.add(new Need("rejects", title, text, r.jobName(), r.id(), at));
                }
            }
            default -> {
                // Under way or waiting: nothing to do.
            }
        }
    }

    private Strip strip(JobRow row, String title, List<RunRow> own, Instant now, List<Need> needs) {
        List<Mark> marks = own.stream()
                .filter(r -> r.startedAt() != null)
                .map(r -> new Mark(
                        r.id(), r.state(), r.startedAt(), r.endedAt(), r.delivered(), r.rejected(), r.fileName()))
                .toList();
        Instant expected = expected(row, now);
        Instant late = null;
        if (expected != null) {
            Instant due = expected;
            boolean came = own.stream().anyMatch(r -> r.createdAt().isAfter(due.minus(Duration.ofHours(20))));
            if (!came) {
                late = due;
                needs.add(new Need("late", title, "No file has come since it was expected.", row.name(), null, due));
            }
        }
        pickUp.trouble(row.id())
                .ifPresent(t -> needs.add(new Need(
                        "failed", title, "Nothing was taken: " + t.message(), row.name(), null, t.happenedAt())));
        Instant next = row.scheduled() ? schedules.next(row.name()).orElse(null) : null;
        return new Strip(
                row.name(), title, marks, late, next, row.scheduled() ? pickUp.waiting(row.name()) : List.of());
    }

    /** The last time at which a file was expected, or null. */
    private Instant expected(JobRow row, Instant now) {
        if (row.liveVersion() == null || !row.scheduled()) {
            return null;
        }
        PickUp rule = jobs.version(row.id(), row.liveVersion()).job().pickUp();
        if (rule == null || rule.schedule().expectedBy() == null) {
            return null;
        }
        LocalTime time = LocalTime.parse(rule.schedule().expectedBy());
        Instant today = LocalDate.ofInstant(now, clock.getZone())
                .atTime(time)
                .atZone(clock.getZone())
                .toInstant();
        return today.isAfter(now) ? today.minus(Duration.ofDays(1)) : today;
    }
}
