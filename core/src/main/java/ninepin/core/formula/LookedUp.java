package ninepin.core.formula;

import java.util.ArrayList;
import java.util.List;
import java.util.stream.IntStream;
import ninepin.core.formula.SqlType.Kind;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.Layout;
import ninepin.core.lookup.KeyText;
import ninepin.core.lookup.LookUp;
import ninepin.core.lookup.LookUpTable;
import ninepin.core.value.Value;

/** What a look-up finds for the record that is looked at. Belongs to one {@link RecordContext}. */
public final class LookedUp {

    private final LookUpTable table;
    private final int type;
    private final boolean[] dependsOn;
    private final Formula[] key;
    private final KeyText text = new KeyText();

    private boolean found;
    private Value[] values;
    private boolean missing;

    private LookedUp(LookUpTable table, Layout layout, int type, Formula[] key) {
        this.table = table;
        this.type = type;
        this.key = key;
        this.dependsOn = new boolean[layout.recordTypes().size()];
        for (int t = type; t >= 0; t = layout.parentIndex(t)) {
            dependsOn[t] = true;
        }
    }

    /** The record type that a look-up is made for; -1 where there is none of its name. */
    public static int type(LookUpTable table, Layout layout) {
        String of = table.lookUp().of();
        return of == null ? layout.headType() : layout.typeIndex(of);
    }

    /**
     * All look-ups, in their order.
     *
     * @param layout the layout of the documents
     * @throws DefinitionException where the key of one does not fit
     */
    public static List<LookedUp> all(Layout layout, Surroundings around) {
        List<LookedUp> all = new ArrayList<>();
        for (int l = 0; l < around.lookUps().tables().size(); l++) {
            all.add(of(layout, around, l));
        }
        return all;
    }

    /**
     * One look-up.
     *
     * @param index its place; its key may name fields of those before it
     * @throws DefinitionException where its key does not fit
     */
    public static LookedUp of(Layout layout, Surroundings around, int index) {
        LookUpTable table = around.lookUps().tables().get(index);
        LookUp lookUp = table.lookUp();
        String part = "lookUps." + lookUp.name();
        int type = type(table, layout);
        if (type < 0) {
            throw new DefinitionException(part, "there is no record type " + lookUp.of());
        }
        if (layout.recordTypes().stream().anyMatch(t -> t.name().equalsIgnoreCase(lookUp.name()))) {
            throw new DefinitionException(part, "a record type has this name already");
        }
        Surroundings before = around.with(around.lookUps().first(index));
        if (before.lookUps().tables().stream().anyMatch(t -> t.lookUp().name().equalsIgnoreCase(lookUp.name()))) {
            throw new DefinitionException(part, "another look-up has this name");
        }
        Formula[] key = IntStream.range(0, lookUp.key().size())
                .mapToObj(k -> key(table, k, new FormulaScope(layout, type, before, new Notices()), part))
                .toArray(Formula[]::new);
        return new LookedUp(table, layout, type, key);
    }

    private static Formula key(LookUpTable table, int k, FormulaScope scope, String part) {
        LookUp.Key of = table.lookUp().key().get(k);
        Formula formula;
        try {
            formula = Formula.of(of.is(), scope.withoutAggregates());
        } catch (FormulaException e) {
            throw new DefinitionException(
                    part, "the key of " + of.column() + ", character " + (e.from() + 1) + ": " + e.getMessage());
        }
        SqlType column = SqlType.of(table.keys().get(k).type());
        if (!formula.type().goesWith(column)) {
            throw new DefinitionException(
                    part,
                    of.column() + " is " + column.kind().words + " and "
                            + of.is().strip() + " is " + formula.type().kind().words + "; make them one with CAST");
        }
        return formula;
    }

    public LookUp lookUp() {
        return table.lookUp();
    }

    /** The index of the record type that it is made for. */
    public int type() {
        return type;
    }

    /** Forgets what was found where that was for a record of a type that is left. */
    void left(int leftType) {
        if (dependsOn[leftType]) {
            found = false;
        }
    }

    void forget() {
        found = false;
    }

    /**
     * The values for the record that is looked at; NULLs where there are none.
     *
     * @throws EvaluationException where the key has no value or several rows have it
     */
    Value[] values(RecordContext at) {
        if (!found) {
            values = find(at);
            found = true;
        }
        return values;
    }

    /** Whether the key of the record that is looked at is not there. */
    boolean isMissing(RecordContext at) {
        values(at);
        return missing;
    }

    private Value[] find(RecordContext at) {
        missing = false;
        text.clear();
        for (Formula part : key) {
            Datum d = part.eval(at);
            if (d.isNull()) {
                return table.blank();
            }
            add(d, part.type().kind());
        }
        Value[] row = table.find(text.toString());
        if (row == null) {
            missing = true;
            return table.blank();
        }
        if (LookUpTable.isSeveral(row)) {
            throw new EvaluationException("LKP-02", "several rows of " + place() + " with " + keyShown(at));
        }
        return row;
    }

    private void add(Datum d, Kind kind) {
        switch (kind) {
            case CHARACTER -> text.text(d.text());
            case NUMERIC -> text.number(d.decimal());
            case TIMESTAMP -> text.numbers(d.number(), d.nanos());
            default -> text.numbers(d.number(), 0);
        }
    }

    private String place() {
        return lookUp().from().sentence();
    }

    /** What is not there, in words. */
    String missingShown(RecordContext at) {
        return "no row of " + place() + " with " + keyShown(at);
    }

    private String keyShown(RecordContext at) {
        List<String> parts = new ArrayList<>();
        for (int k = 0; k < key.length; k++) {
            parts.add(lookUp().key().get(k).column() + " \"" + key[k].eval(at).written(key[k].type()) + "\"");
        }
        return String.join(" and ", parts);
    }
}
