package ninepin.core.job;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Stream;
import ninepin.core.deliver.TableDelivery;
import ninepin.core.deliver.TableDescription;
import ninepin.core.deliver.TableDescription.Column;
import ninepin.core.layout.Check;
import ninepin.core.layout.DataType;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.Field;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Severity;
import ninepin.core.shape.Origin;
import ninepin.core.shape.Rule;

/** Checks a job whole, against its layout and the real target table, before it may run. */
public final class Readiness {

    private final Job job;
    private final Layout layout;
    private final List<Shortcoming> found = new ArrayList<>();

    private Readiness(Job job, Layout layout) {
        this.job = job;
        this.layout = layout;
    }

    /**
     * Everything that keeps the job from running, and what its author should know.
     *
     * @param table the target table as the real database describes it; empty when it is not there
     */
    public static List<Shortcoming> check(Job job, Layout layout, Optional<TableDescription> table) {
        Readiness readiness = new Readiness(job, layout);
        readiness.checkPickUp();
        readiness.checkChecks();
        readiness.checkRules();
        readiness.checkDelivery(table);
        return readiness.found;
    }

    /** Whether a job with these shortcomings may run. */
    public static boolean mayRun(List<Shortcoming> shortcomings) {
        return shortcomings.stream().noneMatch(Shortcoming::blocks);
    }

    private void checkPickUp() {
        List<String> missing = job.missingAskedValues(Map.of());
        if (job.pickUp() != null && !missing.isEmpty()) {
            blocks(
                    1,
                    missing.get(0),
                    "JOB-01",
                    "The schedule cannot answer what is asked at start: give " + String.join(", ", missing)
                            + " a value.");
        }
    }

    private void checkChecks() {
        try {
            job.withChecks(layout);
        } catch (DefinitionException e) {
            blocks(3, e.part(), "JOB-02", e.getMessage());
        }
    }

    private void checkRules() {
        if (job.shaping().isEmpty()) {
            blocks(
                    4,
                    null,
                    "JOB-03",
                    "There is no rule yet: say for at least one target field where its value comes from.");
        }
        Set<String> asked = new TreeSet<>();
        job.asked().forEach(a -> asked.add(a.name()));
        for (Rule rule : job.shaping()) {
            if (rule.take() instanceof Origin.OfField of
                    && layout.field(of.field()).isEmpty()) {
                blocks(
                        4,
                        rule.target(),
                        "JOB-04",
                        rule.target() + " takes the field " + of.field() + ", which the layout " + layout.name()
                                + " does not have.");
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

    private void checkDelivery(Optional<TableDescription> described) {
        TableDelivery delivery = job.delivery();
        if (delivery == null) {
            blocks(5, null, "JOB-06", "There is no delivery yet: choose a connection and a table.");
            return;
        }
        if (described.isEmpty()) {
            blocks(
                    5,
                    delivery.table(),
                    "JOB-07",
                    "There is no table " + delivery.table() + " in " + delivery.connection() + ".");
            return;
        }
        TableDescription table = described.get();
        if (!"InnoDB".equalsIgnoreCase(table.engine())) {
            blocks(
                    5,
                    delivery.table(),
                    "JOB-08",
                    "The table is kept by the engine " + table.engine()
                            + ", which has no transactions: a restart could load rows twice. Use InnoDB.");
        }
        checkKey(delivery, table);
        for (Column column : table.columns()) {
            boolean ruled = job.shaping().stream().anyMatch(r -> r.target().equalsIgnoreCase(column.name()));
            if (!ruled && column.needsRule()) {
                blocks(
                        4,
                        column.name(),
                        "JOB-09",
                        column.name() + " must have a value (NOT NULL, no default) and has no rule.");
            }
        }
        for (Rule rule : job.shaping()) {
            checkTarget(rule, table);
        }
    }

    private void checkKey(TableDelivery delivery, TableDescription table) {
        if (delivery.mode() != TableDelivery.Mode.ADD_OR_CHANGE) {
            return;
        }
        Set<String> key = lower(delivery.key());
        for (String column : delivery.key()) {
            if (table.column(column).isEmpty()) {
                blocks(5, column, "JOB-10", "The key names " + column + ", which the table does not have.");
            } else if (job.shaping().stream().noneMatch(r -> r.target().equalsIgnoreCase(column))) {
                blocks(5, column, "JOB-11", "The key column " + column + " has no rule.");
            }
        }
        boolean unique = table.uniqueKeys().stream().anyMatch(k -> lower(k).equals(key));
        if (!unique) {
            blocks(
                    5,
                    String.join(", ", delivery.key()),
                    "JOB-12",
                    "No unique index of " + delivery.table() + " covers exactly " + String.join(", ", delivery.key())
                            + ": rows could be changed that are not meant. "
                            + (table.uniqueKeys().isEmpty()
                                    ? "The table has no unique index."
                                    : "Unique are: " + keysInWords(table) + "."));
            return;
        }
        for (List<String> other : table.uniqueKeys()) {
            boolean fed = other.stream().allMatch(c -> job.shaping().stream()
                    .anyMatch(r -> r.target().equalsIgnoreCase(c)));
            if (!lower(other).equals(key) && fed) {
                warns(
                        5,
                        String.join(", ", other),
                        "JOB-13",
                        "The table has another unique index, on " + String.join(", ", other)
                                + ": a row that collides there changes that row.");
            }
        }
    }

    private static String keysInWords(TableDescription table) {
        return table.uniqueKeys().stream()
                .map(k -> String.join(", ", k))
                .reduce((a, b) -> a + "; " + b)
                .orElse("");
    }

    private static Set<String> lower(List<String> names) {
        Set<String> set = new TreeSet<>();
        names.forEach(n -> set.add(n.toLowerCase()));
        return set;
    }

    private void checkTarget(Rule rule, TableDescription table) {
        Optional<Column> target = table.column(rule.target());
        if (target.isEmpty()) {
            blocks(4, rule.target(), "JOB-14", "The table has no column " + rule.target() + ".");
            return;
        }
        Column column = target.get();
        if (column.generated()) {
            blocks(4, rule.target(), "JOB-15", rule.target() + " is computed by the database and takes no value.");
            return;
        }
        Optional<DataType> type = typeOf(rule);
        if (type.isEmpty()) {
            return;
        }
        TypeFit.Result fit = TypeFit.of(type.get(), column);
        if (fit != null && (fit.blocks() || !bounded(rule, column))) {
            Shortcoming shortcoming = new Shortcoming(
                    fit.blocks(),
                    4,
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

    private boolean required(String field) {
        return checksOf(field).anyMatch(c -> c instanceof Check.Required);
    }

    /** Whether checks keep the values of a field short enough for the column, whatever its type allows. */
    private boolean bounded(Rule rule, Column column) {
        return rule.take() instanceof Origin.OfField of && checksOf(of.field()).anyMatch(c -> fits(c, column));
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
        Stream<Check> ofLayout = layout.field(field).map(Field::checks).orElse(List.of()).stream();
        Stream<Check> ofJob =
                job.checks().stream().filter(c -> c.field().equals(field)).flatMap(c -> c.checks().stream());
        return Stream.concat(ofLayout, ofJob).filter(c -> c.severity() != Severity.NOTE);
    }

    private Optional<DataType> typeOf(Rule rule) {
        Origin take = rule.take();
        if (take instanceof Origin.OfField of) {
            return layout.field(of.field()).map(Field::type);
        }
        if (take instanceof Origin.OfRun of) {
            switch (of.fact()) {
                case TODAY:
                    return Optional.of(new DataType.Date("yyyy-MM-dd"));
                case FILE_NAME:
                    return Optional.of(new DataType.CharacterVarying(255));
                default:
                    return Optional.of(new DataType.IntegerNumber());
            }
        }
        return Optional.empty();
    }

    private void blocks(int section, String subject, String code, String message) {
        found.add(new Shortcoming(true, section, subject, code, message));
    }

    private void warns(int section, String subject, String code, String message) {
        found.add(new Shortcoming(false, section, subject, code, message));
    }
}
