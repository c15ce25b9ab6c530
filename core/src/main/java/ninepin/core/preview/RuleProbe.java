package ninepin.core.preview;

import java.io.IOException;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.BooleanSupplier;
import java.util.stream.Stream;
import ninepin.core.bytes.ByteSource;
import ninepin.core.check.Finding;
import ninepin.core.check.RecordChecker;
import ninepin.core.document.DocumentFile;
import ninepin.core.document.DocumentPlan;
import ninepin.core.document.DocumentStream;
import ninepin.core.document.Documents;
import ninepin.core.document.Duplicates;
import ninepin.core.format.Formats;
import ninepin.core.formula.Datum;
import ninepin.core.formula.EvaluationException;
import ninepin.core.formula.Formula;
import ninepin.core.formula.FormulaException;
import ninepin.core.formula.FormulaScope;
import ninepin.core.formula.LookedUp;
import ninepin.core.formula.Notices;
import ninepin.core.formula.RecordContext;
import ninepin.core.job.Delivery;
import ninepin.core.job.Job;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Severity;
import ninepin.core.record.Opening;
import ninepin.core.record.Placed;
import ninepin.core.shape.Origin;
import ninepin.core.shape.RowBuffer;
import ninepin.core.shape.Rule;
import ninepin.core.shape.Shaper;
import ninepin.core.shape.ShapingContext;
import ninepin.core.usable.Usable;

/**
 * What there is to say of the rules of a delivery while they are written.
 *
 * @param record the number of the record that they were tried on, or 0 where the sample has none of the type
 * @param rules what there is to say of each rule, in order
 * @param names what formulas of the delivery can name
 * @param unread the fields of its record type that no rule of the job reads
 * @param conditions what there is to say of each condition that was asked about
 */
public record RuleProbe(
        long record, List<Said> rules, List<Named> names, List<String> unread, List<Condition> conditions) {

    /**
     * A field that a formula can name.
     *
     * @param name as the formula writes it
     * @param type the type of its values
     * @param value its value in the record; null for NULL
     * @param taken its name as a rule takes it; null where no rule can
     * @param below whether it belongs to a record below, so that only COUNT, SUM and the like can name it
     */
    public record Named(String name, String type, String value, String taken, boolean below) {}

    /**
     * What there is to say of a rule or formula.
     *
     * @param sentence the rule in words; null of a condition
     * @param type the type of a formula's values, such as {@code NUMERIC(8,2)}; null where it is none or cannot be read
     * @param value its value for the record; null for NULL and where it has none
     * @param problem why it cannot be followed or has no value for the record; null where it has
     * @param from the first character of a formula that the problem is about, from 0
     * @param to the character after its last
     * @param reads the fields that it reads, as a formula writes them
     */
    public record Said(
            String sentence, String type, String value, String problem, int from, int to, List<String> reads) {}

    /** A condition with what it can name. */
    public record Condition(Said said, List<Named> names) {}

    /**
     * A formula that is no rule: a condition of the job.
     *
     * @param of the record type from which it is seen; null for the first
     * @param formula its text; empty where nothing is typed yet
     * @param any whether it may give any value, rather than be a condition
     */
    public record Asked(String of, String formula, Boolean any) {
        public Asked {
            formula = formula == null ? "" : formula;
            any = any != null && any;
        }
    }

    /**
     * Tries the rules of a delivery on a record of a sample.
     *
     * @param sample the sample, or null where there is none
     * @param layout its layout, with all checks that apply
     * @param job the job
     * @param number the index of the delivery
     * @param wanted the number of the record; the first one of its type from there on is taken
     * @param asked conditions to be tried as well
     */
    public static RuleProbe ofDelivery(
            ByteSource sample,
            Layout layout,
            Job job,
            ShapingContext context,
            int number,
            long wanted,
            List<Asked> asked)
            throws IOException {
        Prober prober = new Prober(layout, job, context, sample);
        List<Condition> conditions = prober.conditions(asked, wanted);
        Grouped grouped = Grouped.of(job, layout, context, number, sample);
        if (grouped != null) {
            RuleProbe own =
                    ofDelivery(grouped.groups(), grouped.layout(), grouped.job(), grouped.context(), 0, 1, List.of());
            return new RuleProbe(own.record(), own.rules(), own.names(), own.unread(), conditions);
        }
        Delivery delivery = number < job.deliveries().size() ? job.deliveries().get(number) : null;
        int type = delivery == null ? 0 : Math.max(0, delivery.type(prober.shaped));
        Placed record = prober.find(type, wanted);
        List<Said> rules = new ArrayList<>();
        if (delivery != null) {
            for (Rule rule : delivery.shaping()) {
                rules.add(prober.rule(rule, type, record));
            }
        }
        List<Named> names = prober.names(type, record);
        return new RuleProbe(record == null ? 0 : record.number(), rules, names, prober.unread(type), conditions);
    }

    /** Tries rules that a delivery does not have yet on a record. */
    public static List<Said> of(
            ByteSource sample,
            Layout layout,
            Job job,
            ShapingContext context,
            int number,
            long wanted,
            List<Rule> rules)
            throws IOException {
        Grouped grouped = Grouped.of(job, layout, context, number, sample);
        if (grouped != null) {
            return of(grouped.groups(), grouped.layout(), grouped.job(), grouped.context(), 0, 1, rules);
        }
        Prober prober = new Prober(layout, job, context, sample);
        int type = Math.max(0, job.deliveries().get(number).type(prober.shaped));
        Placed record = rules.isEmpty() ? null : prober.find(type, wanted);
        return rules.stream().map(r -> prober.rule(r, type, record)).toList();
    }

    /** Tries one after the other. */
    private static final class Prober {
        private final Layout file;
        private final Layout shaped;
        private final Job job;
        private final ShapingContext context;
        private final DocumentPlan plan;
        private final ByteSource sample;
        private RecordContext at;

        Prober(Layout file, Job job, ShapingContext context, ByteSource sample) {
            this.file = file;
            this.job = job;
            this.sample = sample;
            Usable.Followed followed = Usable.plan(job, file, context);
            this.context = followed.context();
            this.plan = followed.plan();
            this.shaped = plan.shaped();
        }

        /** Tries conditions, reading the sample once for each record type that they are seen from. */
        List<Condition> conditions(List<Asked> asked, long wanted) throws IOException {
            Map<Integer, List<Integer>> byType = new TreeMap<>();
            for (int i = 0; i < asked.size(); i++) {
                byType.computeIfAbsent(typeOf(asked.get(i).of()), t -> new ArrayList<>())
                        .add(i);
            }
            Condition[] conditions = new Condition[asked.size()];
            for (Map.Entry<Integer, List<Integer>> of : byType.entrySet()) {
                Placed record = find(of.getKey(), wanted);
                List<Named> names = names(of.getKey(), record);
                for (int i : of.getValue()) {
                    conditions[i] = new Condition(formula(asked.get(i), of.getKey(), record), names);
                }
            }
            return List.of(conditions);
        }

        private FormulaScope scope(int type) {
            return new FormulaScope(shaped, type, context.surroundings(), new Notices());
        }

        /** Stands at the record of a type from a number on; null where there is none. */
        Placed find(int type, long wanted) throws IOException {
            Opening opening = sample == null ? null : Formats.open(sample, file);
            if (opening == null || opening.fault() != null) {
                return null;
            }
            RecordChecker checker =
                    new RecordChecker(file, opening, context.facts().today());
            try (DocumentFile ordered = DocumentFile.of(sample, opening, plan, p -> {});
                    DocumentStream stream = new DocumentStream(ordered.reader(opening.body()), checker, plan)) {
                return find(stream, type, wanted);
            }
        }

        private Placed find(DocumentStream stream, int type, long wanted) throws IOException {
            boolean anywhere = plan.gathering() != null && plan.gathering().anywhere();
            long number = anywhere ? Math.max(1, wanted) : wanted;
            at = stream.recordContext();
            at.lookUp(LookedUp.all(shaped, context.surroundings()));
            BooleanSupplier enough = Previewer.enough(stream);
            while (!enough.getAsBoolean()) {
                DocumentStream.Step step = stream.next();
                if (step == DocumentStream.Step.END || step == DocumentStream.Step.HALT) {
                    return null;
                }
                if (step == DocumentStream.Step.DOCUMENT
                        && (anywhere || stream.after().records() >= wanted)) {
                    Placed record = stream.standAt(type, number);
                    if (record != null) {
                        return record;
                    }
                }
            }
            return null;
        }

        Said rule(Rule rule, int type, Placed record) {
            String sentence = rule.sentence();
            if (!rule.fills()) {
                return new Said(sentence, null, null, null, 0, 0, List.of());
            }
            String kind = null;
            try {
                if (rule.take() instanceof Origin.OfFormula of) {
                    kind = Formula.of(of.formula(), scope(type)).type().label();
                }
                Shaper shaper = new Shaper(shaped, type, List.of(rule), context);
                if (rule.take() instanceof Origin.OfKey) {
                    // Nobody knows it before the row is there.
                    return new Said(sentence, "INTEGER", "given when the row is there", null, 0, 0, List.of());
                }
                List<String> reads =
                        shaper.reads(0).stream().map(FormulaScope.Place::shown).toList();
                if (record == null) {
                    return new Said(sentence, kind, null, null, 0, 0, reads);
                }
                RowBuffer row = new RowBuffer();
                List<Finding> findings = shaper.shape(record, at, row);
                String problem = findings.stream()
                        .filter(f -> f.severity() != Severity.NOTE)
                        .findFirst()
                        .map(f -> "No value here: " + f.found() + ".")
                        .orElse(null);
                String value = row.rows() == 0 ? null : row.row(0).get(0);
                return new Said(sentence, kind, value, problem, 0, 0, reads);
            } catch (FormulaException e) {
                return new Said(sentence, null, null, e.getMessage(), e.from(), e.to(), List.of());
            } catch (DefinitionException e) {
                return new Said(sentence, null, null, e.getMessage(), 0, 0, List.of());
            }
        }

        Said formula(Asked asked, int type, Placed record) {
            try {
                Formula formula = Formula.of(asked.formula(), scope(type));
                List<String> reads =
                        formula.fields().stream().map(FormulaScope.Place::shown).toList();
                String kind = formula.type().label();
                if (!asked.any() && !formula.isCondition()) {
                    return new Said(null, kind, null, "This is no condition: it gives " + kind + ".", 0, 0, reads);
                }
                Datum d = record == null ? null : formula.eval(at);
                String value = d == null || d.isNull() ? null : d.written(formula.type());
                return new Said(null, kind, value, null, 0, 0, reads);
            } catch (FormulaException e) {
                return new Said(null, null, null, e.getMessage(), e.from(), e.to(), List.of());
            } catch (EvaluationException e) {
                return new Said(
                        null, null, null, "No value here: " + e.getMessage() + ".", e.from(), e.to(), List.of());
            }
        }

        List<Named> names(int type, Placed record) {
            FormulaScope scope = scope(type);
            Stream<Named> near = scope.places().stream()
                    .map(p -> new Named(
                            p.shown(), p.type().label(), record == null ? null : at.text(p), p.taken(type), false));
            Stream<Named> below = scope.placesBelow().stream()
                    .map(p -> new Named(p.shown(), p.type().label(), null, null, true));
            Stream<Named> hosts = context.facts().hosts().entrySet().stream()
                    .map(h -> new Named(":" + h.getKey(), "CHARACTER VARYING", h.getValue(), null, false));
            return Stream.of(near, below, hosts).flatMap(n -> n).toList();
        }

        /** The fields that a rule reads; none where it cannot be followed. */
        private List<FormulaScope.Place> reads(Rule rule, int type) {
            try {
                return new Shaper(shaped, type, List.of(rule), context).reads(0);
            } catch (DefinitionException e) {
                return List.of();
            }
        }

        private int typeOf(String name) {
            return name == null ? shaped.headType() : Math.max(0, shaped.typeIndex(name));
        }

        private List<FormulaScope.Place> formulaReads(Documents.Seen formula) {
            try {
                return Formula.of(formula.text(), scope(typeOf(formula.of()))).fields();
            } catch (FormulaException e) {
                return List.of();
            }
        }

        /** The fields of a record type that no rule and no condition of the job reads. */
        List<String> unread(int type) {
            Set<String> read = new HashSet<>();
            for (Delivery delivery : job.deliveries()) {
                int of = delivery.type(shaped);
                for (Rule rule : of < 0 ? List.<Rule>of() : delivery.shaping()) {
                    if (rule.fills()) {
                        reads(rule, of).forEach(p -> read.add(p.recordType() + "/" + p.field()));
                    }
                }
            }
            for (Documents.Seen formula : job.formulas()) {
                formulaReads(formula).forEach(p -> read.add(p.recordType() + "/" + p.field()));
            }
            for (Duplicates duplicates : job.ofDocuments().duplicates()) {
                int of = typeOf(duplicates.of());
                duplicates
                        .key()
                        .forEach(k ->
                                read.add(of + "/" + shaped.recordTypes().get(of).indexOf(k)));
            }
            return java.util.stream.IntStream.range(
                            0, shaped.recordTypes().get(type).fields().size())
                    .filter(f -> !read.contains(type + "/" + f))
                    .mapToObj(
                            f -> shaped.recordTypes().get(type).fields().get(f).name())
                    .toList();
        }
    }
}
