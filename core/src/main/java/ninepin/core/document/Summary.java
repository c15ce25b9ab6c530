package ninepin.core.document;

import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;
import ninepin.core.formula.Accumulator;
import ninepin.core.formula.Formula;
import ninepin.core.formula.SqlType;
import ninepin.core.layout.BlankRows;
import ninepin.core.layout.DataType;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.Delimited;
import ninepin.core.layout.Field;
import ninepin.core.layout.FileCharset;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Names;
import ninepin.core.layout.RecordType;
import ninepin.core.shape.ShapingContext;

/**
 * Records of a type grouped, with totals: what a delivery takes instead of the records themselves. Its groups are
 * records of a layout of their own, which has the parts of the key and the totals as fields.
 *
 * @param by by what records are grouped; empty for one group of all
 * @param totals what is reckoned for each group
 */
public record Summary(List<By> by, List<Total> totals) {

    /** The name of the record type of groups. */
    public static final String GROUP = "group";

    /**
     * A part of the key of a group.
     *
     * @param name the name of the field
     * @param is a formula, seen from the record
     */
    public record By(String name, String is) {
        public By {
            Names.requireText("summary.by.name", name);
            if (is == null || is.isBlank()) {
                throw new DefinitionException("summary.by." + name, "has no formula");
            }
        }
    }

    /**
     * A total.
     *
     * @param name the name of the field
     * @param take what is reckoned
     * @param of a formula, seen from the record; null to count the records
     * @param distinct whether each value is taken once
     */
    public record Total(String name, Accumulator.Function take, String of, boolean distinct) {
        public Total {
            Names.requireText("summary.totals.name", name);
            take = take == null ? Accumulator.Function.COUNT : take;
            of = of == null || of.isBlank() ? null : of;
            if (of == null && (take != Accumulator.Function.COUNT || distinct)) {
                throw new DefinitionException("summary.totals." + name, "says of what");
            }
        }
    }

    public Summary {
        by = by == null ? List.of() : List.copyOf(by);
        totals = totals == null ? List.of() : List.copyOf(totals);
        if (by.isEmpty() && totals.isEmpty()) {
            throw new DefinitionException("summary", "groups by something or reckons something");
        }
    }

    /**
     * The layout of the groups.
     *
     * @param shaped the layout of the documents
     * @param type the index of the type of the records
     */
    public Layout layout(Layout shaped, int type, ShapingContext context) {
        Conditions formulas = new Conditions(shaped, context);
        List<Field> fields = new ArrayList<>();
        for (By part : by) {
            fields.add(field(part.name(), formulas.formula(type, part.is()).type()));
        }
        for (Total total : totals) {
            fields.add(field(
                    total.name(),
                    Accumulator.type(total.take(), total.of() == null ? null : type(formulas, type, total))));
        }
        Delimited format = new Delimited(FileCharset.UTF_8, ",", '"', true, 0, BlankRows.SKIP, null, null);
        return new Layout("summary", null, format, List.of(new RecordType(GROUP, fields)));
    }

    private static SqlType type(Conditions formulas, int type, Total total) {
        Formula formula = formulas.formula(type, total.of());
        if (!Accumulator.takes(total.take(), formula.type())) {
            throw new DefinitionException(
                    "summary.totals." + total.name(),
                    total.take() + " wants numbers, and " + total.of().strip() + " gives "
                            + formula.type().label());
        }
        return formula.type();
    }

    private static Field field(String name, SqlType type) {
        DataType of = type.asField()
                .orElseThrow(() -> new DefinitionException(
                        "summary." + name, "gives " + type.label() + ", which no field can hold"));
        return Field.under(name, of);
    }

    /** The names of its fields, those of the key first. */
    public List<String> names() {
        return Stream.concat(by.stream().map(By::name), totals.stream().map(Total::name))
                .toList();
    }

    /** What it is, in words. */
    public String sentence() {
        List<String> reckoned = totals.stream()
                .map(t -> t.of() == null ? "the number of records" : "the " + words(t.take()) + " of " + t.of())
                .toList();
        String key = String.join(" and ", by.stream().map(By::is).toList());
        return "A delivery of its own, when the file is complete: for "
                + (key.isEmpty() ? "all records" : "each " + key)
                + (reckoned.isEmpty() ? " one row" : " " + String.join(", ", reckoned));
    }

    private static String words(Accumulator.Function take) {
        return switch (take) {
            case COUNT -> "number";
            case SUM -> "total";
            case MIN -> "smallest";
            case MAX -> "largest";
            case AVG -> "average";
        };
    }

    /** The formulas that it is made of. */
    public List<String> formulas() {
        List<String> all = new ArrayList<>(by.stream().map(By::is).toList());
        totals.stream().filter(t -> t.of() != null).forEach(t -> all.add(t.of()));
        return all;
    }
}
