package ninepin.core.shape;

import java.util.List;
import ninepin.core.formula.FormulaScope;
import ninepin.core.formula.Misfit;
import ninepin.core.formula.Standpoint;
import ninepin.core.record.Placed;

/** Writes the value of one target field for one record, the field's end included. */
interface ColumnWriter {

    /**
     * Writes the value.
     *
     * @throws Misfit where there is none
     */
    void write(Placed record, Standpoint at, RowBuffer out);

    /** The fields that the value is made of. */
    default List<FormulaScope.Place> reads() {
        return List.of();
    }
}
