package ninepin.core.shape;

import java.math.BigDecimal;
import java.nio.charset.Charset;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Pattern;
import ninepin.core.formula.EvaluationException;
import ninepin.core.formula.Formula;
import ninepin.core.formula.FormulaException;
import ninepin.core.formula.FormulaScope;
import ninepin.core.formula.FormulaScope.Place;
import ninepin.core.formula.RecordContext;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.Shown;
import ninepin.core.value.Value;

/** Makes the writer of each rule, whatever its value comes from. */
final class Writers {

    private static final java.time.format.DateTimeFormatter SECONDS =
            java.time.format.DateTimeFormatter.ofPattern("uuuu-MM-dd HH:mm:ss");

    private final ShapingContext context;
    private final FormulaScope scope;

    /**
     * @param scope what a formula can name
     */
    Writers(ShapingContext context, FormulaScope scope) {
        this.context = context;
        this.scope = scope;
    }

    ColumnWriter of(Rule rule) {
        Origin take = rule.take();
        if (take instanceof Origin.OfField of) {
            Place place = place(rule, of.field());
            return ValueWriter.suits(rule)
                    ? new ValueWriter(place, rule)
                    : text(rule, (r, at) -> text(at, place), place);
        }
        if (take instanceof Origin.OfFormula of) {
            return formula(rule, of.formula());
        }
        if (take instanceof Origin.OfCode of) {
            return formula(rule, translation(of, rule));
        }
        if (take instanceof Origin.Joined of) {
            return joined(rule, of);
        }
        if (take instanceof Origin.Part of) {
            return part(rule, of);
        }
        if (take instanceof Origin.Amount of) {
            return amount(rule, of);
        }
        if (take instanceof Origin.Drawn of) {
            return text(rule, (r, at) -> Long.toString(context.sequences().draw(of.sequence(), of.start())));
        }
        if (take instanceof Origin.OfKey of) {
            if (!rule.touches().isEmpty() || rule.whenBlank() != null) {
                throw new DefinitionException(
                        "shaping." + rule.target() + ".touches",
                        "the key comes from the database: nothing is to be changed in it");
            }
            return text(rule, (r, at) -> rowOf(of.table()));
        }
        if (take instanceof Origin.Constant constant) {
            return fixed(rule, constant.value());
        }
        if (take instanceof Origin.Asked asked) {
            return fixed(rule, context.facts().asked().get(asked.name()));
        }
        return fact(rule, ((Origin.OfRun) take).fact());
    }

    /** Stands for the key until the database has given it: which row of the document it is, counted from 0. */
    private String rowOf(String table) {
        int row = context.made().latest(table);
        if (row < 0) {
            throw new EvaluationException("SHP-06", "no row of " + table + " that it belongs to");
        }
        return Integer.toString(row);
    }

    private ColumnWriter fact(Rule rule, RunFact fact) {
        RunFacts facts = context.facts();
        return switch (fact) {
            case TODAY -> fixed(rule, facts.today().toString());
            case STARTED_AT -> fixed(rule, SECONDS.format(facts.startedAt()));
            case RUN_NUMBER -> fixed(rule, Long.toString(facts.runNumber()));
            case FILE_NAME -> fixed(rule, facts.fileName());
            case ENVIRONMENT -> fixed(rule, facts.environment());
            case LINE_NUMBER -> text(rule, (record, at) -> Long.toString(record.line()));
        };
    }

    /** A text that is the same for every row, with its touches done beforehand. */
    private static ColumnWriter fixed(Rule rule, String text) {
        String touched;
        try {
            touched = new Touches(rule.touches()).apply(text);
        } catch (EvaluationException e) {
            throw new DefinitionException("shaping." + rule.target() + ".touches", "found " + e.getMessage());
        }
        return (record, at, out) -> out.textOr(touched, rule.whenBlank());
    }

    private static ColumnWriter text(Rule rule, TextWriter.Source source, Place... reads) {
        return new TextWriter(source, List.of(reads), rule);
    }

    private ColumnWriter formula(Rule rule, String formula) {
        try {
            return new FormulaWriter(Formula.of(formula, scope), rule);
        } catch (FormulaException e) {
            throw new DefinitionException("shaping." + rule.target() + ".take", e.getMessage());
        }
    }

    /** The formula that a translation by a code list stands for. */
    private String translation(Origin.OfCode of, Rule rule) {
        String list = quoted(of.list()) + (of.column() == null ? "" : "." + quoted(of.column()));
        String on = of.on() == null ? "" : " AT " + place(rule, of.on()).shown();
        return "TRANSLATE(" + place(rule, of.field()).shown() + " USING " + list + on + ")";
    }

    private static String quoted(String name) {
        return '"' + name.replace("\"", "\"\"") + '"';
    }

    private ColumnWriter joined(Rule rule, Origin.Joined of) {
        List<Place> places = of.fields().stream().map(f -> place(rule, f)).toList();
        return new TextWriter(
                (record, at) -> {
                    List<String> parts = new ArrayList<>();
                    for (Place place : places) {
                        String part = text(at, place);
                        if (part != null && !part.isBlank()) {
                            parts.add(part.strip());
                        }
                    }
                    return parts.isEmpty() ? null : String.join(of.with(), parts);
                },
                places,
                rule);
    }

    private ColumnWriter part(Rule rule, Origin.Part of) {
        Place place = place(rule, of.field());
        Pattern at = Pattern.compile(Pattern.quote(of.at()));
        return text(
                rule,
                (record, here) -> {
                    String whole = text(here, place);
                    if (whole == null) {
                        return null;
                    }
                    String[] parts = at.split(whole, -1);
                    int index = of.number() > 0 ? of.number() - 1 : parts.length + of.number();
                    return index < 0 || index >= parts.length ? null : parts[index].strip();
                },
                place);
    }

    private ColumnWriter amount(Rule rule, Origin.Amount of) {
        Place place = place(rule, of.field());
        boolean negative = of.side() == Origin.Side.NEGATIVE;
        return text(
                rule,
                (record, at) -> {
                    Value value = at.value(place.recordType(), place.field());
                    if (value.isNull()) {
                        return null;
                    }
                    if (value.kind() != Value.Kind.NUMBER && value.kind() != Value.Kind.BIG_NUMBER) {
                        throw new EvaluationException("SHP-01", Shown.quoted(text(at, place)) + ", which is no number");
                    }
                    BigDecimal amount = value.ordered();
                    return amount.signum() < 0 == negative ? amount.abs().toPlainString() : null;
                },
                place);
    }

    private Place place(Rule rule, String field) {
        return scope.taken(field)
                .orElseThrow(() -> new DefinitionException("shaping." + rule.target(), "there is no field " + field));
    }

    /** A value as the row would have it; null for NULL. */
    String text(RecordContext at, Place place) {
        Value value = at.value(place.recordType(), place.field());
        Charset charset = place.charset().charset();
        return switch (value.kind()) {
            case BOOLEAN -> value.number() == 1 ? "1" : "0";
            case TIMESTAMP -> value.text(charset).replace('T', ' ');
            default -> value.text(charset);
        };
    }
}
