package ninepin.core.format.fixedlength;

import java.math.BigDecimal;
import java.math.BigInteger;
import java.math.RoundingMode;
import ninepin.core.layout.DataType;
import ninepin.core.layout.Field;
import ninepin.core.layout.NumberForm;
import ninepin.core.layout.Overpunch;
import ninepin.core.value.UnwritableException;
import ninepin.core.value.ValueFormat;

/** Numbers in the forms of fixed-length files; the counterpart of how they are read. */
final class FixedNumber {

    private FixedNumber() {}

    private static BigInteger unscaled(Field field, String value) {
        int scale = field.type() instanceof DataType.Decimal d ? d.scale() : 0;
        try {
            return new BigDecimal(value)
                    .setScale(scale, RoundingMode.UNNECESSARY)
                    .unscaledValue();
        } catch (ArithmeticException | NumberFormatException e) {
            throw new UnwritableException(
                    field.name(), "\"" + value + "\" is no " + field.type().label());
        }
    }

    /** The digits of a value as a whole number, which is below zero only where the form has a sign. */
    private static BigInteger signed(Field field, NumberForm form, String value) {
        BigInteger number = unscaled(field, value);
        if (form.sign() == NumberForm.Sign.UNSIGNED && number.signum() < 0) {
            throw new UnwritableException(field.name(), value + " is below zero, and the field has no sign");
        }
        return number;
    }

    /** The bytes of a packed or binary number. */
    static byte[] raw(Field field, NumberForm form, String value) {
        BigInteger number = signed(field, form, value);
        byte[] bytes = new byte[field.room()];
        boolean unsigned = form.sign() == NumberForm.Sign.UNSIGNED;
        if (form.written() == NumberForm.Written.BINARY) {
            if ((unsigned ? number.bitLength() : number.bitLength() + 1) > bytes.length * Byte.SIZE) {
                throw tooLong(field, value);
            }
            for (int i = 0; i < bytes.length; i++) {
                bytes[bytes.length - 1 - i] = number.shiftRight(i * Byte.SIZE).byteValue();
            }
            return bytes;
        }
        String digits = padded(field, number.abs().toString(), field.room() * 2 - 1, value)
                + (unsigned ? "F" : number.signum() < 0 ? "D" : "C");
        for (int i = 0; i < bytes.length; i++) {
            bytes[i] = (byte) Integer.parseInt(digits.substring(i * 2, i * 2 + 2), 16);
        }
        return bytes;
    }

    /** The digits of a number with its sign where its form puts it, filled with zeros. */
    static String digits(Field field, NumberForm form, String value) {
        if (!form.implied() && field.type() instanceof DataType.Decimal && form.sign() == NumberForm.Sign.LEADING) {
            return ValueFormat.text(field, value);
        }
        BigInteger number = signed(field, form, value);
        boolean point = field.type() instanceof DataType.Decimal && !form.implied();
        boolean minus = number.signum() < 0;
        String plain = point
                ? ValueFormat.text(field, new BigDecimal(value).abs().toPlainString())
                : number.abs().toString();
        switch (form.sign()) {
            case TRAILING -> {
                String all = padded(field, plain, field.room() - 1, value) + (minus ? "-" : " ");
                return minus ? all : padded(field, plain, field.room(), value);
            }
            case OVERPUNCHED -> {
                String all = padded(field, plain, field.room(), value);
                return minus
                        ? all.substring(0, all.length() - 1)
                                + Overpunch.MINUS.charAt(all.charAt(all.length() - 1) - '0')
                        : all.substring(0, all.length() - 1)
                                + Overpunch.PLUS.charAt(all.charAt(all.length() - 1) - '0');
            }
            case OVERPUNCHED_LEADING -> {
                String all = padded(field, plain, field.room(), value);
                return (minus ? Overpunch.MINUS : Overpunch.PLUS).charAt(all.charAt(0) - '0') + all.substring(1);
            }
            default -> {
                return minus
                        ? "-" + padded(field, plain, field.room() - 1, value)
                        : padded(field, plain, field.room(), value);
            }
        }
    }

    private static String padded(Field field, String digits, int length, String value) {
        if (digits.length() > length) {
            throw tooLong(field, value);
        }
        return "0".repeat(length - digits.length()) + digits;
    }

    private static UnwritableException tooLong(Field field, String value) {
        return new UnwritableException(field.name(), value + " does not fit into " + field.room() + " places");
    }
}
