package ninepin.core.shape;

import ninepin.core.read.RawRecord;
import ninepin.core.read.Value;

/** Writes the value of one target field for one record, the field's end included. */
interface ColumnWriter {

    void write(RawRecord record, Value[][] values, RowBuffer out);
}
