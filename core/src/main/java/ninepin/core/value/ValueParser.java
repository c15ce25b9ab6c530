package ninepin.core.value;

import ninepin.core.layout.DataType;
import ninepin.core.layout.FileCharset;
import ninepin.core.layout.NumberForm;

/** Turns the bytes of a field into a value of its type. Made once for a field, used by one thread. */
public abstract class ValueParser {

    /** The parser for a type as it is written in files of a charset. */
    public static ValueParser of(DataType type, FileCharset charset) {
        if (type instanceof DataType.CharacterVarying t) {
            return new TextParser(t, charset);
        }
        if (type instanceof DataType.IntegerNumber t) {
            return NumberForm.of(t).equals(NumberForm.PLAIN)
                    ? new NumberParser(charset)
                    : new FormedNumberParser(t, t.form(), charset);
        }
        if (type instanceof DataType.Decimal t) {
            return NumberForm.of(t).equals(NumberForm.PLAIN)
                    ? new NumberParser(t, charset)
                    : new FormedNumberParser(t, t.form(), charset);
        }
        if (type instanceof DataType.Bool t) {
            return new BooleanParser(t, charset);
        }
        if (type instanceof DataType.Date t) {
            return new TemporalParser(t.pattern(), t.pivot(), Value.Kind.DATE, charset);
        }
        if (type instanceof DataType.Time t) {
            return new TemporalParser(t.pattern(), null, Value.Kind.TIME, charset);
        }
        DataType.Timestamp t = (DataType.Timestamp) type;
        return new TemporalParser(t.pattern(), t.pivot(), Value.Kind.TIMESTAMP, charset);
    }

    /** Whether a type is read from the bytes as they are, whatever the charset of the file. */
    public static boolean raw(DataType type) {
        return NumberForm.of(type).raw();
    }

    /**
     * Parses a field. Blanks around numbers, dates, times and booleans are passed over, and blanks alone are NULL;
     * text is taken as it stands.
     *
     * @param bytes where the field's content stands, quotes undone
     * @param from its first byte
     * @param to the byte after its last one
     * @param into the value to write; NULL when there is a problem
     * @return what keeps it from being a value of the type, or null
     */
    public abstract Problem parse(byte[] bytes, int from, int to, Value into);

    /**
     * What parses the usual case of a field at one place in every record, or null where there is no quicker way.
     *
     * @param at where it starts in the record
     * @param length its bytes
     */
    public PlacedParser placed(int at, int length) {
        return null;
    }

    /** Parses with a parser of any kind; asking for the common kinds by name lets each be compiled in place. */
    public static Problem parse(ValueParser parser, byte[] bytes, int from, int to, Value into) {
        if (parser instanceof TextParser text) {
            return text.parse(bytes, from, to, into);
        }
        if (parser instanceof NumberParser number) {
            return number.parse(bytes, from, to, into);
        }
        if (parser instanceof TemporalParser temporal) {
            return temporal.parse(bytes, from, to, into);
        }
        return parser.parse(bytes, from, to, into);
    }

    static int skipBlanks(byte[] bytes, int from, int to) {
        int i = from;
        while (i < to && (bytes[i] == ' ' || bytes[i] == '\t')) {
            i++;
        }
        return i;
    }

    static int trimEnd(byte[] bytes, int from, int to) {
        int i = to;
        while (i > from && (bytes[i - 1] == ' ' || bytes[i - 1] == '\t')) {
            i--;
        }
        return i;
    }
}
