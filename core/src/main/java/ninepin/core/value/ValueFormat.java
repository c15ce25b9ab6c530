package ninepin.core.value;

import java.math.BigDecimal;
import java.math.RoundingMode;
import java.text.DecimalFormat;
import java.text.DecimalFormatSymbols;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.util.Locale;
import ninepin.core.layout.DataType;
import ninepin.core.layout.Field;
import ninepin.core.layout.TemporalPattern;

/** Values as the type of their field writes them, apart from the forms of fixed-length numbers. */
public final class ValueFormat {

    private ValueFormat() {}

    /** The text of a value in a file. */
    public static String text(Field field, String value) {
        DataType type = field.type();
        try {
            if (type instanceof DataType.Decimal d) {
                return decimal(d, new BigDecimal(value));
            }
            if (type instanceof DataType.Bool b) {
                return (Boolean.parseBoolean(value) ? b.trueTokens() : b.falseTokens()).get(0);
            }
            if (type instanceof DataType.Date d) {
                return TemporalPattern.parse(d.pattern()).format(LocalDate.parse(value));
            }
            if (type instanceof DataType.Time t) {
                return TemporalPattern.parse(t.pattern()).format(LocalTime.parse(value));
            }
            if (type instanceof DataType.Timestamp t) {
                return TemporalPattern.parse(t.pattern()).format(LocalDateTime.parse(value));
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
}
