package ninepin.core.destination.tables;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import ninepin.core.deliver.TableDelivery;
import ninepin.core.deliver.database.Dialect;
import ninepin.core.deliver.database.NewTable;
import ninepin.core.formula.FormulaScope;
import ninepin.core.formula.Notices;
import ninepin.core.job.Delivery;
import ninepin.core.job.Job;
import ninepin.core.layout.Check;
import ninepin.core.layout.DataType;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.Field;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Severity;
import ninepin.core.lookup.LookUpTables;
import ninepin.core.shape.Origin;
import ninepin.core.shape.Rule;
import ninepin.core.shape.ShapingContext;
import ninepin.core.usable.RuleTypes;
import ninepin.core.usable.Usable;

/**
 * The table that a delivery's rows fit into, made of its rules; where it has none yet, of the fields of its records.
 *
 * @param statement the statement that makes it
 * @param rules the rules of the delivery; those for its fields where it had none
 */
public record TableMaking(String statement, List<Rule> rules) {

    private static final int OPEN_LENGTH = 255;

    /**
     * Says how the table is made.
     *
     * @param file the layout of the file
     * @param number the index of the delivery, which names the table and, as a key, the columns of its primary key
     * @throws DefinitionException where there is nothing to make it of
     */
    public static TableMaking of(Job job, Layout file, ShapingContext all, int number, Dialect dialect) {
        Usable.FollowedDocuments followed = Usable.documents(job.ofDocuments(), file, all, u -> {});
        Layout shaped = followed.documents().shaped(file);
        Delivery delivery = job.deliveries().get(number);
        if (!(delivery.to() instanceof TableDelivery to) || to.table().isBlank() || !to.fillsTable()) {
            throw new DefinitionException("delivery.table", "name the table that is to be made");
        }
        int type = Math.max(0, delivery.type(shaped));
        boolean groups = delivery.summary() != null;
        Layout layout = groups ? delivery.summary().layout(shaped, type, followed.context()) : shaped;
        ShapingContext context = groups ? followed.context().with(LookUpTables.NONE) : followed.context();
        FormulaScope scope = new FormulaScope(layout, groups ? 0 : type, context.surroundings(), new Notices());
        List<Rule> rules = delivery.shaping().isEmpty() ? ofFields(layout, groups ? 0 : type) : delivery.shaping();
        return new TableMaking(dialect.create(table(to, rules, new RuleTypes(scope))), rules);
    }

    /** A rule for each field, under a name that needs no quotes in most databases. */
    private static List<Rule> ofFields(Layout layout, int type) {
        List<Rule> rules = new ArrayList<>();
        Set<String> names = new HashSet<>();
        int parent = layout.parentIndex(type);
        Stream<String> ofParent = parent < 0
                ? Stream.empty()
                : layout.recordTypes().get(parent).fields().stream()
                        .limit(1)
                        .map(f -> layout.recordTypes().get(parent).name() + "." + f.name());
        Stream<String> own = layout.recordTypes().get(type).fields().stream().map(Field::name);
        for (String field : Stream.concat(ofParent, own).toList()) {
            String name = column(field.substring(field.indexOf('.') + 1));
            for (int n = 2; !names.add(name); n++) {
                name = column(field) + "_" + n;
            }
            rules.add(new Rule(name, new Origin.OfField(field), null, null));
        }
        return rules;
    }

    /** {@code CollectedOn} and {@code Collected on} become {@code collected_on}. */
    private static String column(String field) {
        String words = field.replaceAll("(\\p{Ll})(\\p{Lu})", "$1_$2").replaceAll("[^\\p{L}\\p{Nd}]+", "_");
        String name = words.replaceAll("^_+|_+$", "").toLowerCase(Locale.ROOT);
        return name.isEmpty() || Character.isDigit(name.charAt(0)) ? "c_" + name : name;
    }

    private static NewTable table(TableDelivery to, List<Rule> rules, RuleTypes types) {
        Set<String> key = new HashSet<>();
        to.key().forEach(k -> key.add(k.toLowerCase(Locale.ROOT)));
        List<NewTable.Column> columns = rules.stream()
                .map(r -> new NewTable.Column(
                        r.target(),
                        types.of(r).orElseGet(() -> open(r)),
                        key.contains(r.target().toLowerCase(Locale.ROOT)) || required(r, types)))
                .toList();
        List<String> primary = columns.stream()
                .map(NewTable.Column::name)
                .filter(c -> key.contains(c.toLowerCase(Locale.ROOT)))
                .toList();
        if (primary.size() != key.size()) {
            throw new DefinitionException("delivery.key", "each column of the key needs a rule: " + to.key());
        }
        return new NewTable(to.table(), columns, primary);
    }

    private static DataType open(Rule rule) {
        int length = rule.take() instanceof Origin.Constant of
                ? Math.max(1, of.value().length())
                : OPEN_LENGTH;
        return rule.take() instanceof Origin.Drawn
                ? new DataType.IntegerNumber()
                : new DataType.CharacterVarying(Math.max(
                        length, rule.whenBlank() == null ? 0 : rule.whenBlank().length()));
    }

    private static boolean required(Rule rule, RuleTypes types) {
        Optional<Field> field = rule.take() instanceof Origin.OfField of ? types.field(of.field()) : Optional.empty();
        return field.map(Field::checks).orElse(List.of()).stream()
                .anyMatch(c -> c instanceof Check.Required && c.severity() != Severity.NOTE);
    }
}
