package ninepin.core.infer.copybook;

import java.util.Map;
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

    /** The most digits of a binary number by its bytes. */
    private static final Map<Integer, Integer> DIGITS_OF_BYTES = Map.of(2, 5, 4, 10, 8, INTEGER_DIGITS);

    private Numbers() {}

    /** The bytes of a binary number by the digits of its picture. */
    static int bytes(Picture p) {
        return p.digits() <= 4 ? 2 : p.digits() <= 9 ? 4 : 8;
    }

    static DataType type(Entry entry, Usage usage) {
        Picture p = entry.picture;
        int digits = usage == Usage.NATIVE_BINARY ? DIGITS_OF_BYTES.get(bytes(p)) : p.digits();
        boolean whole = p.scale() == 0 && digits <= INTEGER_DIGITS;
        NumberForm form = form(entry, usage, !whole);
        if (whole) {
            return form.equals(NumberForm.PLAIN) ? new DataType.IntegerNumber() : new DataType.IntegerNumber(form);
        }
        return new DataType.Decimal(digits, p.scale(), '.', null, form);
    }

    private static NumberForm form(Entry entry, Usage usage, boolean implied) {
        if (usage == Usage.PACKED) {
            return new NumberForm(Written.PACKED, null, false);
        }
        if (usage == Usage.BINARY || usage == Usage.NATIVE_BINARY) {
            return new NumberForm(Written.BINARY, entry.picture.signed() ? null : Sign.UNSIGNED, false);
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
