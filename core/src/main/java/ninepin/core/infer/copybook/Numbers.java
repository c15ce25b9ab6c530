package ninepin.core.infer.copybook;

import ninepin.core.infer.copybook.Copybook.Entry;
import ninepin.core.infer.copybook.Copybook.Usage;
import ninepin.core.layout.DataType;
import ninepin.core.layout.NumberForm;
import ninepin.core.layout.NumberForm.Sign;
import ninepin.core.layout.NumberForm.Written;

/** The type of a number by its picture, usage and sign. */
final class Numbers {

    /** What a whole number may have at most. */
    private static final int INTEGER_DIGITS = 18;

    private Numbers() {}

    static DataType type(Entry entry, Usage usage) {
        Picture p = entry.picture;
        boolean whole = p.scale() == 0 && p.digits() <= INTEGER_DIGITS;
        NumberForm form = form(entry, usage, !whole);
        if (whole) {
            return form.equals(NumberForm.PLAIN) ? new DataType.IntegerNumber() : new DataType.IntegerNumber(form);
        }
        return new DataType.Decimal(p.digits(), p.scale(), '.', null, form);
    }

    private static NumberForm form(Entry entry, Usage usage, boolean implied) {
        if (usage == Usage.PACKED) {
            return new NumberForm(Written.PACKED, null, false);
        }
        if (usage == Usage.BINARY) {
            return new NumberForm(Written.BINARY, null, false);
        }
        Sign sign = Sign.LEADING;
        if (entry.picture.signed()) {
            sign = entry.signSeparate
                    ? entry.signLeading ? Sign.LEADING : Sign.TRAILING
                    : entry.signLeading ? Sign.OVERPUNCHED_LEADING : Sign.OVERPUNCHED;
        }
        return new NumberForm(Written.DIGITS, sign, implied);
    }
}
