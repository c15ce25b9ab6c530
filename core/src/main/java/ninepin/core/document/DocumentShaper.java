package ninepin.core.document;

import java.io.IOException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.function.BooleanSupplier;
import java.util.function.Consumer;
import java.util.stream.IntStream;
import ninepin.core.check.Finding;
import ninepin.core.check.RecordChecker;
import ninepin.core.check.SeenKeys;
import ninepin.core.document.OpenDocument.Entry;
import ninepin.core.formula.Datum;
import ninepin.core.formula.Formula;
import ninepin.core.formula.FormulaException;
import ninepin.core.formula.FormulaScope;
import ninepin.core.formula.Misfit;
import ninepin.core.formula.Notices;
import ninepin.core.formula.Standpoint;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Severity;
import ninepin.core.shape.Shaper;
import ninepin.core.shape.ShapingContext;

/**
 * Decides what becomes of each document, in this order: records that are set aside, second records of a key, what has to
 * hold across the document, the lane it takes, its rows. Belongs to one thread and one pass.
 */
public final class DocumentShaper {

    /** A condition that sets records aside. */
    private record Filter(int type, Formula condition, String why, String text) {}

    /** Records of a type of which one is kept for each key. */
    private record Doubles(int type, SeenKeys keys, boolean last, String why) {}

    private record Across(DocumentCheck check, Formula condition, Formula shown) {}

    private final DocumentStream stream;
    private final Layout layout;
    private final int headType;
    private final List<Filter> filters = new ArrayList<>();
    private final List<Doubles> doubles = new ArrayList<>();
    private final List<Across> checks = new ArrayList<>();
    private final Formula[] lanes;
    private final Lanes laneNames;
    private final PlannedDelivery[] deliveries;
    private final Shaper[] shapers;
    /** For each record type the deliveries that make rows of it. */
    private final int[][] deliveriesOf;

    private final boolean plain;
    private final boolean several;
    /** Whether the head of a document is no record of its own. */
    private final boolean gathered;

    private final Standpoint at;

    /** The record of the values that is looked at. */
    private int current;

    private boolean refused;
    /** The line to blame for that. */
    private long because;

    private long laneBits;

    /**
     * @param plan what is to be done
     * @param stream hands out the documents
     * @param context what rules can take beside the records
     */
    public DocumentShaper(DocumentPlan plan, DocumentStream stream, ShapingContext context) {
        this.stream = stream;
        this.layout = plan.shaped();
        this.headType = Documents.headType(layout);
        this.several = stream.several();
        this.gathered = plan.gathering() != null;
        this.at = stream.standpoint();
        for (SetAside aside : plan.setAside()) {
            int type = type(aside.of(), "setAside.of");
            filters.add(new Filter(type, condition(type, aside.when(), context), aside.why(), aside.when()));
        }
        for (Duplicates d : plan.duplicates()) {
            int type = type(d.of(), "duplicates.of");
            int[] key = d.key().stream()
                    .mapToInt(f -> layout.recordTypes().get(type).indexOf(f))
                    .toArray();
            if (Arrays.stream(key).anyMatch(k -> k < 0)) {
                throw new DefinitionException("duplicates.key", "there is no such field");
            }
            SeenKeys keys =
                    new SeenKeys(key, layout.format().charset().ofValues().charset());
            doubles.add(new Doubles(type, keys, d.keep() == Duplicates.Keep.LAST, d.why()));
        }
        for (DocumentCheck check : plan.checks()) {
            Formula shown = check.shown() == null ? null : formula(headType, check.shown(), context);
            checks.add(new Across(check, condition(headType, check.condition(), context), shown));
        }
        this.laneNames = plan.lanes();
        this.lanes = laneNames.lanes().stream()
                .map(l -> l.when() == null ? null : condition(headType, l.when(), context))
                .toArray(Formula[]::new);
        this.deliveries = plan.deliveries().toArray(PlannedDelivery[]::new);
        this.shapers = plan.deliveries().stream()
                .map(d -> new Shaper(layout, d.type(), d.rules(), context))
                .toArray(Shaper[]::new);
        this.deliveriesOf = new int[layout.recordTypes().size()][];
        for (int t = 0; t < deliveriesOf.length; t++) {
            int type = t;
            deliveriesOf[t] = IntStream.range(0, deliveries.length)
                    .filter(d -> deliveries[d].type() == type)
                    .toArray();
        }
        this.plain = filters.isEmpty() && doubles.isEmpty() && checks.isEmpty() && lanes.length == 0;
    }

    private int type(String name, String part) {
        int type = name == null ? headType : layout.typeIndex(name);
        if (type < 0) {
            throw new DefinitionException(part, "there is no record type " + name);
        }
        return type;
    }

    private Formula formula(int type, String text, ShapingContext context) {
        try {
            return Formula.of(text, new FormulaScope(layout, type, context.surroundings(), new Notices()));
        } catch (FormulaException e) {
            throw new DefinitionException(text, e.getMessage());
        }
    }

    private Formula condition(int type, String text, ShapingContext context) {
        Formula formula = formula(type, text, context);
        if (!formula.isCondition()) {
            throw new DefinitionException(
                    text, "is no condition: it gives " + formula.type().label());
        }
        return formula;
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
                                entry.number(), entry.line(), entry.offset(), entry.length(), because));
        return all;
    }

    /** The lanes that the document takes, a bit for each; 0 where there are none or it is refused. */
    public long laneBits() {
        return laneBits;
    }

    /** Remembers of a document what later ones have to know, without making anything of it. */
    public void remember() {
        setAside(stream.document());
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
                surveyor.takeLast();
            }
        }
        for (int i = 0; i < doubles.size(); i++) {
            if (doubles.get(i).last()) {
                doubles.set(i, surveyor.doubles.get(i));
            }
        }
    }

    private void takeLast() {
        OpenDocument document = stream.document();
        filter(document);
        for (Doubles d : doubles) {
            if (d.last()) {
                eachValued(document, d.type(), entry -> d.keys().put(at.values(d.type()), entry.line()));
            }
        }
        at.leave();
    }

    /** Decides what becomes of the stream's document, and writes its rows if it is not refused. */
    public void settle(RowSink out) {
        OpenDocument document = stream.document();
        laneBits = 0;
        if (!plain) {
            setAside(document);
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
        because = refused ? first.line() : 0;
        if (document.lacking() != null && !refused) {
            refused = true;
            because = document.lacking().line();
        }
        if (refused) {
            laneBits = 0;
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

    private void setAside(OpenDocument document) {
        filter(document);
        for (Doubles d : doubles) {
            eachValued(document, d.type(), entry -> {
                boolean second = d.last()
                        ? d.keys().line(at.values(d.type())) > entry.line()
                        : d.keys().add(at.values(d.type()), entry.line()) != 0;
                if (second) {
                    setAside(document, entry, d.why());
                }
            });
        }
    }

    private void filter(OpenDocument document) {
        for (Filter f : filters) {
            eachValued(document, f.type(), entry -> {
                try {
                    Datum holds = f.condition().eval(at);
                    if (!holds.isNull() && holds.number() == 1) {
                        setAside(document, entry, f.why());
                    }
                } catch (Misfit e) {
                    entry.add(List.of(Shaper.finding(
                            Severity.REJECT, e.code(), entry, null, e.getMessage(), "a value of " + f.text())));
                }
            });
        }
    }

    /** Stands at each good record of a type that is not set aside yet. */
    private void eachValued(OpenDocument document, int type, Consumer<Entry> doing) {
        if (!several) {
            Entry entry = document.get(0);
            if (entry.type() == type && !entry.refused() && entry.aside() == null) {
                doing.accept(entry);
            }
            return;
        }
        for (int i = 0; i < document.values().size(); i++) {
            at.standAt(i);
            Entry entry = document.entryOfValues(i);
            if (document.values().type(i) == type && !entry.refused() && entry.aside() == null) {
                current = i;
                doing.accept(entry);
            }
        }
    }

    /** Sets a record aside, and those that belong to it. */
    private void setAside(OpenDocument document, Entry entry, String why) {
        if (!several || current == 0) {
            document.setAside(why);
            return;
        }
        int end = document.values().endOf(current);
        for (int i = current; i < end; i++) {
            document.entryOfValues(i).setAside(why);
            document.values().leaveOut(i);
        }
    }

    private void standAtHead() {
        if (several) {
            at.standAt(0);
        }
    }

    private void checkAcross(OpenDocument document) {
        Entry head = head(document);
        if (checks.isEmpty() || head == null || document.aside()) {
            return;
        }
        standAtHead();
        for (Across across : checks) {
            try {
                Datum holds = across.condition().eval(at);
                if (!holds.isNull() && holds.number() == 0) {
                    head.add(List.of(breach(across, head)));
                }
            } catch (Misfit e) {
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
        standAtHead();
        for (int i = 0; i < lanes.length - 1; i++) {
            try {
                Datum holds = lanes[i].eval(at);
                if (!holds.isNull() && holds.number() == 1) {
                    laneBits |= 1L << i;
                    if (laneNames.take() == Lanes.Take.FIRST) {
                        break;
                    }
                }
            } catch (Misfit e) {
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
            if (!entry.refused() && (isHead ? !document.aside() : entry.aside() == null)) {
                shape(entry, document.values().type(i), record, out);
            }
        }
    }

    private void shape(Entry entry, int type, int record, RowSink out) {
        int[] makers = deliveriesOf[type];
        for (int d : makers) {
            if (lanes.length > 0 && !deliveries[d].takes(laneBits)) {
                continue;
            }
            int before = out.rows(d).rows();
            List<Finding> findings = shapers[d].shape(entry, at, out.rows(d));
            if (!findings.isEmpty()) {
                entry.add(findings);
            }
            if (out.rows(d).rows() > before) {
                entry.makesRows(true);
                out.made(d, record);
            }
        }
    }
}
