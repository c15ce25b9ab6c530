package ninepin.core.formula;

/** COUNT, SUM, MIN, MAX or AVG over the records of a type that belong to a record; NULLs are left out. */
final class Aggregate extends Expr {

    private final int over;
    private final int root;
    private final Expr of;
    private final Expr filter;
    private final Accumulator total;

    /**
     * @param over the index of the type of the records
     * @param root the index of the type of the record they belong to
     * @param of what is taken of each, or null to count the records
     * @param filter which are taken, or null for all
     */
    Aggregate(Accumulator.Function function, int over, int root, Expr of, boolean distinct, Expr filter) {
        super(Accumulator.type(function, of == null ? null : of.type));
        this.over = over;
        this.root = root;
        this.of = of;
        this.filter = filter;
        this.total = new Accumulator(function, of == null ? null : of.type, distinct);
    }

    @Override
    Datum eval(RecordContext row) {
        total.clear();
        DocumentValues document = row.document();
        if (document == null) {
            return result();
        }
        int first = row.recordOf(root);
        int end = document.endOf(first);
        row.save();
        try {
            for (int i = first + 1; i < end; i++) {
                row.standAt(i);
                if (document.type(i) == over
                        && !document.isLeftOut(i)
                        && (filter == null || filter.eval(row).isTrue())) {
                    if (of == null) {
                        total.count();
                    } else {
                        total.take(of.eval(row));
                    }
                }
            }
        } finally {
            row.restore();
        }
        return result();
    }

    private Datum result() {
        if (total.isNull()) {
            return value.setNull();
        }
        if (total.exact() == null) {
            return value.setTo(total.best());
        }
        Numbers.setExact(this, total.exact(), value);
        return value;
    }
}
