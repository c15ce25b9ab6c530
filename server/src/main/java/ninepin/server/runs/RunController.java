package ninepin.server.runs;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.Principal;
import java.time.Clock;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Collectors;
import ninepin.core.deliver.TakenBack;
import ninepin.core.deliver.TargetException;
import ninepin.core.format.Formats;
import ninepin.core.format.RefusedFile;
import ninepin.core.format.Transcripts;
import ninepin.core.layout.Layout;
import ninepin.server.api.Page;
import ninepin.server.api.Page.Cursor;
import ninepin.server.api.Problems;
import ninepin.server.config.FileNames;
import ninepin.server.config.Folders;
import ninepin.server.jobs.JobMapper.JobRow;
import ninepin.server.jobs.Jobs;
import ninepin.server.runs.FindingMapper.FindingRow;
import ninepin.server.runs.FindingMapper.RejectRow;
import ninepin.server.runs.RunMapper.RunRow;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.multipart.MultipartFile;
import org.springframework.web.servlet.mvc.method.annotation.SseEmitter;
import org.springframework.web.servlet.mvc.method.annotation.StreamingResponseBody;

@RestController
class RunController {

    /** Findings that have one reason: how many, and where the first stands. */
    record Reason(String severity, String code, String reason, long count, long firstLine, String example) {}

    /** Something that happened to a run. */
    record Event(Instant at, String kind, String text, long read) {}

    /**
     * A rejected record: its text, and its bad places.
     *
     * @param place the place that refused it; the first where a check did
     */
    record Reject(long record, int place, long line, long offset, long length, String text, List<Bad> bad) {}

    /** One finding. */
    record FindingView(int seq, String severity, String code, long line, long record, String field, String message) {}

    private static final int USUAL = 100;
    /** The bytes of a record that are shown. */
    private static final int MOST_SHOWN = 20_000;

    private final Runs runs;
    private final RunMapper mapper;
    private final FindingMapper findings;
    private final Jobs jobs;
    private final Folders folders;
    private final RunEvents events;
    private final LegAccounts legs;
    private final TakeBack takeBack;
    private final Clock clock;

    private final Transcripts transcripts;

    RunController(
            Runs runs,
            RunMapper mapper,
            FindingMapper findings,
            Jobs jobs,
            Folders folders,
            RunEvents events,
            LegAccounts legs,
            TakeBack takeBack,
            Clock clock,
            Transcripts transcripts) {
        this.clock = clock;
        this.takeBack = takeBack;
        this.legs = legs;
        this.runs = runs;
        this.mapper = mapper;
        this.findings = findings;
        this.jobs = jobs;
        this.folders = folders;
        this.events = events;
        this.transcripts = transcripts;
    }

    /** The runs of all jobs or of one, the latest first, a page at a time. */
    @GetMapping("/api/v1/runs")
    Page<RunView> runs(
            @RequestParam(required = false) String job,
            @RequestParam(required = false) RunState state,
            @RequestParam(required = false) String after,
            @RequestParam(required = false) Integer most) {
        int shown = Page.most(most, USUAL);
        Cursor from = Cursor.read(after, 1);
        Long before = from == null ? null : from.parts().get(0);
        return Page.of(mapper.page(job, state, before, shown + 1), shown, r -> Cursor.of(r.id()), runs::view);
    }

    /** A run: its state, its tally, what it waits for. */
    @GetMapping("/api/v1/runs/{run}")
    RunView run(@PathVariable("run") long id) {
        return runs.view(id);
    }

    /** Runs a file that is sent, with values for what is asked at start. */
    @PostMapping("/api/v1/jobs/{job}/runs")
    @ResponseStatus(HttpStatus.ACCEPTED)
    RunView upload(
            @PathVariable("job") String name,
            @RequestParam MultipartFile file,
            @RequestParam Map<String, String> parameters,
            Principal who)
            throws IOException {
        JobRow job = jobs.get(name);
        if (job.liveVersion() == null) {
            throw Problems.conflict("Put the job live before a file is run with it.");
        }
        Map<String, String> asked = new TreeMap<>();
        parameters.forEach((k, v) -> {
            if (k.startsWith("asked.")) {
                asked.put(k.substring(6), v);
            }
        });
        List<String> missing = jobs.version(job.id(), job.liveVersion()).job().missingAskedValues(asked);
        if (!missing.isEmpty()) {
            throw Problems.unprocessable("A value is asked at start for " + String.join(", ", missing) + ".");
        }
        FileHome home = new FileHome(folders.uploads(name));
        Files.createDirectories(home.folder());
        Path part = Files.createTempFile(home.folder(), "upload", ".part");
        file.transferTo(part);
        String fileName = FileNames.plain(file.getOriginalFilename(), "upload");
        return runs.view(runs.accept(job, part, home, fileName, who.getName(), asked));
    }

    /** What it came to, fit to be mailed. */
    @GetMapping(path = "/api/v1/runs/{run}/report.html", produces = MediaType.TEXT_HTML_VALUE)
    String reportPage(@PathVariable("run") long id) {
        return report(id).html();
    }

    /** What the run came to, as delimited text. */
    @GetMapping(path = "/api/v1/runs/{run}/report.csv", produces = "text/csv;charset=UTF-8")
    ResponseEntity<String> reportFile(@PathVariable("run") long id) {
        ContentDisposition name = ContentDisposition.attachment()
                .filename("report-of-run-" + id + ".csv")
                .build();
        return ResponseEntity.ok()
                .header(HttpHeaders.CONTENT_DISPOSITION, name.toString())
                .body(report(id).delimited());
    }

    private RunReport report(long id) {
        return new RunReport(runs.view(id), findings.reasons(id), legs.of(id), clock.getZone());
    }

    /** The runs that its rejects were sent again with, and those that take it back. */
    @GetMapping("/api/v1/runs/{run}/resubmissions")
    List<RunView> resubmissions(@PathVariable("run") long id) {
        return mapper.ofParent(known(id)).stream().map(runs::view).toList();
    }

    /** Whether what it has delivered can be taken back. */
    @GetMapping("/api/v1/runs/{run}/take-back")
    TakeBack.Outlook outlook(@PathVariable("run") long id) throws TargetException {
        return takeBack.outlook(id);
    }

    /** Takes it back by a run of its own, which is answered. */
    @PostMapping("/api/v1/runs/{run}/take-back")
    @ResponseStatus(HttpStatus.ACCEPTED)
    RunView takeBack(@PathVariable("run") long id, Principal who) throws TargetException {
        return runs.view(takeBack.start(id, who.getName()));
    }

    /** What a run that takes another one back has done so far. */
    @GetMapping("/api/v1/runs/{run}/taken-back")
    List<TakenBack> takenBack(@PathVariable("run") long id) {
        return takeBack.outcomes(id);
    }

    /** Its account, place by place; what all of them come to together stands in the run itself. */
    @GetMapping("/api/v1/runs/{run}/places")
    List<LegAccounts.PlaceView> places(@PathVariable("run") long id) {
        return legs.of(known(id));
    }

    /** What an application has answered to what was sent, in the order of the documents. */
    @GetMapping("/api/v1/runs/{run}/answers")
    Page<LegAccounts.AnswerView> answers(
            @PathVariable("run") long id,
            @RequestParam(required = false) String after,
            @RequestParam(required = false) Integer most) {
        int shown = Page.most(most, USUAL);
        Cursor from = Cursor.read(after, 2);
        return Page.of(
                legs.answersOf(known(id), Cursor.part(from, 0, -1), Cursor.part(from, 1, 0), shown + 1),
                shown,
                a -> Cursor.of(a.record(), a.place()),
                a -> a);
    }

    /** Stops a run that waits, or asks one that is under way to stop at its next commit. */
    @PostMapping("/api/v1/runs/{run}/stop")
    @ResponseStatus(HttpStatus.ACCEPTED)
    void stop(@PathVariable("run") long id, Principal who) {
        runs.stop(id, who.getName());
    }

    /** Restarts a run where it stood, with its own version or with the live one. */
    @PostMapping("/api/v1/runs/{run}/restart")
    RunView restart(@PathVariable("run") long id, @RequestParam(defaultValue = "false") boolean live, Principal who) {
        return runs.restart(id, live, who.getName());
    }

    /** What has happened to a run, in order. */
    @GetMapping("/api/v1/runs/{run}/timeline")
    List<Event> timeline(@PathVariable("run") long id) {
        return mapper.events(known(id)).stream()
                .map(e -> new Event(e.at(), e.kind(), e.text(), e.recordsRead()))
                .toList();
    }

    /** A run as an event stream: itself at first, and whenever something of it has changed. */
    @GetMapping(path = "/api/v1/runs/{run}/events", produces = MediaType.TEXT_EVENT_STREAM_VALUE)
    SseEmitter events(@PathVariable("run") long id) {
        return events.follow(id);
    }

    /** What was found in its file, counted by reason. */
    @GetMapping("/api/v1/runs/{run}/reasons")
    List<Reason> reasons(@PathVariable("run") long id) {
        return findings.reasons(known(id)).stream()
                .map(r -> new Reason(r.severity(), r.code(), r.reason(), r.count(), r.firstLine(), r.example()))
                .toList();
    }

    /** What was found in its file, one by one, a page at a time. */
    @GetMapping("/api/v1/runs/{run}/findings")
    Page<FindingView> findings(
            @PathVariable("run") long id,
            @RequestParam(required = false) String code,
            @RequestParam(required = false) String reason,
            @RequestParam(required = false) String after,
            @RequestParam(required = false) Integer most) {
        int shown = Page.most(most, USUAL);
        int from = (int) Cursor.part(Cursor.read(after, 1), 0, 0);
        return Page.of(
                findings.findings(known(id), code, reason, from, shown + 1),
                shown,
                f -> Cursor.of(f.seq()),
                f -> new FindingView(f.seq(), f.severity(), f.code(), f.line(), f.record(), f.field(), f.message()));
    }

    /** Its rejects, with their texts and bad places, a page at a time. */
    @GetMapping("/api/v1/runs/{run}/rejects")
    Page<Reject> rejects(
            @PathVariable("run") long id,
            @RequestParam(required = false) String code,
            @RequestParam(required = false) String reason,
            @RequestParam(required = false) String after,
            @RequestParam(required = false) Integer most)
            throws IOException {
        int count = Page.most(most, USUAL);
        Cursor from = Cursor.read(after, 2);
        RunRow run = runs.row(id);
        RefusedFile files = RefusedFile.like(layout(run), run.file(), transcripts);
        List<RejectRow> page =
                findings.rejects(id, code, reason, Cursor.part(from, 0, -1), (int) Cursor.part(from, 1, 0), count + 1);
        if (page.isEmpty()) {
            return new Page<>(List.of(), null);
        }
        Map<Long, List<FindingRow>> byRecord =
                findings.ofRecords(id, page.stream().map(RejectRow::record).toList()).stream()
                        .collect(Collectors.groupingBy(FindingRow::record));
        return Page.of(
                page,
                count,
                r -> Cursor.of(r.record(), r.leg()),
                r -> reject(r, files, byRecord.getOrDefault(r.record(), List.of())));
    }

    private static Reject reject(RejectRow r, RefusedFile files, List<FindingRow> found) {
        int shown = Math.min(r.raw().length, MOST_SHOWN);
        List<Bad> bad = found.stream()
                .map(f ->
                        Bad.of(files, r.raw(), f.byteOffset() - r.byteOffset(), f.byteLength(), f.code(), f.message()))
                .sorted(Comparator.comparingInt(Bad::from))
                .toList();
        return new Reject(
                r.record(), r.leg(), r.line(), r.byteOffset(), r.byteLength(), files.text(r.raw(), shown), bad);
    }

    /** All of its rejects with their reasons, as delimited text. */
    @GetMapping("/api/v1/runs/{run}/rejects.csv")
    ResponseEntity<StreamingResponseBody> download(@PathVariable("run") long id) {
        RunRow run = runs.row(id);
        Layout layout = layout(run);
        RejectFile file = new RejectFile(findings, run, layout, transcripts);
        ContentDisposition name = ContentDisposition.attachment()
                .filename("rejects-of-run-" + id + "-" + run.fileName(), StandardCharsets.UTF_8)
                .build();
        return ResponseEntity.ok()
                .header(HttpHeaders.CONTENT_DISPOSITION, name.toString())
                .contentType(mediaType(layout))
                .body(out -> file.write(out));
    }

    /** XML says its charset itself. */
    private static MediaType mediaType(Layout layout) {
        MediaType type = MediaType.parseMediaType(Formats.of(layout).mediaType());
        return type.getType().equals("text")
                ? new MediaType(type, layout.format().charset().charset())
                : type;
    }

    /** The number of a run that there is. */
    private long known(long id) {
        return runs.row(id).id();
    }

    private Layout layout(RunRow run) {
        return jobs.version(run.jobId(), run.version()).layout();
    }
}
