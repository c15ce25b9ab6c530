package ninepin.core.formula;

/** An operation or function that is NULL where one of its arguments is. */
final class Strict extends Expr {

    /** What it does where no argument is NULL. */
    @FunctionalInterface
    interface Body {
        void apply(Expr self, Datum[] in, Datum out);
    }

    private final Expr[] args;
    private final Datum[] in;
    private final Body body;

    Strict(SqlType type, Body body, Expr... args) {
        super(type);
        this.args = args;
        this.body = body;
        this.in = new Datum[args.length];
        for (int i = 0; i < args.length; i++) {
            in[i] = args[i].value;
        }
    }

    @Override
    Datum eval(RecordContext row) {
        for (Expr arg : args) {
            if (arg.eval(row).isNull()) {
                return value.setNull();
            }
        }
        body.apply(this, in, value);
        return value;
    }
}
