package ninepin.server.rejects;

import static io.swagger.v3.oas.annotations.media.Schema.RequiredMode.REQUIRED;

import io.swagger.v3.oas.annotations.media.Schema;
import java.io.IOException;
import java.nio.charset.Charset;
import java.security.Principal;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Collectors;
import ninepin.core.format.Formats;
import ninepin.server.api.Page;
import ninepin.server.api.Page.Cursor;
import ninepin.server.api.Problems;
import ninepin.server.jobs.Jobs;
import ninepin.server.rejects.RejectDesk.RejectKey;
import ninepin.server.rejects.RejectMapper.Filter;
import ninepin.server.rejects.RejectMapper.HistoryRow;
import ninepin.server.rejects.RejectMapper.LineRow;
import ninepin.server.rejects.RejectMapper.ReasonRow;
import ninepin.server.rejects.RejectMapper.RejectRow;
import ninepin.server.rejects.RejectMapper.SaidRow;
import ninepin.server.runs.Bad;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.multipart.MultipartFile;

@RestController
@RequestMapping("/api/v1/rejects")
class RejectController {

    /** A line of the list: the beginning of its text as it stands now, and what was said of it. */
    record RejectLine(
            long run,
            int leg,
            long record,
            long document,
            long line,
            String state,
            boolean corrected,
            String text,
            List<String> messages,
            String job,
            String title,
            String fileName,
            Instant at,
            String decidedBy,
            Instant decidedAt,
            Long resubmittedRun) {}

    /** How many there are in all, and the first of them. */
    record RejectPage(long count, List<RejectLine> items, String next) {}

    /** A record of a document: as it came, as it stands now, and what was said of it. */
    record RejectRecord(
            long record,
            long line,
            long offset,
            boolean inside,
            String raw,
            String text,
            boolean corrected,
            List<Bad> bad) {}

    /** What somebody did. */
    record RejectDone(long record, Instant at, String who, String did, String text, String corrected) {}

    /** A document that was refused. */
    record RejectDocument(
            long run,
            int leg,
            String job,
            String state,
            String reason,
            Long resubmittedRun,
            List<RejectRecord> records,
            List<RejectDone> history) {}

    /** RejectTexts of records, by their numbers. */
    record RejectTexts(@Schema(requiredMode = REQUIRED) Map<Long, String> texts) {}

    /**
     * A field of a record of a document, and what it shall hold.
     *
     * @param texts the texts of records as they are being corrected, by their numbers
     */
    record FieldAsked(
            Map<Long, String> texts,
            @Schema(requiredMode = REQUIRED) long record,
            @Schema(requiredMode = REQUIRED) String field,
            @Schema(requiredMode = REQUIRED) String value) {
        FieldAsked {
            Problems.needed("field", field);
            Problems.needed("value", value);
        }
    }

    /** Rejects, and what is changed in them; whether the change is kept or only shown. */
    record ChangeAsked(
            @Schema(requiredMode = REQUIRED) List<RejectKey> keys,
            @Schema(requiredMode = REQUIRED) RejectDesk.WantedChange wanted,
            boolean apply) {
        ChangeAsked {
            Problems.neededAll("keys", keys);
            Problems.needed("wanted", wanted);
        }
    }

    /** Rejects, and why they are set aside. */
    record AsideAsked(@Schema(requiredMode = REQUIRED) List<RejectKey> keys, String reason) {
        AsideAsked {
            Problems.neededAll("keys", keys);
        }
    }

    /** Rejects. */
    record ChosenRejects(@Schema(requiredMode = REQUIRED) List<RejectKey> keys) {
        ChosenRejects {
            Problems.neededAll("keys", keys);
        }
    }

    /** The runs that rejects were sent again with. */
    record Resubmitted(List<Long> runs) {}

    /** How many records were set aside. */
    record RejectsSetAside(long records) {}

    private static final int USUAL = 300;

    private final RejectMapper mapper;
    private final RejectDesk desk;
    private final RejectImport imports;
    private final Jobs jobs;

    RejectController(RejectMapper mapper, RejectDesk desk, RejectImport imports, Jobs jobs) {
        this.imports = imports;
        this.mapper = mapper;
        this.desk = desk;
        this.jobs = jobs;
    }

    /** Rejects that a filter lets pass, the latest run first; a page at a time. */
    @GetMapping
    RejectPage page(
            @RequestParam(required = false) String state,
            @RequestParam(required = false) String job,
            @RequestParam(required = false) Long run,
            @RequestParam(required = false) String code,
            @RequestParam(required = false) String reason,
            @RequestParam(required = false) String field,
            @RequestParam(required = false) Instant since,
            @RequestParam(required = false) Instant until,
            @RequestParam(required = false) String who,
            @RequestParam(required = false) String after,
            @RequestParam(required = false) Integer most) {
        int shown = Page.most(most, USUAL);
        Cursor from = Cursor.read(after, 3);
        Filter filter = new Filter(state, job, run, code, reason, field, since, until, who);
        List<LineRow> rows = mapper.page(
                filter,
                from == null ? null : from.parts().get(0),
                from == null ? null : from.parts().get(1),
                from == null ? null : from.parts().get(2),
                shown + 1);
        Map<List<Long>, List<String>> said = new HashMap<>();
        rows.stream()
                .collect(Collectors.groupingBy(r -> List.of(r.runId(), (long) r.leg())))
                .forEach((of, own) -> mapper.said(
                                of.get(0),
                                of.get(1).intValue(),
                                own.stream().map(LineRow::record).toList())
                        .forEach(s -> said.computeIfAbsent(
                                        List.of(s.runId(), (long) s.leg(), s.record()), k -> new ArrayList<>())
                                .add(s.message())));
        Map<Long, Charset> charsets = new HashMap<>();
        Page<RejectLine> page =
                Page.of(rows, shown, r -> Cursor.of(r.runId(), r.record(), r.leg()), r -> line(r, said, charsets));
        return new RejectPage(mapper.count(filter), page.items(), page.next());
    }

    private RejectLine line(LineRow r, Map<List<Long>, List<String>> said, Map<Long, Charset> charsets) {
        Charset charset = charsets.computeIfAbsent(
                r.jobId() * 100_000 + r.version(),
                k -> Formats.of(jobs.version(r.jobId(), r.version()).layout()).keptCharset());
        return new RejectLine(
                r.runId(),
                r.leg(),
                r.record(),
                r.document(),
                r.line(),
                r.state(),
                r.corrected() != null,
                new String(r.corrected() != null ? r.corrected() : r.raw(), charset),
                said.getOrDefault(List.of(r.runId(), (long) r.leg(), r.record()), List.of()),
                r.jobName(),
                r.jobTitle(),
                r.fileName(),
                r.createdAt(),
                r.decidedBy(),
                r.decidedAt(),
                r.resubmittedRun());
    }

    /** Why rejects were refused, counted. */
    @GetMapping("/reasons")
    List<ReasonRow> reasons(
            @RequestParam(required = false) String state,
            @RequestParam(required = false) String job,
            @RequestParam(required = false) Long run,
            @RequestParam(required = false) Instant since,
            @RequestParam(required = false) Instant until) {
        return mapper.reasons(new Filter(state, job, run, null, null, null, since, until, null));
    }

    /** A reject with its whole document, its reasons and its history. */
    @GetMapping("/{run}/{leg}/{record}")
    RejectDocument document(@PathVariable long run, @PathVariable int leg, @PathVariable long record) {
        RefusedDocuments document = desk.document(new RejectKey(run, leg, record));
        List<RejectRow> rows = document.records();
        Map<Long, List<SaidRow>> said = mapper
                .said(run, leg, rows.stream().map(RejectRow::record).toList())
                .stream()
                .collect(Collectors.groupingBy(SaidRow::record));
        List<RejectRecord> views = new ArrayList<>();
        List<RejectDone> history = new ArrayList<>();
        for (int i = 0; i < rows.size(); i++) {
            RejectRow row = rows.get(i);
            List<Bad> bad = said.getOrDefault(row.record(), List.of()).stream()
                    .map(s -> Bad.of(
                            document.files(),
                            row.raw(),
                            s.byteOffset() - row.byteOffset(),
                            s.byteLength(),
                            s.code(),
                            s.message()))
                    .toList();
            views.add(new RejectRecord(
                    row.record(),
                    row.line(),
                    row.byteOffset(),
                    document.carrier(i) != i,
                    document.text(row.raw()),
                    document.now(i),
                    row.corrected() != null,
                    bad));
            for (HistoryRow h : mapper.history(run, row.record())) {
                if (h.leg() == leg) {
                    String corrected = h.corrected() == null ? null : document.text(h.corrected());
                    history.add(new RejectDone(h.record(), h.at(), h.who(), h.did(), h.text(), corrected));
                }
            }
        }
        RejectRow first = rows.get(0);
        return new RejectDocument(
                run, leg, document.job(), first.state(), first.reason(), first.resubmittedRun(), views, history);
    }

    /** Says what would become of the document with other texts. */
    @PostMapping("/{run}/{leg}/{record}/check")
    List<RejectDesk.CheckedReject> check(
            @PathVariable long run, @PathVariable int leg, @PathVariable long record, @RequestBody RejectTexts asked)
            throws IOException {
        return desk.check(
                new RejectKey(run, leg, record), asked.texts() == null ? Map.of() : new TreeMap<>(asked.texts()));
    }

    /** The text of a record with another value for one of its fields, as the record is written; nothing is kept. */
    @PostMapping("/{run}/{leg}/{record}/field")
    RejectTexts field(
            @PathVariable long run, @PathVariable int leg, @PathVariable long record, @RequestBody FieldAsked asked)
            throws IOException {
        Map<Long, String> texts = asked.texts() == null ? Map.of() : new TreeMap<>(asked.texts());
        return new RejectTexts(
                desk.withField(new RejectKey(run, leg, record), texts, asked.record(), asked.field(), asked.value()));
    }

    /** Keeps corrected texts of a reject and of the records of its document. */
    @PutMapping("/{run}/{leg}/{record}")
    RejectDocument correct(
            @PathVariable long run,
            @PathVariable int leg,
            @PathVariable long record,
            @RequestBody RejectTexts asked,
            Principal who) {
        desk.correct(new RejectKey(run, leg, record), asked.texts(), who.getName());
        return document(run, leg, record);
    }

    /** Replaces a text in many rejects, or tells what that would do. */
    @PostMapping("/change")
    RejectDesk.ChangeInMany change(@RequestBody ChangeAsked asked, Principal who) throws IOException {
        return desk.change(asked.keys(), asked.wanted(), asked.apply(), who.getName());
    }

    /** Sends rejects again, corrected or not, each file in a run of its own. */
    @PostMapping("/resubmit")
    Resubmitted resubmit(@RequestBody ChosenRejects asked, Principal who) throws IOException {
        return new Resubmitted(desk.resubmit(asked.keys(), who.getName()));
    }

    /** The open rejects of a run as they stand now, in the layout they came in, to be corrected elsewhere. */
    @GetMapping(path = "/{run}/file", produces = MediaType.APPLICATION_OCTET_STREAM_VALUE)
    ResponseEntity<byte[]> file(@PathVariable long run) throws IOException {
        String name = ContentDisposition.attachment()
                .filename("open-rejects-of-run-" + run + desk.ending(run))
                .build()
                .toString();
        return ResponseEntity.ok().header(HttpHeaders.CONTENT_DISPOSITION, name).body(imports.file(run));
    }

    /** Corrects the open rejects of a run by a file of them, and sends them again. */
    @PostMapping("/{run}/file")
    RejectImport.Imported take(@PathVariable long run, @RequestParam MultipartFile file, Principal who)
            throws IOException {
        return imports.take(run, file.getBytes(), who.getName());
    }

    /** Sets rejects aside: they stay with their reason and are not sent again. */
    @PostMapping("/aside")
    RejectsSetAside setAside(@RequestBody AsideAsked asked, Principal who) {
        return new RejectsSetAside(desk.setAside(asked.keys(), asked.reason(), who.getName()));
    }
}
