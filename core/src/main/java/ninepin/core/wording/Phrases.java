package ninepin.core.wording;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import ninepin.core.document.SetAside;
import ninepin.core.document.Summary;
import ninepin.core.formula.Accumulator;
import ninepin.core.shape.Origin;
import ninepin.core.shape.Rule;
import ninepin.core.shape.RunFact;
import ninepin.core.shape.Touch;

/** The phrases that are understood, the more particular before the more general. */
final class Phrases {

    /** What an instruction stands for: rules, records that are left out, or a summary. */
    record Meaning(List<Rule> rules, SetAside aside, Summary summary) {
        static Meaning of(Rule... rules) {
            return new Meaning(List.of(rules), null, null);
        }
    }

    /** Makes what a phrase stands for. */
    @FunctionalInterface
    private interface Maker {
        Meaning make(Matcher m);
    }

    /**
     * A phrase.
     *
     * @param example an instruction of its kind
     */
    record Phrase(String example, Pattern pattern, Maker maker) {}

    private final Vocabulary words;
    private final Conditions conditions;
    private final List<Phrase> all = new ArrayList<>();

    Phrases(Vocabulary words) {
        this.words = words;
        this.conditions = new Conditions(words);
        add(
                "leave out records where amount is 0",
                "(?:leave out|set aside|skip|ignore|drop)(?: all)?(?: the)?"
                        + "(?: records?| rows?| lines?)? (?:where|when|if|whose) (.+)",
                this::leaveOut);
        add("in route, R7 becomes R07", "in (.+?),? (.+? becomes .+)", this::becomes);
        add(
                "join tanker and driver with a dash into crew",
                "(?:join|combine|concatenate|put together) (.+?)(?: (?:with|by|using) (.+?))?(?: (?:into|as|to) (.+))?",
                this::join);
        add("split amount into debit and credit", "split (.+?) (?:into|between|over) (.+?) and (.+)", this::amounts);
        add("split sample at a dash into bottle, rack", "split (.+?) (?:at|by|on) (.+?) into (.+)", this::split);
        add(
                "translate route by the code list routes into valley",
                "(?:translate|look up|map) (.+?) (?:by|in|with|using)"
                        + "(?: the)?(?: code)?(?: list)? (.+?)(?: (?:into|to) (.+))?",
                this::translate);
        add(
                "total the litres by farm",
                "(total|sum up|sum|add up|count|average|smallest|largest|lowest|highest|earliest|latest) (.+?)"
                        + " (?:by|per|for each|for every) (.+)",
                this::summary);
        add(
                "total the litres into litres_total",
                "(?:total|sum up|sum|add up) (.+?)(?: (?:into|as) (.+))?",
                this::total);
        add("number voucher_no from 1000", "number (.+?)(?: (?:from|starting at|starting with) (\\d+))?", this::number);
        add("write collected on as 23 Nov 2026", "(?:write|format|show) (.+?) (?:as|like) (.+)", this::write);
        add(
                "put name in upper case",
                "(?:write|put|make|turn|change)? ?(.+?) (?:in|into|to) (?:all )?"
                        + "(upper case|uppercase|capitals|lower case|lowercase|small letters)",
                this::casing);
        add("trim the remark", "trim (.+)", m -> touched(m.group(1), Touch.of(Touch.Kind.TRIM)));
        add(
                "drop leading zeros of sample",
                "(?:drop|remove|strip|cut off) (?:the )?leading zero(?:e?s)? (?:of|from|in) (.+)",
                m -> touched(m.group(1), Touch.of(Touch.Kind.LEADING_ZEROS)));
        add(
                "fill farm to 5 digits with zeros",
                "(?:pad|fill)(?: up)? (.+?) to (\\d+)(?: characters?| digits?| places?)?(?: with (.+))?",
                this::pad);
        add(
                "cut remark to 20 characters",
                "(?:cut|shorten|truncate) (.+?) to (\\d+)(?: characters?)?",
                m -> touched(m.group(1), new Touch(Touch.Kind.CUT, Integer.parseInt(m.group(2)), null)));
        add(
                "round value to 2 digits",
                "round (.+?)(?: to (\\d+)(?: digits?| places?| decimals?)?)?",
                m -> touched(
                        m.group(1),
                        new Touch(Touch.Kind.ROUND, m.group(2) == null ? 0 : Integer.parseInt(m.group(2)), null)));
        add(
                "when remark is blank use none",
                "(?:when|where|if) (.+?) is (?:blank|empty|missing),? (?:use|take|write) (.+)",
                this::whenBlank);
        add(
                "leave loaded_at to its default",
                "leave (.+?) to (?:its|the|the target's) default",
                m -> Meaning.of(new Rule(words.target(m.group(1)), new Origin.TargetDefault(), null, null)));
        add(
                "unit is always kg",
                "(?:set )?(.+?) (?:is|to) always (.+)",
                m -> Meaning.of(new Rule(
                        words.target(m.group(1)), new Origin.Constant(Vocabulary.bare(m.group(2))), null, null)));
        add(
                "loaded_on is the day of the run",
                "(?:set )?(.+?) (?:is|to|takes) (?:the )?(day of the run|run date|today"
                        + "|file name|name of the file|run number|number of the run|line number|line in the file|line|environment"
                        + "|start time|time of the run)",
                this::fact);
        add(
                "value is litres times 4.2",
                "(?:set )?(.+?) (?:is|to) (.+? (?:times|plus|minus|divided by) .+)",
                this::sum);
        add("farm is farm number", "(?:set )?(.+?) (?:is|takes|to|comes from) (.+)", this::take);
        add(
                "take farm number into farm",
                "(?:take|put|copy|move) (.+?) (?:into|to|as) (.+)",
                m -> Meaning.of(
                        new Rule(words.target(m.group(2)), new Origin.OfField(words.field(m.group(1))), null, null)));
    }

    private void add(String example, String pattern, Maker maker) {
        all.add(new Phrase(example, Pattern.compile("(?i)" + pattern), maker));
    }

    List<Phrase> all() {
        return all;
    }

    /** What a matched phrase stands for. */
    Meaning meaning(Phrase phrase, Matcher m) {
        return phrase.maker().make(m);
    }

    private Meaning leaveOut(Matcher m) {
        String condition = m.group(1);
        return new Meaning(List.of(), new SetAside(null, conditions.formula(condition), condition.strip()), null);
    }

    private static List<String> listed(String text) {
        List<String> parts = new ArrayList<>();
        for (String part : text.split("\\s*,\\s*(?:and\\s+)?|\\s+and\\s+")) {
            if (!part.isBlank()) {
                parts.add(part);
            }
        }
        return parts;
    }

    private Meaning join(Matcher m) {
        List<String> fields = listed(m.group(1)).stream().map(words::field).toList();
        if (fields.size() < 2) {
            throw new Misunderstood("Say at least two fields to join, such as \"join tanker and driver\".");
        }
        if (m.group(3) == null) {
            throw new Misunderstood("Say into which target field they go: … into crew.");
        }
        String with = m.group(2) == null ? " " : Vocabulary.sign(m.group(2));
        return Meaning.of(new Rule(words.target(m.group(3)), new Origin.Joined(fields, with), null, null));
    }

    private Meaning split(Matcher m) {
        String field = words.field(m.group(1));
        String at = Vocabulary.sign(m.group(2));
        List<Rule> rules = new ArrayList<>();
        for (String target : listed(m.group(3))) {
            rules.add(new Rule(words.target(target), new Origin.Part(field, at, rules.size() + 1), null, null));
        }
        return new Meaning(rules, null, null);
    }

    private Meaning amounts(Matcher m) {
        String field = words.field(m.group(1));
        return Meaning.of(
                new Rule(words.target(m.group(2)), new Origin.Amount(field, Origin.Side.POSITIVE), null, null),
                new Rule(words.target(m.group(3)), new Origin.Amount(field, Origin.Side.NEGATIVE), null, null));
    }

    private Meaning translate(Matcher m) {
        String field = words.field(m.group(1));
        String target = m.group(3) == null ? words.targetOf(field) : words.target(m.group(3));
        return Meaning.of(new Rule(target, new Origin.OfCode(field, words.list(m.group(2)), null, null), null, null));
    }

    private Meaning becomes(Matcher m) {
        String field = words.field(m.group(1));
        String name = words.inFormula(field);
        StringBuilder formula = new StringBuilder("CASE ").append(name);
        for (String one : m.group(2).split("\\s*(?:,|;|\\band\\b)\\s*(?=[^,;]+ becomes )")) {
            String[] sides = one.split("(?i)\\s+becomes\\s+", 2);
            if (sides.length < 2) {
                throw new Misunderstood("It is not said what " + one + " becomes.");
            }
            formula.append(" WHEN ")
                    .append(conditions.literal(field, sides[0]))
                    .append(" THEN ")
                    .append(conditions.literal(field, sides[1]));
        }
        formula.append(" ELSE ").append(name).append(" END");
        return Meaning.of(new Rule(words.targetOf(field), new Origin.OfFormula(formula.toString()), null, null));
    }

    private Meaning total(Matcher m) {
        if (!words.hasBelow()) {
            throw new Misunderstood(
                    "A total is over the lines of a document: gather records by a key first, or choose the delivery of the head.");
        }
        String field = words.below(m.group(1));
        String target = m.group(2) == null ? words.target(m.group(1)) : words.target(m.group(2));
        return Meaning.of(new Rule(target, new Origin.OfFormula("SUM(" + field + ")"), null, null));
    }

    /** Groups of the records with one total. */
    private Meaning summary(Matcher m) {
        Accumulator.Function take =
                switch (m.group(1).toLowerCase(Locale.ROOT)) {
                    case "count" -> Accumulator.Function.COUNT;
                    case "average" -> Accumulator.Function.AVG;
                    case "smallest", "lowest", "earliest" -> Accumulator.Function.MIN;
                    case "largest", "highest", "latest" -> Accumulator.Function.MAX;
                    default -> Accumulator.Function.SUM;
                };
        List<Summary.By> by = listed(m.group(3)).stream()
                .map(words::field)
                .map(f -> new Summary.By(plain(f), words.inFormula(f)))
                .toList();
        List<Summary.Total> totals = new ArrayList<>();
        boolean records = m.group(2).matches("(?i)(?:the |all )?(?:records?|rows?|lines?)");
        if (take == Accumulator.Function.COUNT && records) {
            totals.add(new Summary.Total("records", take, null, false));
        } else {
            for (String of : listed(m.group(2))) {
                String field = words.field(of);
                boolean sums = take == Accumulator.Function.SUM || take == Accumulator.Function.AVG;
                if (sums && !words.isNumber(field)) {
                    throw new Misunderstood("The values of " + field + " are no numbers to reckon with.");
                }
                boolean taken = by.stream().anyMatch(p -> p.name().equals(plain(field)));
                totals.add(new Summary.Total(
                        taken ? take + "_" + plain(field) : plain(field), take, words.inFormula(field), false));
            }
        }
        return new Meaning(List.of(), null, new Summary(by, totals));
    }

    private static String plain(String field) {
        return field.substring(field.indexOf('.') + 1);
    }

    private Meaning number(Matcher m) {
        String target = words.target(m.group(1));
        long from = m.group(2) == null ? 1 : Long.parseLong(m.group(2));
        return Meaning.of(new Rule(target, new Origin.Drawn(target, from), null, null));
    }

    private Meaning touched(String what, Touch touch) {
        Rule rule = words.ruleOf(what);
        List<Touch> touches = new ArrayList<>(rule.touches());
        touches.removeIf(t -> t.does() == touch.does());
        touches.add(touch);
        return Meaning.of(new Rule(rule.target(), rule.take(), touches, rule.whenBlank()));
    }

    private Meaning write(Matcher m) {
        String example = Vocabulary.bare(m.group(2));
        return Examples.datePattern(example)
                .map(p -> touched(m.group(1), new Touch(Touch.Kind.DATE, null, p)))
                .or(() -> Examples.numberExample(example)
                        .map(e -> touched(m.group(1), new Touch(Touch.Kind.NUMBER, null, e))))
                .orElseThrow(() -> new Misunderstood(
                        "\"" + example + "\" is no example of a date or number, such as 23 Nov 2026 or 1.234,50."));
    }

    private Meaning casing(Matcher m) {
        boolean lower = m.group(2).toLowerCase(Locale.ROOT).matches("lower.*|small.*");
        return touched(m.group(1), Touch.of(lower ? Touch.Kind.LOWER : Touch.Kind.UPPER));
    }

    private Meaning pad(Matcher m) {
        String with = m.group(3) == null ? "0" : Vocabulary.sign(m.group(3));
        return touched(m.group(1), new Touch(Touch.Kind.PAD_LEFT, Integer.parseInt(m.group(2)), with));
    }

    private Meaning whenBlank(Matcher m) {
        Rule rule = words.ruleOf(m.group(1));
        return Meaning.of(new Rule(rule.target(), rule.take(), rule.touches(), Vocabulary.bare(m.group(2))));
    }

    private Meaning fact(Matcher m) {
        String what = m.group(2).toLowerCase(Locale.ROOT);
        RunFact fact = what.contains("file name") || what.contains("of the file")
                ? RunFact.FILE_NAME
                : what.contains("number of the run") || what.contains("run number")
                        ? RunFact.RUN_NUMBER
                        : what.startsWith("line")
                                ? RunFact.LINE_NUMBER
                                : what.equals("environment")
                                        ? RunFact.ENVIRONMENT
                                        : what.contains("time") ? RunFact.STARTED_AT : RunFact.TODAY;
        return Meaning.of(new Rule(words.target(m.group(1)), new Origin.OfRun(fact), null, null));
    }

    private Meaning sum(Matcher m) {
        Matcher parts = Pattern.compile("(?i)(.+?) (times|plus|minus|divided by) (.+)")
                .matcher(m.group(2).strip());
        parts.matches();
        String sign =
                switch (parts.group(2).toLowerCase(Locale.ROOT)) {
                    case "times" -> "*";
                    case "plus" -> "+";
                    case "minus" -> "-";
                    default -> "/";
                };
        String formula = operand(parts.group(1)) + " " + sign + " " + operand(parts.group(3));
        return Meaning.of(new Rule(words.target(m.group(1)), new Origin.OfFormula(formula), null, null));
    }

    private String operand(String text) {
        String bare = Vocabulary.bare(text);
        return bare.matches("-?\\d+(\\.\\d+)?") ? bare : words.inFormula(words.field(bare));
    }

    private Meaning take(Matcher m) {
        return Meaning.of(new Rule(words.target(m.group(1)), new Origin.OfField(words.field(m.group(2))), null, null));
    }
}
