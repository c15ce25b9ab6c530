package ninepin.core.preview;

import java.io.IOException;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import ninepin.core.bytes.ByteSource;
import ninepin.core.deliver.TableDescription;
import ninepin.core.deliver.TableDescription.Column;
import ninepin.core.deliver.TableDescription.Family;
import ninepin.core.document.DocumentPlan;
import ninepin.core.formula.FormulaScope;
import ninepin.core.formula.Notices;
import ninepin.core.job.Delivery;
import ninepin.core.job.Job;
import ninepin.core.layout.Field;
import ninepin.core.layout.Layout;
import ninepin.core.shape.Origin;
import ninepin.core.shape.Rule;
import ninepin.core.shape.RunFact;
import ninepin.core.shape.ShapingContext;
import ninepin.core.usable.TypeFit;
import ninepin.core.usable.Usable;

/**
 * Proposes rules for the target fields that have none: by name, by type, and by what the values of a sample say. What is
 * set already is never touched.
 */
public final class RuleProposer {

    /** How sure a proposal is. */
    public enum Sureness {
        SURE,
        LIKELY,
        UNSURE;

        @Override
        public String toString() {
            return name().toLowerCase(Locale.ROOT);
        }
    }

    /**
     * A proposed rule.
     *
     * @param rule the rule
     * @param sentence the rule in words
     * @param sureness how sure it is
     * @param why what speaks for it, and what against it
     */
    public record Proposed(Rule rule, String sentence, Sureness sureness, String why) {}

    /** The values of a sample that are looked at. */
    private static final int MOST = 2_000;

    private static final double SAME = 0.9;
    private static final double NEAR = 0.6;
    private static final double FAR = 0.4;

    /** What target fields are called that take a fact of the run. */
    private static final Map<RunFact, List<String>> FACTS = Map.of(
            RunFact.FILE_NAME, List.of("source_file", "file_name", "input_file", "from_file"),
            RunFact.RUN_NUMBER, List.of("run_number", "loaded_by_run", "load_run", "batch_number"),
            RunFact.TODAY, List.of("loaded_on", "load_date", "run_date", "imported_on"),
            RunFact.STARTED_AT, List.of("loaded_at", "load_time", "imported_at", "created_at"),
            RunFact.LINE_NUMBER, List.of("line_number", "source_line", "file_line"));

    /** A field that a target field might take. */
    private record Match(Column column, String field, double likeness, TypeFit.Result fit, String against) {
        double score() {
            return likeness - (fit == null ? 0 : 0.05) - (against == null ? 0 : 0.25);
        }
    }

    private final FormulaScope scope;
    private final Map<String, List<String>> values;
    private final Set<String> around = new HashSet<>();

    private RuleProposer(
            Layout shaped, int type, String table, ShapingContext context, Map<String, List<String>> values) {
        this.scope = new FormulaScope(shaped, type, context.surroundings(), new Notices());
        this.values = values;
        around.addAll(Likeness.words(shaped.recordTypes().get(type).name()));
        around.addAll(Likeness.words(table));
    }

    /**
     * Proposes rules.
     *
     * @param job the job
     * @param layout its layout, with all checks
     * @param number the index of the delivery
     * @param table its table
     * @param sample a sample, or null
     */
    public static List<Proposed> of(
            Job job, Layout layout, int number, TableDescription table, ByteSource sample, ShapingContext context)
            throws IOException {
        Grouped grouped = Grouped.of(job, layout, context, number, sample);
        if (grouped != null) {
            return of(grouped.job(), grouped.layout(), 0, table, grouped.groups(), grouped.context());
        }
        Usable.Followed followed = Usable.plan(job, layout, context);
        DocumentPlan plan = followed.plan();
        Delivery delivery = job.deliveries().get(number);
        int type = Math.max(0, delivery.type(plan.shaped()));
        RuleProposer proposer = new RuleProposer(
                plan.shaped(),
                type,
                table.name(),
                followed.context(),
                SampleValues.of(sample, plan, type, followed.context(), MOST));
        Set<String> ruled = new HashSet<>();
        Set<String> used = new HashSet<>();
        delivery.shaping().forEach(r -> {
            ruled.add(r.target().toLowerCase(Locale.ROOT));
            used.addAll(r.take().fields());
        });
        List<Column> open = table.columns().stream()
                .filter(c -> !c.generated() && !ruled.contains(c.name().toLowerCase(Locale.ROOT)))
                .toList();
        return proposer.propose(open, used);
    }

    private List<Proposed> propose(List<Column> open, Set<String> used) {
        List<Match> matches = new ArrayList<>();
        for (Column column : open) {
            for (String field : scope.taken()) {
                double likeness = Likeness.of(column.name(), field.substring(field.indexOf('.') + 1), around)
                        - (field.contains(".") ? 0.02 : 0)
                        - (used.contains(field) ? 0.1 : 0);
                if (likeness >= FAR) {
                    Field of = scope.taken(field).orElseThrow().of();
                    TypeFit.Result fit = TypeFit.of(of.type(), column);
                    if (fit == null || !fit.blocks()) {
                        matches.add(new Match(column, field, likeness, fit, against(column, field)));
                    }
                }
            }
        }
        matches.sort(Comparator.comparingDouble(Match::score).reversed());
        Set<String> columns = new HashSet<>();
        Set<String> fields = new HashSet<>();
        List<Proposed> proposed = new ArrayList<>();
        for (Match match : matches) {
            boolean own = fields.add(match.field()) || match.likeness() >= SAME;
            if (own && match.score() >= FAR && !columns.contains(match.column().name())) {
                columns.add(match.column().name());
                proposed.add(proposed(match));
            }
        }
        for (Column column : open) {
            if (!columns.contains(column.name())) {
                fact(column, proposed);
            }
        }
        List<String> order = open.stream().map(Column::name).toList();
        proposed.sort(Comparator.comparingInt(p -> order.indexOf(p.rule().target())));
        return proposed;
    }

    private Proposed proposed(Match match) {
        Rule rule = new Rule(match.column().name(), new Origin.OfField(match.field()), null, null);
        Sureness sureness = match.against() != null || match.likeness() < NEAR
                ? Sureness.UNSURE
                : match.likeness() >= SAME ? Sureness.SURE : Sureness.LIKELY;
        long seen = values.getOrDefault(match.field(), List.of()).stream()
                .distinct()
                .count();
        String name = match.likeness() >= 1
                ? "The same name"
                : match.likeness() >= SAME ? "The same words" : match.likeness() >= NEAR ? "A near name" : "A far name";
        String fit = match.fit() == null
                ? "; the type fits"
                : "; " + match.column().name() + " " + match.fit().message();
        String said = match.against() != null
                ? match.against()
                : seen == 0
                        ? ""
                        : "; " + (seen == 1 ? "the value" : "all " + seen + " different values") + " of the sample "
                                + (seen == 1 ? "fits" : "fit");
        return new Proposed(rule, rule.sentence(), sureness, (name + fit + said).replaceAll("\\.;", ";"));
    }

    /** The values of the sample that speak against a match, or null. */
    private String against(Column column, String field) {
        List<String> seen = values.getOrDefault(field, List.of());
        List<String> wrong = seen.stream().filter(v -> !fits(v, column)).toList();
        return wrong.isEmpty()
                ? null
                : "; " + wrong.size() + " of " + seen.size() + " values do not fit, such as \"" + wrong.get(0) + "\"";
    }

    private static boolean fits(String value, Column column) {
        if (column.family() == Family.TEXT) {
            return column.length() <= 0 || value.codePointCount(0, value.length()) <= column.length();
        }
        if (column.family() == Family.WHOLE) {
            return value.matches("true|false|-?\\d{1,19}");
        }
        return true;
    }

    private static void fact(Column column, List<Proposed> proposed) {
        for (Map.Entry<RunFact, List<String>> fact : FACTS.entrySet()) {
            for (String name : fact.getValue()) {
                if (Likeness.of(column.name(), name, Set.of()) >= SAME) {
                    Rule rule = new Rule(column.name(), new Origin.OfRun(fact.getKey()), null, null);
                    proposed.add(new Proposed(
                            rule,
                            rule.sentence(),
                            Sureness.LIKELY,
                            "No field has such a name; target fields called so mostly take this"));
                    return;
                }
            }
        }
    }
}
