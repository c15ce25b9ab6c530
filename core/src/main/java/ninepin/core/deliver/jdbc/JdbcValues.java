package ninepin.core.deliver.jdbc;

import java.math.BigDecimal;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Time;
import java.sql.Timestamp;
import java.sql.Types;
import java.time.DateTimeException;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.format.DateTimeFormatter;
import java.time.format.DateTimeFormatterBuilder;
import java.time.temporal.ChronoField;
import java.util.Set;
import ninepin.core.deliver.TableDescription.Column;

/** Values of rows as the types of columns, and back as text that every database of Ninepin writes the same. */
final class JdbcValues {

    /** The characters of a date. */
    private static final int DATE = 10;

    private static final Set<String> TRUE = Set.of("1", "t", "true");
    private static final DateTimeFormatter CLOCK = new DateTimeFormatterBuilder()
            .appendPattern("HH:mm:ss")
            .appendFraction(ChronoField.NANO_OF_SECOND, 0, 9, true)
            .toFormatter();

    private JdbcValues() {}

    /**
     * Gives a parameter a value.
     *
     * @throws NotOfType where the text is no value of the type
     */
    static void set(PreparedStatement s, int parameter, Column column, String text) throws SQLException, NotOfType {
        if (text == null) {
            s.setNull(parameter, sqlType(column));
            return;
        }
        try {
            switch (column.family()) {
                case WHOLE, EXACT, FLOATING, YEAR -> s.setBigDecimal(parameter, number(column, text));
                case BOOLEAN_BIT -> s.setBoolean(parameter, TRUE.contains(text.toLowerCase()));
                // A time of day behind it is midnight, or was found before.
                case DATE -> s.setObject(parameter, LocalDate.parse(text.substring(0, Math.min(DATE, text.length()))));
                case TIME -> s.setObject(parameter, LocalTime.parse(text));
                case TIMESTAMP -> s.setObject(parameter, LocalDateTime.parse(text.replace(' ', 'T')));
                default -> s.setString(parameter, bounded(column, text));
            }
        } catch (NumberFormatException | DateTimeException e) {
            throw new NotOfType(column, text);
        }
    }

    /** Not every database keeps numbers out that its columns do not hold. */
    private static BigDecimal number(Column column, String text) throws NotOfType {
        BigDecimal number = new BigDecimal(text);
        boolean fits =
                switch (column.family()) {
                    case WHOLE -> isWhole(number, column.precision());
                    case EXACT ->
                        column.precision() == 0
                                || number.precision() - number.scale() <= column.precision() - column.scale();
                    default -> true;
                };
        if (!fits) {
            throw new NotOfType(column, text);
        }
        return number;
    }

    private static boolean isWhole(BigDecimal number, int digits) {
        if (number.stripTrailingZeros().scale() > 0) {
            return false;
        }
        long most =
                switch (digits) {
                    case 3 -> Byte.MAX_VALUE;
                    case 5 -> Short.MAX_VALUE;
                    case 10 -> Integer.MAX_VALUE;
                    default -> Long.MAX_VALUE;
                };
        return number.compareTo(BigDecimal.valueOf(most)) <= 0 && number.compareTo(BigDecimal.valueOf(-most - 1)) >= 0;
    }

    private static String bounded(Column column, String text) throws NotOfType {
        if (column.length() > 0 && text.codePointCount(0, text.length()) > column.length()) {
            throw new NotOfType(column, text);
        }
        return text;
    }

    private static int sqlType(Column column) {
        return switch (column.family()) {
            case WHOLE -> Types.BIGINT;
            case EXACT, FLOATING, YEAR -> Types.DECIMAL;
            case BOOLEAN_BIT -> Types.BOOLEAN;
            case DATE -> Types.DATE;
            case TIME -> Types.TIME;
            case TIMESTAMP -> Types.TIMESTAMP;
            default -> Types.VARCHAR;
        };
    }

    /** A text that is no value of its column. */
    static final class NotOfType extends Exception {
        private static final long serialVersionUID = 1L;

        NotOfType(Column column, String text) {
            super("\"" + (text.length() > 60 ? text.substring(0, 60) + "…" : text) + "\" does not fit into "
                    + column.label() + " for column '" + column.name() + "'");
        }
    }

    /** What stands in a column, as text; null for NULL. */
    static String text(ResultSet row, int column) throws SQLException {
        Object value = row.getObject(column);
        if (value == null) {
            return null;
        }
        if (value instanceof Boolean truth) {
            return truth ? "1" : "0";
        }
        if (value instanceof Timestamp stamp) {
            return written(stamp.toLocalDateTime());
        }
        if (value instanceof LocalDateTime stamp) {
            return written(stamp);
        }
        if (value instanceof Time || value instanceof LocalTime) {
            return CLOCK.format(value instanceof LocalTime time ? time : row.getObject(column, LocalTime.class));
        }
        if (value instanceof BigDecimal number) {
            return number.toPlainString();
        }
        return row.getString(column);
    }

    private static String written(LocalDateTime stamp) {
        return stamp.toLocalDate() + " " + CLOCK.format(stamp);
    }
}
