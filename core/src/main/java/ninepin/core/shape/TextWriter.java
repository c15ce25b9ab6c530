package ninepin.core.shape;

import java.util.List;
import ninepin.core.formula.FormulaScope;
import ninepin.core.formula.RecordContext;
import ninepin.core.record.Placed;

/** Writes a text that is made of a record, with the finishing touches of its rule. */
final class TextWriter implements ColumnWriter {

    /** Makes a text of a record; null for NULL. */
    @FunctionalInterface
    interface Source {
        String take(Placed record, RecordContext at);
    }

    private final Source source;
    private final List<FormulaScope.Place> reads;
    private final Touches touches;
    private final String whenBlank;

    /**
     * @param reads the fields that the text is made of
     */
    TextWriter(Source source, List<FormulaScope.Place> reads, Rule rule) {
        this.source = source;
        this.reads = reads;
        this.touches = new Touches(rule.touches());
        this.whenBlank = rule.whenBlank();
    }

    @Override
    public void write(Placed record, RecordContext at, RowBuffer out) {
        out.textOr(touches.apply(source.take(record, at)), whenBlank);
    }

    @Override
    public List<FormulaScope.Place> reads() {
        return reads;
    }
}
