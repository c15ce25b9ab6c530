package ninepin.core.value;

import java.math.BigDecimal;
import java.math.BigInteger;
import java.util.stream.LongStream;
import ninepin.core.layout.DataType;
import ninepin.core.layout.FileCharset;
import ninepin.core.layout.NumberForm;
import ninepin.core.layout.NumberForm.Sign;
import ninepin.core.layout.Overpunch;

/** Numbers as fixed-length files of business computers write them; up to 18 digits, without allocation. */
final class FormedNumberParser extends ValueParser {

    /** The digits that a long holds whatever they are. */
    private static final int MOST_DIGITS = 18;

    /** The powers of ten that a long holds. */
    private static final long[] TENS =
            LongStream.iterate(1, n -> n * 10).limit(19).toArray();

    private final NumberForm form;
    private final NumberParser digits;
    private final int precision;
    private final int scale;
    private byte[] scratch = new byte[40];

    FormedNumberParser(DataType type, NumberForm form, FileCharset charset) {
        this.form = form;
        if (type instanceof DataType.Decimal d) {
            this.precision = d.precision();
            this.scale = d.scale();
            // Where the sign is left out, the digits are those of a whole number.
            DataType.Decimal all = form.implied() ? new DataType.Decimal(precision, 0, '.', null) : d;
            boolean few = precision <= MOST_DIGITS && form.implied() || form.raw();
            this.digits = few ? new NumberParser(charset) : new NumberParser(all, charset);
        } else {
            this.precision = 18;
            this.scale = 0;
            this.digits = new NumberParser(charset);
        }
    }

    @Override
    public Problem parse(byte[] bytes, int from, int to, Value into) {
        switch (form.written()) {
            case PACKED:
                return packed(bytes, from, to, into);
            case BINARY:
                return binary(bytes, from, to, into);
            default:
                return digits(bytes, from, to, into);
        }
    }

    @Override
    public PlacedParser placed(int at, int length) {
        if (form.raw() || form.sign() != Sign.TRAILING && form.sign() != Sign.LEADING) {
            return null;
        }
        boolean behind = form.sign() == Sign.TRAILING;
        return form.implied()
                ? PlacedParser.Digits.of(at, length, scale, precision, behind)
                : PlacedParser.Digits.of(at, length, 0, precision - scale, behind);
    }

    private Problem digits(byte[] bytes, int fieldFrom, int fieldTo, Value into) {
        if (signedDigits(bytes, fieldFrom, fieldTo, into)) {
            return null;
        }
        int from = skipBlanks(bytes, fieldFrom, fieldTo);
        int to = trimEnd(bytes, from, fieldTo);
        if (from == to) {
            into.setNull();
            return null;
        }
        Problem problem;
        if (form.sign() == Sign.TRAILING) {
            byte last = bytes[to - 1];
            boolean signed = isSign(last);
            if (signed && to - from == 1) {
                return wrongSign(into, "It is a sign without digits.");
            }
            if (signed && isSign(bytes[from])) {
                return wrongSign(into, "It has a sign in front and one behind.");
            }
            problem = digits.parse(bytes, from, signed ? to - 1 : to, into);
            if (problem == null && signed && bytes[to - 2] == ' ') {
                return wrongSign(into, "Character " + (to - 1 - fieldFrom) + " is a blank.");
            }
            negate(into, last == '-');
        } else if (form.sign() == Sign.UNSIGNED && isSign(bytes[from])) {
            return wrongSign(into, "It has a sign; the layout has it without one.");
        } else if (form.sign() == Sign.LEADING || form.sign() == Sign.UNSIGNED) {
            problem = digits.parse(bytes, from, to, into);
        } else {
            problem = overpunched(bytes, from, to, into);
        }
        if (problem == null && form.implied() && into.kind() == Value.Kind.NUMBER) {
            return scaled(into.number(), into);
        }
        if (problem == null && form.implied() && into.kind() == Value.Kind.BIG_NUMBER) {
            into.big = into.big.scaleByPowerOfTen(-scale);
        }
        return problem;
    }

    /** The common case: digits for as many as the type has, their sign behind them or none. False says nothing. */
    private boolean signedDigits(byte[] bytes, int from, int to, Value into) {
        if (form.sign() != Sign.TRAILING || to - from < 2 || to - from > precision + 1) {
            return false;
        }
        byte last = bytes[to - 1];
        boolean signed = last == '-' || last == '+';
        if (!digits.digitsAlone(bytes, from, signed ? to - 1 : to, into)) {
            return false;
        }
        if (form.implied() && into.number() >= TENS[Math.min(precision, TENS.length - 1)]) {
            return false;
        }
        into.setNumber(last == '-' ? -into.number() : into.number(), form.implied() ? scale : 0);
        return true;
    }

    private static boolean isSign(byte b) {
        return b == '-' || b == '+';
    }

    private Problem wrongSign(Value into, String advice) {
        into.setNull();
        String signs = form.sign() == Sign.UNSIGNED ? "without a sign" : "with one sign";
        return new Problem("NUM-01", "a number " + signs, advice);
    }

    private static void negate(Value into, boolean negative) {
        if (negative && into.kind() == Value.Kind.NUMBER) {
            into.set(Value.Kind.NUMBER, -into.number());
        } else if (negative && into.kind() == Value.Kind.BIG_NUMBER) {
            into.big = into.big.negate();
        }
    }

    private Problem overpunched(byte[] bytes, int from, int to, Value into) {
        int length = to - from;
        int at = form.sign() == Sign.OVERPUNCHED ? length - 1 : 0;
        char letter = (char) bytes[from + at];
        int plus = Overpunch.PLUS.indexOf(letter);
        int minus = Overpunch.MINUS.indexOf(letter);
        boolean punched = plus >= 0 || minus >= 0;
        if (isSign(bytes[from])) {
            return wrongSign(
                    into,
                    "It has a sign in front" + (punched ? " and one in a digit." : "; the layout has it in a digit."));
        }
        if (!punched || length > scratch.length) {
            return digits.parse(bytes, from, to, into);
        }
        System.arraycopy(bytes, from, scratch, 0, length);
        scratch[at] = (byte) ('0' + Math.max(plus, minus));
        Problem problem = digits.parse(scratch, 0, length, into);
        negate(into, minus >= 0);
        return problem;
    }

    private Problem packed(byte[] bytes, int from, int to, Value into) {
        into.setNull();
        StringBuilder all = precision > MOST_DIGITS ? new StringBuilder() : null;
        long number = 0;
        int count = 0;
        for (int i = from; i < to; i++) {
            int high = bytes[i] >> 4 & 0xf;
            int low = bytes[i] & 0xf;
            boolean last = i == to - 1;
            if (high > 9 || !last && low > 9 || last && low < 10) {
                return new Problem(
                        "NUM-05",
                        "a packed decimal",
                        String.format(
                                "Byte %d is 0x%02X: %s.",
                                i - from + 1,
                                bytes[i] & 0xff,
                                last ? "its second half is no sign" : "its halves are not two digits"));
            }
            number = number * 10 + high;
            count += number == 0 && count == 0 ? 0 : 1;
            if (all != null) {
                all.append(high).append(last ? "" : low);
            }
            if (!last) {
                number = number * 10 + low;
                count += number == 0 && count == 0 ? 0 : 1;
            } else if (low == 0xd || low == 0xb) {
                if (form.sign() == Sign.UNSIGNED) {
                    return wrongSign(into, "Its last half byte says minus; the layout has it without a sign.");
                }
                number = -number;
            }
            if (count > MOST_DIGITS && all == null) {
                return new Problem("NUM-02", "at most 18 digits", "It has more.");
            }
        }
        if (count <= MOST_DIGITS) {
            return scaled(number, into);
        }
        if (count > precision) {
            return tooMany(count);
        }
        BigDecimal big = new BigDecimal(new BigInteger(all.toString()), scale);
        int sign = bytes[to - 1] & 0xf;
        into.set(Value.Kind.BIG_NUMBER, 0);
        into.big = sign == 0xd || sign == 0xb ? big.negate() : big;
        return null;
    }

    private Problem binary(byte[] bytes, int from, int to, Value into) {
        into.setNull();
        if (to - from > 8 || to == from) {
            return new Problem("NUM-05", "a binary number of 1 to 8 bytes", "The field has " + (to - from) + ".");
        }
        boolean unsigned = form.sign() == Sign.UNSIGNED;
        long number = unsigned ? bytes[from] & 0xff : bytes[from];
        for (int i = from + 1; i < to; i++) {
            number = number << 8 | bytes[i] & 0xff;
        }
        if (unsigned && number < 0) {
            String all = Long.toUnsignedString(number);
            return new Problem("NUM-02", "at most 18 digits", "It has " + all.length() + ".");
        }
        return scaled(number, into);
    }

    private Problem tooMany(int count) {
        return new Problem(
                "NUM-02",
                "at most " + precision + " digits",
                "It has " + count + "; raise the precision in the layout if the value is right.");
    }

    private Problem scaled(long number, Value into) {
        into.setNull();
        if (precision < TENS.length && (number >= TENS[precision] || number <= -TENS[precision])) {
            int count = 0;
            for (long rest = number; rest != 0; rest /= 10) {
                count++;
            }
            return tooMany(count);
        }
        into.set(Value.Kind.NUMBER, number);
        into.scale = scale;
        return null;
    }
}
