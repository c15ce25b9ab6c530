package ninepin.core.shape;

import java.math.BigDecimal;
import java.nio.charset.Charset;
import java.time.LocalDate;
import java.util.EnumSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import ninepin.core.formula.FormulaScope;
import ninepin.core.formula.RecordContext;
import ninepin.core.layout.FileCharset;
import ninepin.core.record.Placed;
import ninepin.core.value.Value;

/** Writes a field of the record: numbers, dates and times in ISO form, text in UTF-8 with its finishing touches. */
final class ValueWriter implements ColumnWriter {

    private static final Set<Touch.Kind> SIMPLE = EnumSet.of(Touch.Kind.TRIM, Touch.Kind.UPPER, Touch.Kind.LOWER);

    private final FormulaScope.Place place;
    private final int type;
    private final int field;
    private final boolean trim;
    private final List<Touch.Kind> casing;
    private final String whenBlank;
    private final Charset charset;
    private final boolean utf8;

    /** Whether a rule has only touches that are done here; they leave all but text as it is. */
    static boolean suits(Rule rule) {
        return rule.touches().stream().allMatch(t -> SIMPLE.contains(t.does()));
    }

    ValueWriter(FormulaScope.Place place, Rule rule) {
        this.place = place;
        this.type = place.recordType();
        this.field = place.field();
        List<Touch.Kind> kinds = rule.touches().stream().map(Touch::does).toList();
        this.trim = kinds.contains(Touch.Kind.TRIM);
        this.casing = kinds.stream().filter(t -> t != Touch.Kind.TRIM).toList();
        this.whenBlank = rule.whenBlank();
        this.charset = place.charset().charset();
        this.utf8 = place.charset() == FileCharset.UTF_8;
    }

    @Override
    public List<FormulaScope.Place> reads() {
        return List.of(place);
    }

    @Override
    public void write(Placed record, RecordContext at, RowBuffer out) {
        Value value = at.value(type, field);
        switch (value.kind()) {
            case NULL:
                blank(out, true);
                return;
            case TEXT:
                text(value, out);
                return;
            case NUMBER:
                number(value.number(), value.scale(), out);
                break;
            case BIG_NUMBER:
                BigDecimal big = value.big();
                out.text(big.toPlainString());
                break;
            case BOOLEAN:
                out.raw(value.number() == 1 ? '1' : '0');
                break;
            case DATE:
                date(value.number(), out);
                break;
            case TIME:
                time(value.number(), out);
                break;
            default:
                date(value.number(), out);
                out.raw(' ');
                time(value.nanos(), out);
        }
        out.endField();
    }

    private void blank(RowBuffer out, boolean asNull) {
        if (whenBlank != null) {
            out.text(whenBlank);
            out.endField();
        } else if (asNull) {
            out.nullField();
        } else {
            out.endField();
        }
    }

    private void text(Value value, RowBuffer out) {
        byte[] bytes = value.bytes();
        int from = value.from();
        int to = value.to();
        int start = from;
        int end = to;
        if (trim || whenBlank != null) {
            while (start < end && isBlank(bytes[start])) {
                start++;
            }
            while (end > start && isBlank(bytes[end - 1])) {
                end--;
            }
            if (start == end) {
                blank(out, trim);
                return;
            }
        }
        if (trim) {
            from = start;
            to = end;
        }
        boolean ascii = value.characters() == value.to() - value.from() && (utf8 || isAscii(bytes, from, to));
        if (casing.isEmpty() && (utf8 || ascii)) {
            out.escaped(bytes, from, to);
        } else {
            String text = new String(bytes, from, to - from, charset);
            for (Touch.Kind touch : casing) {
                text = touch == Touch.Kind.UPPER ? text.toUpperCase(Locale.ROOT) : text.toLowerCase(Locale.ROOT);
            }
            out.text(text);
        }
        out.endField();
    }

    private static boolean isBlank(byte b) {
        return b == ' ' || b == '\t' || b == '\r' || b == '\n';
    }

    private static boolean isAscii(byte[] bytes, int from, int to) {
        int all = 0;
        for (int i = from; i < to; i++) {
            all |= bytes[i];
        }
        return all >= 0;
    }

    static void number(long unscaled, int scale, RowBuffer out) {
        if (scale == 0) {
            out.digits(unscaled);
            return;
        }
        long power = 1;
        for (int i = 0; i < scale; i++) {
            power *= 10;
        }
        long magnitude = Math.abs(unscaled);
        if (unscaled < 0) {
            out.raw('-');
        }
        out.digits(magnitude / power);
        out.raw('.');
        out.padded(magnitude % power, scale);
    }

    static void date(long epochDay, RowBuffer out) {
        LocalDate date = LocalDate.ofEpochDay(epochDay);
        out.padded(date.getYear(), 4);
        out.raw('-');
        out.padded(date.getMonthValue(), 2);
        out.raw('-');
        out.padded(date.getDayOfMonth(), 2);
    }

    static void time(long nanosOfDay, RowBuffer out) {
        long seconds = nanosOfDay / 1_000_000_000L;
        out.padded(seconds / 3600, 2);
        out.raw(':');
        out.padded(seconds / 60 % 60, 2);
        out.raw(':');
        out.padded(seconds % 60, 2);
        long nanos = nanosOfDay % 1_000_000_000L;
        if (nanos != 0) {
            out.raw('.');
            long micros = nanos / 1_000;
            if (nanos % 1_000 == 0) {
                out.padded(micros, 6);
            } else {
                out.padded(nanos, 9);
            }
        }
    }
}
