package ninepin.core.formula;

/** A literal, or what is the same for all records of a run. */
final class Constant extends Expr {

    Constant(SqlType type) {
        super(type);
    }

    static Constant of(String text) {
        Constant constant = new Constant(SqlType.text(Math.max(1, text.codePointCount(0, text.length()))));
        constant.value.set(text);
        return constant;
    }

    @Override
    Datum eval(RecordContext row) {
        return value;
    }
}
