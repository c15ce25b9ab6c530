package ninepin.server.rejects;

import static io.swagger.v3.oas.annotations.media.Schema.RequiredMode.REQUIRED;

import io.swagger.v3.oas.annotations.media.Schema;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.time.Clock;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import ninepin.core.format.Formats;
import ninepin.core.format.Transcripts;
import ninepin.core.preview.Preview;
import ninepin.core.record.RejectForm;
import ninepin.server.api.Problems;
import ninepin.server.jobs.JobMapper.JobRow;
import ninepin.server.jobs.Jobs;
import ninepin.server.jobs.ShapingContexts;
import ninepin.server.rejects.RejectMapper.HistoryRow;
import ninepin.server.rejects.RejectMapper.OriginRow;
import ninepin.server.rejects.RejectMapper.RejectRow;
import ninepin.server.runs.Bad;
import ninepin.server.runs.RunMapper.RunRow;
import ninepin.server.runs.Runs;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** What people do with rejects: look, correct, change many at once, send again, set aside. Documents stay whole. */
@Service
public class RejectDesk {

    /**
     * A record that a run refused.
     *
     * @param leg the place of the run whose target refused it; 0 also where a check did
     */
    public record RejectKey(
            @Schema(requiredMode = REQUIRED) long run,
            @Schema(requiredMode = REQUIRED) int leg,
            @Schema(requiredMode = REQUIRED) long record) {}

    /** Where a field stands in a text. */
    public record RejectCell(String field, int from, int to) {}

    /**
     * A record as its layout reads it now.
     *
     * @param record its number in the run that refused it
     * @param fate what would become of it
     */
    public record CheckedReject(
            long record, String text, String type, String fate, List<RejectCell> cells, List<Bad> bad) {}

    /**
     * What a change in many comes to.
     *
     * @param changed how many records it changes
     * @param good how many records of the documents would be delivered afterwards
     * @param bad how many would not
     * @param effects the first of those that it changes, before and after
     */
    public record ChangeInMany(long changed, long good, long bad, List<EffectOnOne> effects) {}

    /** One record before and after a change. */
    public record EffectOnOne(long run, long record, String before, String after) {}

    /** What is changed: in one field, or in the whole record where that is null; all of the text where nothing is sought. */
    public record WantedChange(
            String field,
            @Schema(requiredMode = REQUIRED) String find,
            @Schema(requiredMode = REQUIRED) String replace) {}

    private static final int MOST_EFFECTS = 100;
    /** What one person changes in a record within this time is one edit. */
    private static final Duration ONE_EDIT = Duration.ofMinutes(10);

    private static final int MOST_AT_ONCE = 10_000;
    /** Documents are looked at so many records at a time; see {@link RefusedDocuments#MOST_SHOWN}. */
    private static final int PIECE = 1_000;

    private final RejectMapper mapper;
    private final Runs runs;
    private final Jobs jobs;
    private final ShapingContexts contexts;
    private final Clock clock;

    private final Transcripts transcripts;

    RejectDesk(
            RejectMapper mapper, Runs runs, Jobs jobs, ShapingContexts contexts, Clock clock, Transcripts transcripts) {
        this.mapper = mapper;
        this.runs = runs;
        this.jobs = jobs;
        this.contexts = contexts;
        this.clock = clock;
        this.transcripts = transcripts;
    }

    /** How many rejects of a run nobody has decided about. */
    public long open(long run) {
        return mapper.open(run);
    }

    /** The document of a record, with what was said of each of its records. */
    RefusedDocuments document(RejectKey key) {
        List<RejectRow> found = mapper.documentsOf(key.run(), key.leg(), List.of(key.record()));
        if (found.isEmpty()) {
            throw Problems.notFound("Run " + key.run() + " has no reject " + key.record() + ".");
        }
        return documents(runs.row(key.run()), found);
    }

    /** Some rejects of a run as documents. */
    RefusedDocuments documents(long run, List<RejectRow> records) {
        return documents(runs.row(run), records);
    }

    /** Keeps the text of one reject. */
    void correct(RejectRow row, byte[] bytes, String who) {
        correct(row, bytes, "corrected", null, who);
    }

    private RefusedDocuments documents(RunRow run, List<RejectRow> records) {
        try {
            return new RefusedDocuments(run, definition(run), records, transcripts);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** What reads and runs rejects: the live version of the job, which may have been mended since. */
    private Jobs.Definition definition(RunRow run) {
        JobRow job = jobs.get(run.jobName());
        return jobs.version(run.jobId(), job.liveVersion() == null ? run.version() : job.liveVersion());
    }

    /**
     * Checks a document with other texts.
     *
     * @param texts the texts of records, by their numbers; the others stand as they do now
     */
    List<CheckedReject> check(RejectKey key, Map<Long, String> texts) throws IOException {
        RefusedDocuments documents = document(key);
        return check(documents, texts(documents, texts));
    }

    private static List<String> texts(RefusedDocuments documents, Map<Long, String> texts) {
        List<String> all = new ArrayList<>();
        for (int i = 0; i < documents.records().size(); i++) {
            if (documents.carrier(i) == i) {
                String other = texts.get(documents.records().get(i).record());
                all.add(other == null ? documents.now(i) : other);
            }
        }
        return all;
    }

    private List<CheckedReject> check(RefusedDocuments documents, List<String> texts) throws IOException {
        Preview preview = documents.preview(contexts, texts);
        List<CheckedReject> checked = new ArrayList<>();
        int at = 0;
        for (Preview.Item item : preview.records()) {
            if (item.number() == 0) {
                continue;
            }
            // A correction may have made more records of one; they belong to the last that there was.
            RejectRow row =
                    documents.records().get(Math.min(at++, documents.records().size() - 1));
            checked.add(checked(row, item, preview));
        }
        return checked;
    }

    private static CheckedReject checked(RejectRow row, Preview.Item item, Preview preview) {
        Preview.TypeCount type = item.type() < 0 ? null : preview.types().get(item.type());
        List<RejectCell> cells = new ArrayList<>();
        for (Preview.Span cell : item.cells()) {
            if (type != null && cell.field() >= 0 && cell.record() == item.number()) {
                cells.add(new RejectCell(type.fields().get(cell.field()), cell.from(), cell.to()));
            }
        }
        List<Bad> bad = item.findings().stream()
                .filter(f -> !f.severity().equals("note"))
                .map(f -> bad(f, item, cells))
                .toList();
        return new CheckedReject(row.record(), item.text(), type == null ? null : type.name(), item.fate(), cells, bad);
    }

    private static Bad bad(Preview.Remark finding, Preview.Item item, List<RejectCell> cells) {
        return cells.stream()
                .filter(c -> c.field().equals(finding.field()))
                .findFirst()
                .map(c -> new Bad(c.from(), c.to(), finding.code(), finding.message()))
                .orElse(new Bad(0, item.text().length(), finding.code(), finding.message()));
    }

    /** The usual ending of the name of a file like that of a run. */
    String ending(long run) {
        return Formats.of(definition(runs.row(run)).layout()).ending();
    }

    /**
     * The texts of a document with another value for a field of one of its records.
     *
     * @param texts the texts of records, by their numbers; the others stand as they do now
     * @return the text that is another then, by the number of the record that carries it
     */
    Map<Long, String> withField(RejectKey key, Map<Long, String> texts, long record, String field, String value)
            throws IOException {
        RefusedDocuments documents = document(key);
        List<String> all = texts(documents, texts);
        CheckedReject checked = check(documents, all).stream()
                .filter(c -> c.record() == record)
                .findFirst()
                .orElseThrow(() -> Problems.notFound("The document has no record " + record + "."));
        RejectCell cell = checked.cells().stream()
                .filter(c -> c.field().equals(field))
                .findFirst()
                .orElseThrow(() -> Problems.unprocessable("The field " + field
                        + " stands nowhere in the record as it is written. Correct the text instead."));
        int carrier = documents.carrier(documents.indexOf(record));
        int place = documents.placeAmongCarriers(carrier);
        String text = all.get(place);
        int shift = documents.records().get(carrier).record() == record ? 0 : Math.max(0, text.indexOf(checked.text()));
        RejectForm form = Formats.of(documents.layout()).rejects();
        int from = cell.from() + shift;
        int to = cell.to() + shift;
        try {
            String fitted = form.fitted(text.substring(from, to), value);
            String placed = form.placed(text, from, fitted);
            return Map.of(
                    documents.records().get(carrier).record(), text.substring(0, from) + placed + text.substring(to));
        } catch (RejectForm.DoesNotFit e) {
            throw Problems.unprocessable(
                    "\"" + value + "\" does not fit: " + field + " has " + e.width() + " characters.");
        }
    }

    /** Keeps corrected texts; what came stays as it came. */
    @Transactional
    public void correct(RejectKey key, Map<Long, String> texts, String who) {
        RefusedDocuments documents = document(key);
        for (RejectRow row : documents.records()) {
            String text = texts.get(row.record());
            if (text != null) {
                correct(row, documents.bytes(text), "corrected", null, who);
            }
        }
    }

    private void correct(RejectRow row, byte[] bytes, String did, String text, String who) {
        byte[] corrected = Arrays.equals(bytes, row.raw()) ? null : bytes;
        if (row.state().equals("open") && Arrays.equals(corrected, row.corrected())) {
            return;
        }
        if (mapper.correct(row.runId(), row.leg(), row.record(), corrected, clock.instant(), who) == 0) {
            throw Problems.conflict("Record " + row.record() + " of run " + row.runId()
                    + " is not open any more: somebody has sent it again or set it aside.");
        }
        // An edit keeps itself every few letters; what is told of it is how it ended.
        boolean goesOn = text == null
                && mapper.goOn(
                                row.runId(),
                                row.leg(),
                                row.record(),
                                did,
                                who,
                                corrected,
                                clock.instant(),
                                clock.instant().minus(ONE_EDIT))
                        > 0;
        if (!goesOn) {
            remember(row, did, text, corrected, who);
        }
    }

    private void remember(RejectRow row, String did, String text, byte[] corrected, String who) {
        mapper.remember(
                new HistoryRow(row.runId(), row.leg(), row.record(), clock.instant(), who, did, text, corrected));
    }

    /**
     * Changes the same thing in many records.
     *
     * @param apply whether the change is kept; otherwise only its effect is told
     */
    @Transactional
    public ChangeInMany change(List<RejectKey> keys, WantedChange wanted, boolean apply, String who)
            throws IOException {
        long changed = 0;
        long good = 0;
        long bad = 0;
        List<EffectOnOne> effects = new ArrayList<>();
        for (RefusedDocuments documents : inPieces(byRun(keys))) {
            Replacement replacement = new Replacement(documents, documents.preview(contexts), wanted, chosen(keys));
            List<String> after = new ArrayList<>();
            for (int i = 0; i < documents.records().size(); i++) {
                if (documents.carrier(i) != i) {
                    continue;
                }
                RejectRow row = documents.records().get(i);
                String before = documents.now(i);
                String now = replacement.of(i);
                after.add(now);
                if (!now.equals(before)) {
                    changed++;
                    if (effects.size() < MOST_EFFECTS) {
                        effects.add(new EffectOnOne(row.runId(), row.record(), before, now));
                    }
                    if (apply) {
                        correct(row, documents.bytes(now), "changed", replacement.words(), who);
                    }
                }
            }
            for (CheckedReject checked : check(documents, after)) {
                boolean isGood =
                        !checked.fate().equals("reject") && !checked.fate().equals("halt");
                good += isGood ? 1 : 0;
                bad += isGood ? 0 : 1;
            }
        }
        return new ChangeInMany(changed, good, bad, effects);
    }

    private static Map<Long, List<Long>> chosen(List<RejectKey> keys) {
        return keys.stream()
                .collect(Collectors.groupingBy(
                        RejectKey::run, Collectors.mapping(RejectKey::record, Collectors.toList())));
    }

    /** The whole documents of records, those of one run and one place together. */
    private List<RefusedDocuments> byRun(List<RejectKey> keys) {
        if (keys.isEmpty() || keys.size() > MOST_AT_ONCE) {
            throw Problems.unprocessable("Choose from 1 to " + MOST_AT_ONCE + " rejects.");
        }
        Map<List<Long>, List<Long>> groups = new LinkedHashMap<>();
        keys.forEach(k -> groups.computeIfAbsent(List.of(k.run(), (long) k.leg()), g -> new ArrayList<>())
                .add(k.record()));
        List<RefusedDocuments> all = new ArrayList<>();
        groups.forEach((group, records) -> {
            RunRow run = runs.row(group.get(0));
            List<RejectRow> open = mapper.documentsOf(run.id(), group.get(1).intValue(), records).stream()
                    .filter(r -> r.state().equals("open"))
                    .toList();
            if (!open.isEmpty()) {
                all.add(documents(run, open));
            }
        });
        return all;
    }

    /** The same in pieces that can be looked at as a whole; documents stay in one. */
    private List<RefusedDocuments> inPieces(List<RefusedDocuments> all) {
        List<RefusedDocuments> pieces = new ArrayList<>();
        for (RefusedDocuments documents : all) {
            List<RejectRow> rows = documents.records();
            RunRow run = runs.row(rows.get(0).runId());
            int from = 0;
            for (int i = 1; i <= rows.size(); i++) {
                boolean whole = i == rows.size()
                        || rows.get(i).document() != rows.get(i - 1).document();
                if (whole && (i == rows.size() || i - from >= PIECE)) {
                    pieces.add(documents(run, rows.subList(from, i)));
                    from = i;
                }
            }
        }
        return pieces;
    }

    /**
     * Sends rejects again, those of one run and one place as a run of its own that belongs to it.
     *
     * @return the numbers of the new runs
     */
    @Transactional
    public List<Long> resubmit(List<RejectKey> keys, String who) throws IOException {
        List<Long> numbers = new ArrayList<>();
        for (RefusedDocuments documents : byRun(keys)) {
            Map<Boolean, List<RejectRow>> byTarget =
                    documents.records().stream().collect(Collectors.partitioningBy(RejectRow::byTarget));
            for (Map.Entry<Boolean, List<RejectRow>> part : byTarget.entrySet()) {
                if (!part.getValue().isEmpty()) {
                    RunRow run = runs.row(part.getValue().get(0).runId());
                    numbers.add(resubmit(run, documents(run, part.getValue()), part.getKey(), who));
                }
            }
        }
        if (numbers.isEmpty()) {
            throw Problems.conflict("None of them is open any more.");
        }
        return numbers;
    }

    private long resubmit(RunRow run, RefusedDocuments documents, boolean byTarget, String who) throws IOException {
        RejectRow first = documents.records().get(0);
        for (RejectRow row : documents.records()) {
            if (row.corrected() == null && row.raw().length < row.byteLength()) {
                throw Problems.unprocessable("Record " + row.record() + " of run " + run.id()
                        + " was too long to be kept whole, so it cannot be sent again from here.");
            }
        }
        long number = runs.resubmit(run, documents.file(), byTarget ? first.leg() : null, who);
        List<OriginRow> origins = new ArrayList<>();
        long record = 0;
        for (RejectRow row : documents.records()) {
            origins.add(new OriginRow(number, ++record, run.id(), row.record()));
            if (mapper.decide(row.runId(), row.leg(), row.record(), "resubmitted", clock.instant(), who, null, number)
                    == 0) {
                throw Problems.conflict("Record " + row.record() + " was sent again by somebody else just now.");
            }
            remember(row, "resubmitted", "with run " + number, row.corrected(), who);
        }
        for (int from = 0; from < origins.size(); from += 500) {
            mapper.originate(origins.subList(from, Math.min(origins.size(), from + 500)));
        }
        return number;
    }

    /** Sets rejects aside for good; how many records that are. */
    @Transactional
    public long setAside(List<RejectKey> keys, String reason, String who) {
        if (reason == null || reason.isBlank()) {
            throw Problems.unprocessable("Say why they are set aside for good.");
        }
        long records = 0;
        for (RefusedDocuments documents : byRun(keys)) {
            for (RejectRow row : documents.records()) {
                int decided = mapper.decide(
                        row.runId(), row.leg(), row.record(), "aside", clock.instant(), who, reason.strip(), null);
                if (decided > 0) {
                    remember(row, "set aside", reason.strip(), row.corrected(), who);
                }
                records += decided;
            }
        }
        return records;
    }
}
