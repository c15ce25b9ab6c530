package ninepin.core.value;

import ninepin.core.bytes.Words;

/**
 * Parses a field that stands at one place in every record, where it is written as it usually is: digits for the whole
 * of its length, text in ASCII. What it does not take is not wrong; it has to be looked at in full. Fields of
 * fixed-length records are mostly of this kind, and short, so that each step that is saved is felt.
 */
public abstract class PlacedParser {

    /** Where the field starts, counted from the start of the record. */
    final int at;

    /** Its bytes. */
    final int length;

    PlacedParser(int at, int length) {
        this.at = at;
        this.length = length;
    }

    /**
     * Parses the field of a record.
     *
     * @param bytes what holds the record, and at least eight bytes behind it
     * @param start where the record starts among them
     * @param into the value to write
     * @return false where nothing is said of the field; the value then has to be written anew
     */
    public abstract boolean take(byte[] bytes, int start, Value into);

    /** Whether what it takes may be NULL. */
    public boolean mayBeNull() {
        return false;
    }

    /** Up to eight digits, behind which their sign may stand. */
    public static final class Digits extends PlacedParser {

        private final int scale;
        private final EightDigits all;
        private final EightDigits unsigned;

        /**
         * @param scale how many of the digits stand behind the decimal sign that is not written
         * @param most the most digits of the type
         * @param signBehind whether the last byte may be a sign
         */
        private Digits(int at, int length, int scale, int most, boolean signBehind) {
            super(at, length);
            this.scale = scale;
            this.all = length <= most ? new EightDigits(length) : null;
            this.unsigned = signBehind ? new EightDigits(length - 1) : null;
        }

        /** The parser, or null where a field is too long, or has more digits than its type. */
        static Digits of(int at, int length, int scale, int most, boolean signBehind) {
            int digits = signBehind ? length - 1 : length;
            return length <= Long.BYTES && digits > 0 && digits <= most
                    ? new Digits(at, length, scale, most, signBehind)
                    : null;
        }

        @Override
        public boolean take(byte[] bytes, int start, Value into) {
            long word = Words.at(bytes, start + at);
            if (unsigned != null) {
                int sign = (int) (word >>> (length - 1 << 3)) & 0xff;
                if (sign == '+' || sign == '-') {
                    return number(unsigned.number(word), sign == '-', into);
                }
            }
            return all != null && number(all.number(word), false, into);
        }

        private boolean number(long digits, boolean negative, Value into) {
            if (digits < 0) {
                return false;
            }
            into.setNumber(negative ? -digits : digits, scale);
            return true;
        }
    }

    /** A text of ASCII, or of a charset in which every byte is a character; filled up with blanks. */
    public static final class Text extends PlacedParser {

        private final int most;
        private final boolean anyByte;

        /**
         * @param most the most characters it may have
         * @param anyByte whether every byte of the charset but NUL is a character
         */
        Text(int at, int length, int most, boolean anyByte) {
            super(at, length);
            this.most = most;
            this.anyByte = anyByte;
        }

        /** Looks at all of the field, whatever of it is filled: that takes the same steps for every record. */
        @Override
        public boolean take(byte[] bytes, int start, Value into) {
            int from = start + at;
            long high = 0;
            long nul = 0;
            int used = 0;
            int last = length - Long.BYTES;
            for (int i = 0; i < last; i += Long.BYTES) {
                long word = Words.at(bytes, from + i);
                high |= word;
                nul |= Words.zeros(word);
                int behind = Words.usedBytes(word);
                used = behind > 0 ? i + behind : used;
            }
            long word = last >= 0
                    ? Words.at(bytes, from + last)
                    : Words.at(bytes, from) & -1L >>> (-last << 3) | Words.BLANKS << (length << 3);
            int behind = Words.usedBytes(word);
            used = behind > 0 ? Math.max(last, 0) + behind : used;
            if (used == 0) {
                into.setNull();
                return true;
            }
            high |= word;
            if (used > most || (nul | Words.zeros(word)) != 0 || !anyByte && (high & Words.HIGH) != 0) {
                return false;
            }
            into.setText(bytes, from, from + used, used);
            return true;
        }

        @Override
        public boolean mayBeNull() {
            return true;
        }
    }

    /** A date or time of up to eight digits. */
    public static final class Moment extends PlacedParser {

        private final TemporalParser parser;

        Moment(int at, int length, TemporalParser parser) {
            super(at, length);
            this.parser = parser;
        }

        @Override
        public boolean take(byte[] bytes, int start, Value into) {
            return parser.takenApart(Words.at(bytes, start + at)) && parser.finish(into) == null;
        }
    }

    /** Reads digits of one count, at most eight, from a word. */
    static final class EightDigits {

        private final int free;
        private final long zeros;

        EightDigits(int count) {
            this.free = Long.BYTES - count << 3;
            this.zeros = free == 0 ? 0 : Words.ZEROS >>> Long.SIZE - free;
        }

        /** The digits at the end of a word, zeros before them; what stands behind them in the first word is left out. */
        long behindZeros(long word) {
            return word << free | zeros;
        }

        /** The number, or -1 where another byte is among the digits. */
        long number(long word) {
            return Words.eightDigits(behindZeros(word));
        }
    }
}
