package ninepin.core.document;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.function.BooleanSupplier;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import ninepin.core.check.Finding;
import ninepin.core.check.RecordChecker;
import ninepin.core.document.OpenDocument.Entry;
import ninepin.core.formula.Datum;
import ninepin.core.formula.EvaluationException;
import ninepin.core.formula.Formula;
import ninepin.core.formula.LookedUp;
import ninepin.core.formula.RecordContext;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Severity;
import ninepin.core.lookup.LookUp;
import ninepin.core.lookup.LookUpTables;
import ninepin.core.record.Locator;
import ninepin.core.shape.Origin;
import ninepin.core.shape.RowsMade;
import ninepin.core.shape.Rule;
import ninepin.core.shape.Sequences;
import ninepin.core.shape.Shaper;
import ninepin.core.shape.ShapingContext;

/**
 * Decides what becomes of each document, in this order: records that are set aside, second records of a key, what has to
 * hold across the document, the lane it takes, its rows. Belongs to one thread and one pass.
 */
public final class DocumentShaper {

    private record Across(DocumentCheck check, Formula condition, Formula shown) {}

    private final DocumentStream stream;
    private final Layout layout;
    private final int headType;
    private final Walk walk;
    private final Filter filter;
    private final List<Across> checks = new ArrayList<>();
    private final Formula[] lanes;
    private final Lanes laneNames;
    private final PlannedDelivery[] deliveries;
    private final Shaper[] shapers;
    /** For each delivery its groups, where it has a summary. */
    private final SummaryGroups[] groups;

    /** For each record type the deliveries that make rows of it. */
    private final int[][] deliveriesOf;

    private final boolean plain;
    private final boolean several;
    /** Whether the head of a document is no record of its own. */
    private final boolean gathered;

    private final RecordContext at;
    /** For each delivery the name that rules of others know its rows by; null where none does. */
    private final String[] referredTo;

    private final RowsMade made = new RowsMade();

    private boolean refused;
    /** The line to blame for that. */
    private Locator because;

    private long laneBits;

    /**
     * @param plan what is to be done
     * @param stream hands out the documents
     * @param context what rules can take beside the records
     */
    public DocumentShaper(DocumentPlan plan, DocumentStream stream, ShapingContext context) {
        this.stream = stream;
        this.layout = plan.shaped();
        this.headType = layout.headType();
        this.several = stream.several();
        this.gathered = plan.gathering() != null;
        this.at = stream.recordContext();
        at.lookUp(LookedUp.all(layout, context.surroundings()));
        Conditions conditions = new Conditions(layout, context);
        this.walk = new Walk(at, several);
        this.filter = new Filter(plan, layout, conditions, walk);
        for (DocumentCheck check : plan.checks()) {
            Formula shown = check.shown() == null ? null : conditions.formula(headType, check.shown());
            checks.add(new Across(check, conditions.condition(headType, check.condition()), shown));
        }
        this.laneNames = plan.lanes();
        this.lanes = laneNames.lanes().stream()
                .map(l -> l.when() == null ? null : conditions.condition(headType, l.when()))
                .toArray(Formula[]::new);
        this.deliveries = plan.deliveries().toArray(PlannedDelivery[]::new);
        this.groups = plan.deliveries().stream()
                .map(d -> d.summary() == null ? null : new SummaryGroups(d.summary(), layout, d.type(), context))
                .toArray(SummaryGroups[]::new);
        Set<String> keys = plan.deliveries().stream()
                .flatMap(d -> d.rules().stream())
                .flatMap(r -> r.take() instanceof Origin.OfKey of ? Stream.of(of.table()) : Stream.empty())
                .collect(Collectors.toSet());
        this.referredTo = plan.deliveries().stream()
                .map(d -> d.name() != null && keys.contains(d.name()) ? d.name() : null)
                .toArray(String[]::new);
        this.shapers = IntStream.range(0, deliveries.length)
                .mapToObj(d -> shaper(d, context))
                .toArray(Shaper[]::new);
        this.deliveriesOf = new int[layout.recordTypes().size()][];
        for (int t = 0; t < deliveriesOf.length; t++) {
            int type = t;
            deliveriesOf[t] = IntStream.range(0, deliveries.length)
                    .filter(d -> deliveries[d].type() == type)
                    .toArray();
        }
        this.plain = filter.isNothing() && at.lookUps().isEmpty() && checks.isEmpty() && lanes.length == 0;
    }

    private Shaper shaper(int delivery, ShapingContext all) {
        List<Rule> rules = deliveries[delivery].rules();
        ShapingContext own = all.with(made);
        ShapingContext context = deliveries[delivery].elsewhere() ? own.with(Sequences.anew()) : own;
        return groups[delivery] == null
                ? new Shaper(layout, deliveries[delivery].type(), rules, context)
                : new Shaper(groups[delivery].layout(), 0, rules, context.with(LookUpTables.NONE));
    }

    /** The target fields of a delivery's rows, in order. */
    public List<String> targets(int delivery) {
        return shapers[delivery].targets();
    }

    /** Whether the document that was settled last is refused. */
    public boolean refused() {
        return refused;
    }

    /** All there is to say of a record of the document; where that is refused, at least one reason for it. */
    public List<Finding> findings(Entry entry) {
        if (!refused || entry.refused()) {
            return entry.findings();
        }
        Finding lacking = stream.document().lacking();
        List<Finding> all = new ArrayList<>(entry.findings());
        all.add(
                lacking != null && lacking.record() == entry.number()
                        ? lacking
                        : RecordChecker.withDocument(
                                entry.number(), entry.locator(), entry.offset(), entry.length(), because));
        return all;
    }

    /** The lanes that the document takes, a bit for each; 0 where there are none or it is refused. */
    public long laneBits() {
        return laneBits;
    }

    /** Remembers of a document what later ones have to know, without making anything of it. */
    public void remember() {
        filter.apply(stream.document());
        at.leave();
    }

    /**
     * Reads a file to its end, to know where the last record of each key stands.
     *
     * @param file hands out the documents of the file from its start; is at its end afterwards
     * @param leaveOff whether to leave off
     */
    public void survey(DocumentStream file, DocumentPlan plan, ShapingContext context, BooleanSupplier leaveOff)
            throws IOException {
        DocumentShaper surveyor = new DocumentShaper(plan, file, context);
        DocumentStream.Step step;
        while (!leaveOff.getAsBoolean() && (step = file.next()) != DocumentStream.Step.END) {
            if (step == DocumentStream.Step.HALT) {
                break;
            }
            if (step == DocumentStream.Step.DOCUMENT) {
                surveyor.filter.survey(file.document());
                surveyor.at.leave();
            }
        }
        filter.takeLast(surveyor.filter);
    }

    /** Decides what becomes of the stream's document, and writes its rows if it is not refused. */
    public void settle(RowSink out) {
        OpenDocument document = stream.document();
        laneBits = 0;
        if (!plain) {
            filter.apply(document);
            lookUp(document);
            // What a document is with a record that cannot be read, nobody knows.
            if (firstRefused(document) == null) {
                checkAcross(document);
                chooseLanes(document);
            }
        }
        shape(document, out);
        decide(document);
        at.leave();
    }

    /** The first record with a reason of its own to be refused, or null. */
    private static Entry firstRefused(OpenDocument document) {
        for (int r = 0; r < document.size(); r++) {
            if (document.get(r).refused()) {
                return document.get(r);
            }
        }
        return null;
    }

    private void decide(OpenDocument document) {
        Entry first = firstRefused(document);
        refused = first != null;
        because = refused ? first.locator() : null;
        if (document.lacking() != null && !refused) {
            refused = true;
            because = document.lacking().at();
        }
        if (refused) {
            laneBits = 0;
        }
        for (SummaryGroups group : groups) {
            if (group != null && refused) {
                group.drop();
            } else if (group != null) {
                group.keep();
            }
        }
    }

    /**
     * The record that the document hangs on; null where it could not be read, and of a document without a head, such as
     * a header line of the file.
     */
    private Entry head(OpenDocument document) {
        if (!several) {
            return document.get(0).type() == headType ? document.get(0) : null;
        }
        boolean headed = document.values().size() > 0 && document.values().type(0) == headType;
        return headed ? document.entryOfValues(0) : null;
    }

    /** Says which records have a key that a look-up does not find. */
    private void lookUp(OpenDocument document) {
        for (LookedUp lookUp : at.lookUps()) {
            Severity severity = lookUp.lookUp().missing() == LookUp.Missing.REJECT ? Severity.REJECT : Severity.NOTE;
            walk.each(document, lookUp.type(), entry -> {
                try {
                    String missing = at.missing(lookUp);
                    if (missing != null && lookUp.lookUp().missing() != LookUp.Missing.BLANK) {
                        entry.add(List.of(said(severity, "LKP-01", entry, missing, lookUp)));
                    }
                } catch (EvaluationException e) {
                    entry.add(List.of(said(Severity.REJECT, e.code(), entry, e.getMessage(), lookUp)));
                }
            });
        }
    }

    private static Finding said(Severity severity, String code, Entry entry, String found, LookedUp by) {
        String expected = "one row for the look-up " + by.lookUp().name();
        return Shaper.finding(severity, code, entry, null, found, expected);
    }

    private void checkAcross(OpenDocument document) {
        Entry head = head(document);
        if (checks.isEmpty() || head == null || document.aside()) {
            return;
        }
        walk.standAtHead();
        for (Across across : checks) {
            try {
                Datum holds = across.condition().eval(at);
                if (!holds.isNull() && holds.number() == 0) {
                    head.add(List.of(breach(across, head)));
                }
            } catch (EvaluationException e) {
                head.add(List.of(Shaper.finding(
                        Severity.REJECT,
                        e.code(),
                        head,
                        null,
                        e.getMessage(),
                        "that " + across.check().sentence())));
            }
        }
    }

    private Finding breach(Across across, Entry head) {
        String found = "a document for which that does not hold";
        if (across.shown() != null) {
            Datum shown = across.shown().eval(at);
            found = across.check().shown().replace("\"", "") + " = "
                    + (shown.isNull() ? "NULL" : shown.written(across.shown().type()));
        }
        return Shaper.finding(
                across.check().severity(),
                "DOC-05",
                head,
                null,
                found,
                "that " + across.check().sentence());
    }

    private void chooseLanes(OpenDocument document) {
        Entry head = head(document);
        if (lanes.length == 0 || head == null || document.aside()) {
            return;
        }
        walk.standAtHead();
        for (int i = 0; i < lanes.length - 1; i++) {
            try {
                Datum holds = lanes[i].eval(at);
                if (!holds.isNull() && holds.number() == 1) {
                    laneBits |= 1L << i;
                    if (laneNames.take() == Lanes.Take.FIRST) {
                        break;
                    }
                }
            } catch (EvaluationException e) {
                head.add(List.of(Shaper.finding(
                        Severity.REJECT,
                        e.code(),
                        head,
                        null,
                        e.getMessage(),
                        "a value of " + laneNames.lanes().get(i).when())));
            }
        }
        if (laneBits == 0) {
            laneBits = 1L << lanes.length - 1;
        }
        leaveWithoutDelivery(document);
    }

    /** A document whose lanes deliver nothing is set aside. */
    private void leaveWithoutDelivery(OpenDocument document) {
        for (PlannedDelivery delivery : deliveries) {
            if (delivery.takes(laneBits)) {
                return;
            }
        }
        if (deliveries.length > 0) {
            Lanes.Lane lane = laneNames.lanes().get(Long.numberOfTrailingZeros(laneBits));
            document.setAside("lane " + lane.name() + " delivers nothing");
        }
    }

    private void shape(OpenDocument document, RowSink out) {
        made.begin();
        if (!several) {
            Entry entry = document.get(0);
            if (!entry.refused() && entry.aside() == null && entry.type() >= 0) {
                shape(entry, entry.type(), 0, out);
            }
            return;
        }
        int record = 0;
        for (int i = 0; i < document.values().size(); i++) {
            at.standAt(i);
            Entry entry = document.entryOfValues(i);
            while (document.get(record) != entry) {
                record++;
            }
            boolean isHead = gathered && i == 0;
            stand(document.values().type(i));
            if (!entry.refused() && (isHead ? !document.aside() : entry.aside() == null)) {
                shape(entry, document.values().type(i), record, out);
            }
        }
    }

    /** A record begins, whether or not it makes rows: those of the record before are no longer what others belong to. */
    private void stand(int type) {
        for (int d : deliveriesOf[type]) {
            if (referredTo[d] != null) {
                made.stand(referredTo[d]);
            }
        }
    }

    private void shape(Entry entry, int type, int record, RowSink out) {
        int[] makers = deliveriesOf[type];
        for (int d : makers) {
            if (lanes.length > 0 && !deliveries[d].takes(laneBits)) {
                continue;
            }
            if (groups[d] != null) {
                group(d, entry);
                continue;
            }
            int before = out.rows(d).rows();
            List<Finding> findings = shapers[d].shape(entry, at, out.rows(d));
            if (!findings.isEmpty()) {
                entry.add(findings);
            }
            if (out.rows(d).rows() > before) {
                entry.makesRows(deliveries[d].elsewhere());
                out.made(d, record);
                if (referredTo[d] != null) {
                    made.made(referredTo[d]);
                }
            }
        }
    }

    private void group(int delivery, Entry entry) {
        try {
            groups[delivery].take(at);
        } catch (EvaluationException e) {
            entry.add(List.of(
                    Shaper.finding(Severity.REJECT, e.code(), entry, null, e.getMessage(), "a value for the summary")));
        }
    }

    /** The groups that a delivery's summary has so far, as a file in the layout of {@link #layoutOf}. */
    public byte[] groupsOf(int delivery) {
        return groups[delivery].file();
    }

    /** The layout of a delivery's rows: that of its groups, or that of the documents. */
    public Layout layoutOf(int delivery) {
        return groups[delivery] == null ? layout : groups[delivery].layout();
    }
}
