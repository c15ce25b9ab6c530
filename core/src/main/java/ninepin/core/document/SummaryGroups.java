package ninepin.core.document;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import ninepin.core.format.Formats;
import ninepin.core.formula.Accumulator;
import ninepin.core.formula.Datum;
import ninepin.core.formula.Formula;
import ninepin.core.formula.RecordContext;
import ninepin.core.formula.SqlType;
import ninepin.core.layout.Layout;
import ninepin.core.record.RecordWriter;
import ninepin.core.shape.ShapingContext;

/** The groups of a summary while records come. What a document adds counts once the document is kept. */
public final class SummaryGroups {

    /** The most groups and distinct values that are held. */
    public static final int MOST = 1_000_000;

    /** There are more groups than are held. */
    public static final class TooMany extends RuntimeException {
        private static final long serialVersionUID = 1L;

        TooMany() {
            super("The summary has more than " + MOST + " groups and distinct values. Group by less.");
        }
    }

    /** A record that waits for its document to be kept. */
    private record Waiting(List<String> key, Datum[] values) {}

    private final Layout layout;
    private final Formula[] by;
    private final Formula[] of;
    private final Summary summary;
    private final Map<List<String>, Accumulator[]> groups = new TreeMap<>(SummaryGroups::compare);
    private final List<Waiting> waiting = new ArrayList<>();
    private long held;

    /**
     * @param shaped the layout of the documents
     * @param type the index of the type of the records
     */
    SummaryGroups(Summary summary, Layout shaped, int type, ShapingContext context) {
        Conditions formulas = new Conditions(shaped, context);
        this.summary = summary;
        this.layout = summary.layout(shaped, type, context);
        this.by = summary.by().stream().map(p -> formulas.formula(type, p.is())).toArray(Formula[]::new);
        this.of = summary.totals().stream()
                .map(t -> t.of() == null ? null : formulas.formula(type, t.of()))
                .toArray(Formula[]::new);
    }

    /** By the first part in which keys differ; NULL first. */
    private static int compare(List<String> a, List<String> b) {
        for (int i = 0; i < a.size(); i++) {
            String x = a.get(i);
            String y = b.get(i);
            int order = x == null || y == null ? Boolean.compare(x != null, y != null) : x.compareTo(y);
            if (order != 0) {
                return order;
            }
        }
        return 0;
    }

    /** The layout of the groups. */
    Layout layout() {
        return layout;
    }

    /**
     * Takes the record that is stood at.
     *
     * @throws ninepin.core.formula.EvaluationException where a formula has no value
     */
    void take(RecordContext at) {
        List<String> key = new ArrayList<>(by.length);
        for (Formula part : by) {
            Datum d = part.eval(at);
            key.add(d.isNull() ? null : d.written(part.type()));
        }
        Datum[] values = new Datum[of.length];
        for (int t = 0; t < of.length; t++) {
            values[t] = of[t] == null ? null : of[t].eval(at).copy();
        }
        waiting.add(new Waiting(key, values));
    }

    /** Forgets what was taken since the last document. */
    void drop() {
        waiting.clear();
    }

    /** Counts what was taken since the last document. */
    void keep() {
        for (Waiting one : waiting) {
            Accumulator[] group = groups.computeIfAbsent(one.key(), k -> fresh());
            for (int t = 0; t < group.length; t++) {
                int before = group[t].held();
                if (one.values()[t] == null) {
                    group[t].count();
                } else {
                    group[t].take(one.values()[t]);
                }
                held += group[t].held() - before;
            }
        }
        waiting.clear();
        if (held + groups.size() > MOST) {
            throw new TooMany();
        }
    }

    private Accumulator[] fresh() {
        Accumulator[] group = new Accumulator[of.length];
        for (int t = 0; t < of.length; t++) {
            Summary.Total total = summary.totals().get(t);
            group[t] = new Accumulator(total.take(), of[t] == null ? null : of[t].type(), total.distinct());
        }
        return group;
    }

    /** The groups as a file in their layout, in the order of their keys. */
    byte[] file() {
        ByteArrayOutputStream bytes = new ByteArrayOutputStream();
        try (RecordWriter writer = Formats.writer(bytes, layout)) {
            for (Map.Entry<List<String>, Accumulator[]> group : groups.entrySet()) {
                List<String> values = new ArrayList<>();
                for (int p = 0; p < by.length; p++) {
                    values.add(asValue(group.getKey().get(p), by[p].type()));
                }
                for (int t = 0; t < of.length; t++) {
                    SqlType type = of[t] == null ? null : of[t].type();
                    values.add(asValue(group.getValue()[t].written(), type));
                }
                writer.write(0, values);
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        return bytes.toByteArray();
    }

    /** A text of SQL as {@link ninepin.core.value.Value#text} would have it. */
    private static String asValue(String written, SqlType type) {
        boolean timestamp = written != null && type != null && type.kind() == SqlType.Kind.TIMESTAMP;
        return timestamp ? written.replace(' ', 'T') : written;
    }
}
