package ninepin.core.formula;

/** A part of a formula, typed. Belongs to one thread: its value is written again for every record. */
abstract class Expr {

    final SqlType type;
    final Datum value = new Datum();
    /** Where it stands in the text of the formula. */
    int from;

    int to;

    Expr(SqlType type) {
        this.type = type;
    }

    /**
     * Evaluates it.
     *
     * @param row the typed values of each record type's latest record
     * @return the value, which holds until the next evaluation
     * @throws EvaluationException where it has no value for this row
     */
    abstract Datum eval(RecordContext row);

    Expr at(int newFrom, int newTo) {
        from = newFrom;
        to = newTo;
        return this;
    }

    boolean is(SqlType.Kind kind) {
        return type.is(kind);
    }
}
