package ninepin.core.shape;

import java.util.List;
import ninepin.core.formula.Datum;
import ninepin.core.formula.Formula;
import ninepin.core.formula.FormulaScope;
import ninepin.core.formula.RecordContext;
import ninepin.core.formula.SqlType;
import ninepin.core.formula.SqlType.Kind;
import ninepin.core.record.Placed;

/** Writes what a formula gives for a record, with the finishing touches of its rule. */
final class FormulaWriter implements ColumnWriter {

    private final Formula formula;
    private final Rule rule;
    private final Touches touches;

    FormulaWriter(Formula formula, Rule rule) {
        this.formula = formula;
        this.rule = rule;
        this.touches = rule.touches().isEmpty() ? null : new Touches(rule.touches());
    }

    @Override
    public List<FormulaScope.Place> reads() {
        return formula.fields();
    }

    @Override
    public void write(Placed record, RecordContext at, RowBuffer out) {
        Datum d = formula.eval(at);
        Kind kind = formula.type().kind();
        if (!d.isNull() && touches == null && kind != Kind.CHARACTER && kind != Kind.MONTHS && kind != Kind.SECONDS) {
            typed(d, kind, out);
            return;
        }
        String text = d.isNull() ? null : text(d, formula.type());
        text = touches == null ? text : touches.apply(text);
        out.textOr(text, rule.whenBlank());
    }

    /** The value as touches see it: as the row would have it. */
    static String text(Datum d, SqlType type) {
        return type.kind() == Kind.BOOLEAN ? (d.number() == 1 ? "1" : "0") : d.written(type);
    }

    private static void typed(Datum d, Kind kind, RowBuffer out) {
        switch (kind) {
            case NUMERIC -> {
                if (d.isShort() && d.scale() < 18 && d.number() != Long.MIN_VALUE) {
                    ValueWriter.number(d.number(), d.scale(), out);
                } else {
                    out.text(d.decimal().toPlainString());
                }
            }
            case BOOLEAN -> out.raw(d.number() == 1 ? '1' : '0');
            case DATE -> ValueWriter.date(d.number(), out);
            case TIME -> ValueWriter.time(d.number(), out);
            default -> {
                ValueWriter.date(d.number(), out);
                out.raw(' ');
                ValueWriter.time(d.nanos(), out);
            }
        }
        out.endField();
    }
}
