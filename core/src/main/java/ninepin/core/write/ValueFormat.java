package ninepin.core.write;

import java.math.BigDecimal;
import java.math.RoundingMode;
import java.text.DecimalFormat;
import java.text.DecimalFormatSymbols;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.temporal.ChronoField;
import java.time.temporal.TemporalAccessor;
import java.util.Locale;
import ninepin.core.layout.DataType;
import ninepin.core.layout.Field;
import ninepin.core.layout.TemporalPattern;

/** Values as the type of their field writes them, apart from the forms of fixed-length numbers. */
final class ValueFormat {

    private ValueFormat() {}

    /** The text of a value in a file. */
    static String text(Field field, String value) {
        DataType type = field.type();
        try {
            if (type instanceof DataType.Decimal d) {
                return decimal(d, new BigDecimal(value));
            }
            if (type instanceof DataType.Bool b) {
                return (Boolean.parseBoolean(value) ? b.trueTokens() : b.falseTokens()).get(0);
            }
            if (type instanceof DataType.Date d) {
                return temporal(d.pattern(), LocalDate.parse(value));
            }
            if (type instanceof DataType.Time t) {
                return temporal(t.pattern(), LocalTime.parse(value));
            }
            if (type instanceof DataType.Timestamp t) {
                return temporal(t.pattern(), LocalDateTime.parse(value));
            }
            return value;
        } catch (RuntimeException e) {
            throw new UnwritableException(field.name(), "\"" + value + "\" is no " + type.label());
        }
    }

    private static String decimal(DataType.Decimal type, BigDecimal number) {
        BigDecimal exact = number.setScale(type.scale(), RoundingMode.UNNECESSARY);
        if (type.groupingSign() == null) {
            return exact.toPlainString().replace('.', type.decimalSign());
        }
        DecimalFormatSymbols symbols = new DecimalFormatSymbols(Locale.ROOT);
        symbols.setDecimalSeparator(type.decimalSign());
        symbols.setGroupingSeparator(type.groupingSign());
        String pattern = type.scale() == 0 ? "#,##0" : "#,##0." + "0".repeat(type.scale());
        DecimalFormat format = new DecimalFormat(pattern, symbols);
        format.setParseBigDecimal(true);
        return format.format(exact);
    }

    private static String temporal(String pattern, TemporalAccessor value) {
        StringBuilder text = new StringBuilder();
        for (TemporalPattern.Part part : TemporalPattern.parse(pattern).parts()) {
            switch (part.unit()) {
                case YEAR -> {
                    int year = value.get(ChronoField.YEAR);
                    text.append(padded(part.maxDigits() == 2 ? year % 100 : year, part.maxDigits()));
                }
                case MONTH -> text.append(padded(value.get(ChronoField.MONTH_OF_YEAR), part.minDigits()));
                case DAY -> text.append(padded(value.get(ChronoField.DAY_OF_MONTH), part.minDigits()));
                case HOUR -> text.append(padded(value.get(ChronoField.HOUR_OF_DAY), part.minDigits()));
                case MINUTE -> text.append(padded(value.get(ChronoField.MINUTE_OF_HOUR), part.minDigits()));
                case SECOND -> text.append(padded(value.get(ChronoField.SECOND_OF_MINUTE), part.minDigits()));
                case FRACTION -> {
                    String nanos = padded(value.get(ChronoField.NANO_OF_SECOND), 9);
                    text.append(nanos, 0, Math.min(9, part.maxDigits()));
                }
                default -> text.append(part.literal());
            }
        }
        return text.toString();
    }

    private static String padded(int number, int digits) {
        return String.format(Locale.ROOT, "%0" + digits + "d", number);
    }
}
