package ninepin.core.ready;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Stream;
import ninepin.core.deliver.Destination;
import ninepin.core.deliver.TableDescription;
import ninepin.core.deliver.TableDescription.Column;
import ninepin.core.destination.Destinations;
import ninepin.core.destination.support.DestinationSupport;
import ninepin.core.formula.Formula;
import ninepin.core.formula.FormulaException;
import ninepin.core.formula.FormulaScope;
import ninepin.core.formula.Notices;
import ninepin.core.job.Delivery;
import ninepin.core.job.Job;
import ninepin.core.job.Shortcoming;
import ninepin.core.layout.Check;
import ninepin.core.layout.DataType;
import ninepin.core.layout.Field;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Severity;
import ninepin.core.shape.Origin;
import ninepin.core.shape.Rule;
import ninepin.core.shape.ShapingContext;
import ninepin.core.usable.RuleTypes;
import ninepin.core.usable.TypeFit;
import ninepin.core.usable.Usable;
import ninepin.core.value.ValueParser;

/** Checks one delivery of a job against its record type and the real target table. */
final class DeliveryReadiness {

    private final Job job;
    /** The layout of the documents. */
    private final Layout layout;

    private final ShapingContext context;
    private final int number;
    private final int type;
    private final Delivery delivery;
    private final List<Shortcoming> found = new ArrayList<>();

    /**
     * @param layout the layout of the documents
     * @param context what rules can take
     * @param number the index of the delivery in the job
     * @param type the index of its record type
     */
    DeliveryReadiness(Job job, Layout layout, ShapingContext context, int number, int type) {
        this.job = job;
        this.layout = layout;
        this.context = context;
        this.number = number;
        this.type = type;
        this.delivery = job.deliveries().get(number);
    }

    List<Shortcoming> check(Optional<TableDescription> table) {
        checkRules();
        checkDelivery(table);
        return found;
    }

    private void checkRules() {
        if (delivery.shaping().isEmpty()) {
            blocks(
                    4,
                    null,
                    "JOB-03",
                    "There is no rule yet: say for at least one target field where its value comes from.");
        }
        Set<String> asked = new TreeSet<>();
        job.asked().forEach(a -> asked.add(a.name()));
        for (Rule rule : delivery.shaping()) {
            List<String> missing = rule.take().fields().stream()
                    .filter(f -> field(f).isEmpty())
                    .toList();
            if (!missing.isEmpty()) {
                blocks(
                        4,
                        rule.target(),
                        "JOB-04",
                        rule.target() + " takes the field " + missing.get(0) + ", which neither the layout "
                                + layout.name() + " nor a look-up has.");
            } else if (rule.take() instanceof Origin.OfFormula of) {
                checkFormula(rule.target(), of);
            } else if (rule.fills()) {
                checkRule(rule);
            }
            if (rule.take() instanceof Origin.Asked of && !asked.contains(of.name())) {
                blocks(
                        4,
                        rule.target(),
                        "JOB-05",
                        rule.target() + " takes " + of.name() + ", which is not asked at start.");
            }
        }
    }

    private void checkFormula(String target, Origin.OfFormula take) {
        try {
            formula(take);
        } catch (FormulaException e) {
            blocks(
                    4,
                    target,
                    "JOB-19",
                    "The formula of " + target + ", character " + (e.from() + 1) + ": " + e.getMessage());
        }
    }

    private void checkRule(Rule rule) {
        String problem = Usable.problem(rule, layout, type, context);
        if (problem != null) {
            blocks(4, rule.target(), "JOB-26", "The rule of " + rule.target() + ": " + problem);
        }
    }

    /** The formula, typed. */
    private Formula formula(Origin.OfFormula take) {
        return Formula.of(take.formula(), scope());
    }

    private FormulaScope scope() {
        return new FormulaScope(layout, type, context.surroundings(), new Notices());
    }

    /** A field that a rule takes. */
    private Optional<Field> field(String name) {
        return scope().taken(name).map(FormulaScope.Place::of);
    }

    private void checkDelivery(Optional<TableDescription> described) {
        Destination place = delivery.to();
        if (place == null || !place.decided()) {
            blocks(
                    5,
                    null,
                    "JOB-06",
                    "There is no delivery yet: choose a table, an operation of an application, or a file and its layout.");
            return;
        }
        DestinationSupport.Head head = Destinations.of(job, delivery).check(delivery, number, described);
        found.addAll(head.found());
        if (head.fields() == null) {
            return;
        }
        if (head.adds()) {
            checkRequired(head.fields(), head.why());
        }
        for (Rule rule : delivery.shaping()) {
            checkTarget(rule, head.fields());
        }
    }

    private void checkRequired(TableDescription table, String why) {
        for (Column column : table.columns()) {
            boolean ruled = delivery.shaping().stream().anyMatch(r -> r.target().equalsIgnoreCase(column.name()));
            if (!ruled && column.needsRule()) {
                blocks(4, column.name(), "JOB-09", column.name() + " must have a value " + why + "and has no rule.");
            }
        }
    }

    private void checkTarget(Rule rule, TableDescription table) {
        Optional<Column> target = table.column(rule.target());
        if (target.isEmpty()) {
            boolean ofStatement = delivery.to().intoDatabase() && !delivery.to().fillsTable();
            blocks(
                    4,
                    rule.target(),
                    "JOB-14",
                    (ofStatement ? "The statement has no variable :" : "The table has no column ") + rule.target()
                            + ".");
            return;
        }
        Column column = target.get();
        if (column.generated()) {
            blocks(4, rule.target(), "JOB-15", rule.target() + " is computed by the database and takes no value.");
            return;
        }
        if (!rule.fills()) {
            checkDefault(rule, column);
            return;
        }
        Optional<DataType> type = new RuleTypes(scope()).of(rule);
        if (type.isEmpty()) {
            return;
        }
        TypeFit.Result fit = TypeFit.of(type.get(), column);
        if (fit != null && (fit.blocks() || !bounded(rule, column))) {
            Shortcoming shortcoming = new Shortcoming(
                    fit.blocks(),
                    4,
                    number,
                    rule.target(),
                    fit.blocks() ? "JOB-16" : "JOB-17",
                    rule.target() + " " + fit.message());
            found.add(shortcoming);
        }
        if (rule.take() instanceof Origin.OfField of && !column.nullable() && rule.whenBlank() == null) {
            if (!required(of.field())) {
                warns(
                        4,
                        rule.target(),
                        "JOB-18",
                        rule.target() + " must have a value, but " + of.field()
                                + " may be missing: such rows would be refused by the database. Add a check or \"when blank\".");
            }
        }
    }

    private void checkDefault(Rule rule, Column column) {
        if (column.needsRule()) {
            blocks(
                    4,
                    rule.target(),
                    "JOB-09",
                    rule.target() + " must have a value (NOT NULL), and the table has no default for it.");
        }
    }

    private boolean required(String field) {
        return checksOf(field).anyMatch(c -> c instanceof Check.Required);
    }

    /** Whether checks keep the values of a field short enough for the column, whatever its type allows. */
    private boolean bounded(Rule rule, Column column) {
        if (!(rule.take() instanceof Origin.OfField of)) {
            return false;
        }
        Field field = field(of.field()).orElseThrow();
        boolean shortDigits = !ValueParser.raw(field.type())
                && column.family() == TableDescription.Family.WHOLE
                && field.room() <= column.precision();
        return shortDigits || checksOf(of.field()).anyMatch(c -> fits(c, column));
    }

    private static boolean fits(Check check, Column column) {
        if (check instanceof Check.Length length && length.max() != null) {
            return length.max() <= column.length();
        }
        if (check instanceof Check.OneOf list) {
            return list.values().stream().allMatch(v -> v.length() <= column.length());
        }
        if (check instanceof Check.Range range && range.min() != null && range.max() != null) {
            int most = Math.max(range.min().length(), range.max().length());
            return column.family() == TableDescription.Family.WHOLE && most <= column.precision();
        }
        return false;
    }

    /** The checks of layout and job that keep a breach out of the target. */
    private Stream<Check> checksOf(String field) {
        Stream<Check> ofLayout = field(field).map(Field::checks).orElse(List.of()).stream();
        Stream<Check> ofJob = job.checks().stream()
                .filter(c -> layout.place(0, c.field()).isPresent()
                        && layout.place(0, c.field()).equals(layout.place(type, field)))
                .flatMap(c -> c.checks().stream());
        return Stream.concat(ofLayout, ofJob).filter(c -> c.severity() != Severity.NOTE);
    }

    private void blocks(int section, String subject, String code, String message) {
        found.add(new Shortcoming(true, section, number, subject, code, message));
    }

    private void warns(int section, String subject, String code, String message) {
        found.add(new Shortcoming(false, section, number, subject, code, message));
    }
}
