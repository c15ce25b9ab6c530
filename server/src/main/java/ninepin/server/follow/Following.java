package ninepin.server.follow;

import java.io.IOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import ninepin.core.bytes.FileSource;
import ninepin.core.bytes.MemorySource;
import ninepin.core.deliver.Destination;
import ninepin.core.deliver.TableDescription;
import ninepin.core.deliver.TargetException;
import ninepin.core.destination.Destinations;
import ninepin.core.format.RefusedFile;
import ninepin.core.format.Transcripts;
import ninepin.core.job.Delivery;
import ninepin.core.job.Job;
import ninepin.core.job.Leg;
import ninepin.core.layout.Layout;
import ninepin.core.preview.Preview;
import ninepin.core.preview.Previewer;
import ninepin.core.shape.Rule;
import ninepin.server.api.Problems;
import ninepin.server.connections.Connections;
import ninepin.server.follow.Trace.Sought.Answer;
import ninepin.server.jobs.Jobs;
import ninepin.server.jobs.ShapingContexts;
import ninepin.server.runs.RunMapper.RunRow;
import ninepin.server.runs.RunPlans;
import ninepin.server.runs.Runs;
import org.springframework.stereotype.Service;

/** Finds the document of a record or of a row, and tells all that is known of it. */
@Service
class Following {

    /** A value of a row: what the rule says, what it gave, and what stands in the target now. */
    record FollowedValue(String target, String rule, String value, String now, boolean differs) {}

    /**
     * A row that was made.
     *
     * @param state {@code there}, {@code changed}, {@code gone}, {@code refused} by its place; {@code unknown} where it cannot be asked
     *     for
     */
    record FollowedRow(String to, String connection, long record, String state, List<FollowedValue> values) {}

    /** A field of a record: its text in the file and its value. */
    record FollowedField(String name, String text, String value) {}

    /** A record of the document. */
    record FollowedRecord(
            long record,
            long line,
            long offset,
            long length,
            String type,
            String text,
            String aside,
            List<FollowedField> fields,
            List<String> findings) {}

    /**
     * A document with what became of it.
     *
     * @param fate {@code delivered}, {@code delivered in part}, {@code rejected}, {@code set aside}, {@code without rows}
     * @param wanted the number of the record that was asked for
     */
    record Followed(
            long run,
            String job,
            String title,
            String fileName,
            int version,
            String fate,
            long wanted,
            List<FollowedRecord> records,
            List<FollowedRow> rows) {}

    private static final int MOST_BYTES = 1 << 20;

    private final Runs runs;
    private final Reading reading;
    private final RunPlans plans;
    private final Jobs jobs;
    private final Connections connections;
    private final ShapingContexts contexts;

    private final Transcripts transcripts;

    Following(
            Runs runs,
            Reading reading,
            RunPlans plans,
            Jobs jobs,
            Connections connections,
            ShapingContexts contexts,
            Transcripts transcripts) {
        this.reading = reading;
        this.runs = runs;
        this.plans = plans;
        this.jobs = jobs;
        this.connections = connections;
        this.contexts = contexts;
        this.transcripts = transcripts;
    }

    /** Follows a line or a record of a run's file; the other of the two is null. */
    Followed follow(long id, Long line, Long record) throws IOException, TargetException {
        RunRow row = runs.row(id);
        Runs.requireFile(row);
        Job job = plans.definition(row).job();
        Trace trace = new Trace(job.deliveries().size(), (document, rows) -> {
            for (int r = 0; r < document.size(); r++) {
                boolean is = record != null
                        ? document.get(r).number() == record
                        : document.get(r).line() == line;
                if (is) {
                    return Answer.YES;
                }
            }
            if (record != null) {
                return Answer.NO;
            }
            // A line inside a record belongs to the last one that begins before it.
            return document.get(0).line() < line ? Answer.MAYBE : Answer.PASSED;
        });
        reading.visit(row, job, 0, trace);
        if (!trace.found()) {
            throw Problems.notFound(
                    line != null
                            ? "No record of the file stands on line " + line + "."
                            : "The file has no record " + record + ".");
        }
        return told(row, job, trace, record != null ? record : recordOn(row, trace, line));
    }

    /** The record that a line belongs to, which may be one inside it. */
    private long recordOn(RunRow row, Trace trace, long line) throws IOException {
        Layout layout = jobs.version(row.jobId(), row.version()).layout();
        long wanted = 0;
        try (FileSource source = transcripts.open(row.file(), layout)) {
            for (Trace.Place place : trace.places()) {
                long lines = 0;
                for (byte b : source.slice(place.offset(), (int) Math.min(MOST_BYTES, place.length()))) {
                    lines += b == '\n' ? 1 : 0;
                }
                if (place.line() <= line && line <= place.line() + lines) {
                    wanted = place.number();
                }
            }
        }
        if (wanted == 0) {
            throw Problems.notFound("No record of the file stands on line " + line + ".");
        }
        return wanted;
    }

    private Followed told(RunRow row, Job job, Trace trace, long wanted) throws IOException, TargetException {
        List<FollowedRecord> records = records(row, job, trace);
        Reading.Refused refused = reading.refused(row, job, trace);
        List<FollowedRow> rows = new ArrayList<>();
        int refusedRows = 0;
        for (Trace.Row made : refused.byCheck() ? List.<Trace.Row>of() : trace.foundRows()) {
            boolean isRefused = refused.in(legOf(job, made.delivery()));
            refusedRows += isRefused ? 1 : 0;
            rows.add(row(job, made, trace.places().get(made.record()).number(), isRefused));
        }
        boolean aside = trace.places().stream().allMatch(p -> p.aside() != null);
        String fate = fate(refused, aside, rows.size(), refusedRows);
        return new Followed(
                row.id(), row.jobName(), row.jobTitle(), row.fileName(), row.version(), fate, wanted, records, rows);
    }

    private static String fate(Reading.Refused refused, boolean aside, int rows, int refusedRows) {
        if (refused.byCheck() || rows > 0 && refusedRows == rows) {
            return "rejected";
        }
        if (refusedRows > 0) {
            return "delivered in part";
        }
        return aside ? "set aside" : rows == 0 ? "without rows" : "delivered";
    }

    private static int legOf(Job job, int delivery) {
        return job.legs().stream()
                .filter(l -> l.deliveries().contains(delivery))
                .map(Leg::number)
                .findFirst()
                .orElse(0);
    }

    /** The records with their fields, as the layout reads them; elements inside others stand in their text. */
    private List<FollowedRecord> records(RunRow row, Job job, Trace trace) throws IOException, TargetException {
        Layout layout = jobs.version(row.jobId(), row.version()).layout();
        List<byte[]> raws = new ArrayList<>();
        RefusedFile files;
        try (FileSource source = transcripts.open(row.file(), layout)) {
            files = RefusedFile.like(layout, source);
            long end = -1;
            for (Trace.Place place : trace.places()) {
                if (place.offset() >= end) {
                    raws.add(files.kept(source.slice(place.offset(), (int) Math.min(MOST_BYTES, place.length()))));
                    end = place.offset() + place.length();
                }
            }
        }
        Layout loose = RefusedFile.layout(layout);
        Preview preview = Previewer.of(
                new MemorySource(files.of(raws)),
                job.withChecks(loose),
                job,
                contexts.sample(job, row.fileName(), null).context(),
                1,
                2_000);
        List<FollowedRecord> records = new ArrayList<>();
        List<Preview.Item> items =
                preview.records().stream().filter(i -> i.number() > 0).toList();
        for (int i = 0; i < trace.places().size(); i++) {
            records.add(record(trace.places().get(i), i < items.size() ? items.get(i) : null, preview));
        }
        return records;
    }

    private static FollowedRecord record(Trace.Place place, Preview.Item item, Preview preview) {
        List<FollowedField> fields = new ArrayList<>();
        if (item != null && item.type() >= 0) {
            List<String> names = preview.types().get(item.type()).fields();
            Map<Integer, String> texts = new LinkedHashMap<>();
            item.cells().stream()
                    .filter(c -> c.record() == item.number() && c.field() >= 0)
                    .forEach(c -> texts.put(c.field(), item.text().substring(c.from(), c.to())));
            for (int f = 0; f < names.size(); f++) {
                String value = f < item.values().size() ? item.values().get(f) : null;
                fields.add(new FollowedField(names.get(f), texts.get(f), value));
            }
        }
        return new FollowedRecord(
                place.number(),
                place.line(),
                place.offset(),
                place.length(),
                item == null || item.type() < 0
                        ? null
                        : preview.types().get(item.type()).name(),
                item == null ? "" : item.text(),
                place.aside(),
                fields,
                item == null
                        ? List.of()
                        // They were found in a file of this document alone.
                        : item.findings().stream()
                                .map(f -> f.message().replaceFirst("^line \\d+", "line " + place.line()))
                                .toList());
    }

    private FollowedRow row(Job job, Trace.Row made, long record, boolean refused) throws TargetException {
        Delivery delivery = job.deliveries().get(made.delivery());
        List<Rule> rules = delivery.shaping().stream().filter(Rule::fills).toList();
        Optional<Map<String, String>> now = Optional.empty();
        boolean asked = false;
        if (!refused && delivery.table() != null) {
            Destination to = delivery.to();
            TableDescription table =
                    connections.table(to.connection(), to.table()).orElse(null);
            List<String> key =
                    table == null ? List.of() : Destinations.of(job, delivery).keyOf(delivery, table);
            if (!key.isEmpty()) {
                asked = true;
                Map<String, String> by = new LinkedHashMap<>();
                for (String column : key) {
                    for (int i = 0; i < rules.size(); i++) {
                        if (rules.get(i).target().equalsIgnoreCase(column)) {
                            by.put(column, made.values().get(i));
                        }
                    }
                }
                now = connections.row(to.connection(), to.table(), by);
            }
        }
        List<FollowedValue> values = new ArrayList<>();
        boolean changed = false;
        for (int i = 0; i < rules.size(); i++) {
            String value = made.values().get(i);
            String there = now.map(Values.of(rules.get(i).target())).orElse(null);
            boolean differs = now.isPresent() && !Values.same(value, there);
            changed |= differs;
            values.add(new FollowedValue(rules.get(i).target(), rules.get(i).sentence(), value, there, differs));
        }
        String state =
                refused ? "refused" : !asked ? "unknown" : now.isEmpty() ? "gone" : changed ? "changed" : "there";
        return new FollowedRow(delivery.to().label(), delivery.to().connection(), record, state, values);
    }
}
