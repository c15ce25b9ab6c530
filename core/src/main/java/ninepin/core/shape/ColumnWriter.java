package ninepin.core.shape;

import java.util.List;
import ninepin.core.formula.EvaluationException;
import ninepin.core.formula.FormulaScope;
import ninepin.core.formula.RecordContext;
import ninepin.core.record.Placed;

/** Writes the value of one target field for one record, the field's end included. */
interface ColumnWriter {

    /**
     * Writes the value.
     *
     * @throws EvaluationException where there is none
     */
    void write(Placed record, RecordContext at, RowBuffer out);

    /** The fields that the value is made of. */
    default List<FormulaScope.Place> reads() {
        return List.of();
    }
}
