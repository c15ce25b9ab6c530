package ninepin.core.shape;

import ninepin.core.formula.Datum;
import ninepin.core.formula.Formula;
import ninepin.core.formula.SqlType.Kind;
import ninepin.core.read.RawRecord;
import ninepin.core.read.Value;

/** Writes what a formula gives for a record, with the finishing touches of its rule. */
final class FormulaWriter implements ColumnWriter {

    private final Formula formula;
    private final Rule rule;

    FormulaWriter(Formula formula, Rule rule) {
        this.formula = formula;
        this.rule = rule;
    }

    /** The formula, for what there is to say where it has no value. */
    Formula formula() {
        return formula;
    }

    @Override
    public void write(RawRecord record, Value[][] values, RowBuffer out) {
        Datum d = formula.eval(values);
        if (d.isNull()) {
            blank(out);
            return;
        }
        switch (formula.type().kind()) {
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
            case TIMESTAMP -> {
                ValueWriter.date(d.number(), out);
                out.raw(' ');
                ValueWriter.time(d.nanos(), out);
            }
            default -> {
                String text = formula.type().kind() == Kind.CHARACTER ? d.text() : d.written(formula.type());
                for (int i = 0; i < rule.touches().size() && text != null; i++) {
                    text = ValueWriter.touched(text, rule.touches().get(i));
                }
                if (text == null || rule.whenBlank() != null && text.isBlank()) {
                    blank(out);
                    return;
                }
                out.text(text);
            }
        }
        out.endField();
    }

    private void blank(RowBuffer out) {
        if (rule.whenBlank() == null) {
            out.nullField();
        } else {
            out.text(rule.whenBlank());
            out.endField();
        }
    }
}
