package ninepin.core.value;

import java.math.BigDecimal;
import java.math.BigInteger;
import ninepin.core.bytes.Words;
import ninepin.core.layout.DataType;
import ninepin.core.layout.FileCharset;

/** Whole numbers and exact decimals. Up to 18 digits nothing is allocated. */
final class NumberParser extends ValueParser {

    private static final int LONG_DIGITS = 18;
    private static final int NONE = -1;
    /** The most digits of an exponent. */
    private static final int MOST_EXPONENT = 3;

    private final FileCharset charset;
    private final boolean whole;
    private final int precision;
    private final int scale;
    private final int decimalSign;
    private final int groupingSign;
    private final boolean exponent;

    /** A parser of INTEGER. */
    NumberParser(FileCharset charset) {
        this.charset = charset;
        this.whole = true;
        this.precision = LONG_DIGITS;
        this.scale = 0;
        this.decimalSign = NONE;
        this.groupingSign = NONE;
        this.exponent = false;
    }

    NumberParser(DataType.Decimal type, FileCharset charset) {
        this.charset = charset;
        this.whole = false;
        this.precision = type.precision();
        this.scale = type.scale();
        this.decimalSign = type.decimalSign();
        this.groupingSign = type.groupingSign() == null ? NONE : type.groupingSign();
        this.exponent = type.mayHaveExponent();
    }

    @Override
    public Problem parse(byte[] bytes, int fieldFrom, int fieldTo, Value into) {
        if (digitsAlone(bytes, fieldFrom, fieldTo, into)) {
            return null;
        }
        return parseAny(bytes, fieldFrom, fieldTo, into);
    }

    @Override
    public PlacedParser placed(int at, int length) {
        return PlacedParser.Digits.of(at, length, 0, precision - scale, false);
    }

    /** The most common case: up to eight digits and nothing else. False says nothing of the field. */
    boolean digitsAlone(byte[] bytes, int from, int to, Value into) {
        int length = to - from;
        if (length < 1 || length > Long.BYTES || length > precision - scale) {
            return false;
        }
        long number = Words.digits(Words.upToEight(bytes, from, length), length);
        if (number < 0) {
            return false;
        }
        into.setNumber(number, 0);
        return true;
    }

    private Problem parseAny(byte[] bytes, int fieldFrom, int fieldTo, Value into) {
        int from = skipBlanks(bytes, fieldFrom, fieldTo);
        int to = trimEnd(bytes, from, fieldTo);
        if (from == to) {
            into.setNull();
            return null;
        }
        boolean negative = bytes[from] == '-';
        int firstDigit = negative || bytes[from] == '+' ? from + 1 : from;
        if (plain(bytes, firstDigit, to, negative, into)) {
            return null;
        }
        into.setNull();
        int i = firstDigit;
        long number = 0;
        int digits = 0;
        int fraction = NONE;
        int sinceGroup = NONE;
        for (; i < to; i++) {
            int c = bytes[i];
            int digit = c - '0';
            if (digit >= 0 && digit <= 9) {
                if (number != 0 || digit != 0) {
                    digits++;
                    if (digits <= LONG_DIGITS) {
                        number = number * 10 + digit;
                    }
                }
                if (fraction != NONE) {
                    fraction++;
                } else if (sinceGroup != NONE) {
                    sinceGroup++;
                }
            } else if (c == decimalSign && fraction == NONE && (sinceGroup == NONE || sinceGroup == 3)) {
                fraction = 0;
            } else if (c == groupingSign
                    && fraction == NONE
                    && i > firstDigit
                    && groupAllowed(i - firstDigit, sinceGroup)) {
                sinceGroup = 0;
            } else if (exponent && (c == 'e' || c == 'E') && i > firstDigit && fraction != 0) {
                return powerOfTen(bytes, fieldFrom, fieldTo, from, i, to, into);
            } else {
                return NumberProblem.at(text(bytes, fieldFrom, fieldTo), i - fieldFrom, expected(), decimalSign);
            }
        }
        if (i == firstDigit || fraction == 0 || fraction == NONE && sinceGroup != NONE && sinceGroup != 3) {
            return NumberProblem.at(text(bytes, fieldFrom, fieldTo), i - fieldFrom, expected(), decimalSign);
        }
        return finish(bytes, firstDigit, to, negative, number, digits, Math.max(fraction, 0), into);
    }

    /** The common case: up to eight digits and a decimal sign, within bounds. False says nothing of the field. */
    private boolean plain(byte[] bytes, int from, int to, boolean negative, Value into) {
        int length = to - from;
        if (length < 1 || length > Long.BYTES) {
            return false;
        }
        long word = Words.upToEight(bytes, from, length);
        int fraction = 0;
        if (decimalSign != NONE) {
            int sign = Words.indexOf((byte) decimalSign, word);
            if (sign < length) {
                long before = word & (1L << (sign << 3)) - 1;
                word = before | word >>> 8 & -1L << (sign << 3);
                length--;
                fraction = length - sign;
                if (fraction == 0) {
                    return false;
                }
            }
        }
        int before = length - fraction;
        if (before == 0 || fraction > scale || before > precision - scale) {
            return false;
        }
        long number = Words.digits(word, length);
        if (number < 0) {
            return false;
        }
        into.setNumber(negative ? -number : number, fraction);
        return true;
    }

    /** A number with an exponent, exactly. */
    private Problem powerOfTen(byte[] bytes, int fieldFrom, int fieldTo, int from, int at, int to, Value into) {
        int i = at + 1;
        boolean down = i < to && bytes[i] == '-';
        i += down || i < to && bytes[i] == '+' ? 1 : 0;
        int power = 0;
        int first = i;
        while (i < to && i - first < MOST_EXPONENT && bytes[i] >= '0' && bytes[i] <= '9') {
            power = power * 10 + bytes[i++] - '0';
        }
        if (i < to || i == first) {
            return NumberProblem.at(text(bytes, fieldFrom, fieldTo), i - fieldFrom, expected(), decimalSign);
        }
        BigDecimal factor = new BigDecimal(text(bytes, from, at).replace((char) decimalSign, '.'));
        return exactly(factor.scaleByPowerOfTen(down ? -power : power), into);
    }

    private Problem exactly(BigDecimal value, Value into) {
        BigDecimal plain = value.signum() == 0 ? BigDecimal.ZERO : value.stripTrailingZeros();
        if (plain.scale() > scale) {
            return tooFine(plain.scale());
        }
        if (plain.precision() - plain.scale() > precision - scale) {
            return tooLarge(plain.precision() - plain.scale());
        }
        BigDecimal big = plain.scale() < 0 ? plain.setScale(0) : plain;
        if (big.precision() <= LONG_DIGITS) {
            into.setNumber(big.unscaledValue().longValue(), big.scale());
        } else {
            into.set(Value.Kind.BIG_NUMBER, 0);
            into.big = big;
        }
        return null;
    }

    private static boolean groupAllowed(int before, int sinceGroup) {
        return sinceGroup == NONE ? before <= 3 : sinceGroup == 3;
    }

    private Problem finish(
            byte[] bytes, int from, int to, boolean negative, long number, int digits, int fraction, Value into) {
        if (digits <= LONG_DIGITS) {
            long unscaled = number;
            int kept = fraction;
            while (kept > scale && unscaled % 10 == 0) {
                unscaled /= 10;
                kept--;
            }
            if (kept > scale) {
                return tooFine(fraction);
            }
            if (digits - fraction > precision - scale) {
                return tooLarge(digits - fraction);
            }
            into.set(Value.Kind.NUMBER, negative ? -unscaled : unscaled);
            into.scale = kept;
            return null;
        }
        return finishBig(bytes, from, to, negative, fraction, into);
    }

    private Problem finishBig(byte[] bytes, int from, int to, boolean negative, int fraction, Value into) {
        StringBuilder all = new StringBuilder(negative ? "-" : "");
        for (int i = from; i < to; i++) {
            if (bytes[i] >= '0' && bytes[i] <= '9') {
                all.append((char) bytes[i]);
            }
        }
        if (all.length() > 2_000) {
            return tooLarge(all.length());
        }
        return exactly(new BigDecimal(new BigInteger(all.toString()), fraction), into);
    }

    private Problem tooFine(int found) {
        return new Problem(
                "NUM-03",
                scale == 0
                        ? "a whole number"
                        : "at most " + scale + (scale == 1 ? " digit" : " digits") + " after the decimal sign",
                "It has " + found + ".");
    }

    private Problem tooLarge(int found) {
        return new Problem(
                "NUM-02",
                "at most " + (precision - scale) + " digits before the decimal sign",
                "It has " + found + "; raise the precision in the layout if the value is right.");
    }

    private String expected() {
        if (whole) {
            return "a whole number";
        }
        return "a number with decimal " + (decimalSign == ',' ? "comma" : "point");
    }

    private String text(byte[] bytes, int from, int to) {
        return new String(bytes, from, Math.min(to - from, 400), charset.charset());
    }
}
