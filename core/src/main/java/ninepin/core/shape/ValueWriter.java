package ninepin.core.shape;

import java.math.BigDecimal;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.time.LocalDate;
import java.util.List;
import java.util.Locale;
import ninepin.core.layout.FileCharset;
import ninepin.core.layout.Layout;
import ninepin.core.read.RawRecord;
import ninepin.core.read.Value;

/** Writes a field of the record: numbers, dates and times in ISO form, text in UTF-8 with its finishing touches. */
final class ValueWriter implements ColumnWriter {

    private final int type;
    private final int field;
    private final boolean trim;
    private final List<Rule.Touch> casing;
    private final String whenBlank;
    private final Charset charset;
    private final boolean utf8;

    ValueWriter(Layout.FieldPlace place, Rule rule, FileCharset charset) {
        this.type = place.type();
        this.field = place.field();
        this.trim = rule.touches().contains(Rule.Touch.TRIM);
        this.casing = rule.touches().stream().filter(t -> t != Rule.Touch.TRIM).toList();
        this.whenBlank = rule.whenBlank();
        this.charset = charset.charset();
        this.utf8 = charset == FileCharset.UTF_8;
    }

    @Override
    public void write(RawRecord record, Value[][] values, RowBuffer out) {
        Value value = values[type][field];
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
            for (Rule.Touch touch : casing) {
                text = touch == Rule.Touch.UPPER ? text.toUpperCase(Locale.ROOT) : text.toLowerCase(Locale.ROOT);
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

    /** A text that is the same for every row, with its touches done beforehand. */
    static ColumnWriter fixed(String text, Rule rule) {
        String value = text;
        for (Rule.Touch touch : rule.touches()) {
            if (value != null) {
                value = touched(value, touch);
            }
        }
        if ((value == null || value.isBlank()) && rule.whenBlank() != null) {
            value = rule.whenBlank();
        }
        byte[] utf8 = value == null ? null : value.getBytes(StandardCharsets.UTF_8);
        return (record, values, out) -> {
            if (utf8 == null) {
                out.nullField();
            } else {
                out.escaped(utf8, 0, utf8.length);
                out.endField();
            }
        };
    }

    static String touched(String value, Rule.Touch touch) {
        switch (touch) {
            case TRIM:
                return value.isBlank() ? null : value.strip();
            case UPPER:
                return value.toUpperCase(Locale.ROOT);
            default:
                return value.toLowerCase(Locale.ROOT);
        }
    }
}
