package ninepin.core.wording;

import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import ninepin.core.formula.FormulaScope;
import ninepin.core.layout.DataType;
import ninepin.core.preview.Likeness;
import ninepin.core.shape.Origin;
import ninepin.core.shape.Rule;

/** The names that an instruction can mean: fields, target fields, code lists; and words for signs. */
final class Vocabulary {

    private static final double ENOUGH = 0.6;

    private static final Map<String, String> SIGNS = Map.ofEntries(
            Map.entry("dash", "-"),
            Map.entry("hyphen", "-"),
            Map.entry("comma", ","),
            Map.entry("semicolon", ";"),
            Map.entry("colon", ":"),
            Map.entry("slash", "/"),
            Map.entry("space", " "),
            Map.entry("blank", " "),
            Map.entry("point", "."),
            Map.entry("dot", "."),
            Map.entry("underscore", "_"),
            Map.entry("pipe", "|"),
            Map.entry("bar", "|"),
            Map.entry("zero", "0"),
            Map.entry("zeros", "0"),
            Map.entry("zeroes", "0"),
            Map.entry("nothing", ""));

    private final FormulaScope scope;
    private final List<String> targets;
    private final List<Rule> rules;
    private final List<String> lists;

    /**
     * @param scope what formulas can name
     * @param targets the target fields
     * @param rules the rules there are
     * @param lists the code lists
     */
    Vocabulary(FormulaScope scope, List<String> targets, List<Rule> rules, List<String> lists) {
        this.scope = scope;
        this.targets = targets;
        this.rules = rules;
        this.lists = lists;
    }

    private static Optional<String> nearest(String wanted, List<String> names) {
        return names.stream()
                .filter(n -> likeness(wanted, n) >= ENOUGH)
                .max(Comparator.comparingDouble(n -> likeness(wanted, n)));
    }

    private static double likeness(String wanted, String name) {
        String own = name.substring(name.indexOf('.') + 1);
        return Math.max(Likeness.of(wanted, name, Set.of()), Likeness.of(wanted, own, Set.of()) - 0.01);
    }

    private static Misunderstood none(String what, String wanted, List<String> names) {
        String some = String.join(", ", names.subList(0, Math.min(8, names.size())));
        return new Misunderstood("There is no " + what + " like \"" + wanted + "\""
                + (names.isEmpty() ? "." : ". There are " + some + (names.size() > 8 ? " and others." : ".")));
    }

    /** The name by which a rule takes a field. */
    String field(String words) {
        String wanted = bare(words);
        return nearest(wanted, fields()).orElseThrow(() -> none("field", wanted, fields()));
    }

    boolean hasField(String words) {
        return nearest(bare(words), fields()).isPresent();
    }

    private List<String> fields() {
        return scope.taken();
    }

    /** A field as a formula names it. */
    String inFormula(String field) {
        return scope.taken(field).orElseThrow().shown();
    }

    DataType typeOf(String field) {
        return scope.taken(field).orElseThrow().of().type();
    }

    boolean isNumber(String field) {
        return typeOf(field) instanceof DataType.IntegerNumber || typeOf(field) instanceof DataType.Decimal;
    }

    boolean isText(String field) {
        return typeOf(field) instanceof DataType.CharacterVarying;
    }

    /** A field of the records below, as a formula names it. */
    String below(String words) {
        List<String> names =
                scope.placesBelow().stream().map(FormulaScope.Place::shown).toList();
        return nearest(bare(words), names).orElseThrow(() -> none("field of the lines", bare(words), names));
    }

    boolean hasBelow() {
        return !scope.placesBelow().isEmpty();
    }

    /** A target field. */
    String target(String words) {
        String wanted = bare(words);
        return nearest(wanted, targets).orElseThrow(() -> none("target field", wanted, targets));
    }

    boolean hasTarget(String words) {
        return nearest(bare(words), targets).isPresent();
    }

    /** The target field that an instruction about a field means when it names none. */
    String targetOf(String field) {
        return rules.stream()
                .filter(r -> r.take().fields().contains(field))
                .map(Rule::target)
                .findFirst()
                .or(() -> nearest(field, targets))
                .orElseThrow(() -> new Misunderstood("Say into which target field " + field + " goes: … into "
                        + (targets.isEmpty() ? "name" : targets.get(0))));
    }

    /** The rule that an instruction about a value goes on from: of a target field, or of the one its field goes to. */
    Rule ruleOf(String words) {
        boolean isTarget = hasTarget(words);
        Optional<Rule> there = rules.stream()
                .filter(r -> isTarget && r.target().equals(target(words)))
                .findFirst();
        if (there.isPresent()) {
            return there.get();
        }
        String field = field(words);
        return rules.stream()
                .filter(r -> r.take().fields().equals(List.of(field)))
                .findFirst()
                .orElseGet(() -> new Rule(targetOf(field), new Origin.OfField(field), null, null));
    }

    String list(String words) {
        String wanted = bare(words);
        return nearest(wanted, lists).orElseThrow(() -> none("code list", wanted, lists));
    }

    /** Words without an article and without quotes. */
    static String bare(String words) {
        String text = words.strip().replaceFirst("(?i)^(the|a|an|its)\\s+", "").strip();
        boolean quoted = text.length() > 1 && "\"'".indexOf(text.charAt(0)) >= 0 && text.endsWith(text.substring(0, 1));
        return quoted ? text.substring(1, text.length() - 1) : text;
    }

    /** A sign by its name, or the text itself. */
    static String sign(String words) {
        String text = bare(words);
        return words.strip().matches("[\"'].*") ? text : SIGNS.getOrDefault(text.toLowerCase(Locale.ROOT), text);
    }
}
