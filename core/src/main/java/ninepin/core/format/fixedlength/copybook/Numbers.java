package ninepin.core.format.fixedlength.copybook;

import java.util.Map;
import ninepin.core.format.fixedlength.copybook.Copybook.Entry;
import ninepin.core.format.fixedlength.copybook.Copybook.Usage;
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

    /** The bytes of a binary number by the digits that its picture shows. */
    static int bytes(Picture p) {
        return p.size() <= 4 ? 2 : p.size() <= 9 ? 4 : 8;
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

    /** The type of a number that is written with its decimal point. */
    static DataType written(Picture p) {
        char point = p.comma() ? ',' : '.';
        Character group = p.grouped() ? (p.comma() ? '.' : ',') : null;
        NumberForm form = p.sign() == Picture.SignAt.BEHIND ? new NumberForm(null, Sign.TRAILING, false) : null;
        return new DataType.Decimal(Math.max(1, p.digits()), p.scale(), point, group, form);
    }

    /** Why an entry cannot be read, or null; its bytes are known all the same. */
    static String unread(Entry entry, Usage usage) {
        if (usage == Usage.FLOAT || usage == Usage.DOUBLE) {
            return "Floating point numbers are not read";
        }
        if (usage == Usage.ADDRESS) {
            return "Addresses and indexes mean nothing outside their program";
        }
        Picture p = entry.picture;
        if (p == null) {
            return null;
        }
        if (p.kind() == Picture.Kind.UNREAD) {
            return "Its picture has digits or characters that are not read";
        }
        int most =
                usage == Usage.BINARY || usage == Usage.NATIVE_BINARY ? INTEGER_DIGITS : DataType.Decimal.MOST_DIGITS;
        return p.kind() == Picture.Kind.NUMBER && p.digits() > most
                ? "It has " + p.digits() + " digits, and at most " + most + " are read"
                : null;
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
