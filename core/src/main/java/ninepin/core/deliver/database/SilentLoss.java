package ninepin.core.deliver.database;

import java.util.List;
import ninepin.core.deliver.TableDescription.Column;
import ninepin.core.deliver.TableDescription.Family;
import ninepin.core.shape.RowBuffer;

/** Finds values of which the server would drop digits, a time of day or blanks without saying so. */
public final class SilentLoss {

    /** What a column loses. */
    private enum Watch {
        NOTHING,
        /** Digits behind the point that are not zero. */
        FRACTION,
        /** Digits of the second. */
        SECONDS,
        /** All behind the date. */
        TIME,
        /** Blanks at the end that do not fit. */
        BLANKS
    }

    private final List<Column> columns;
    private final Watch[] watch;
    private final int[] most;
    private final boolean watching;

    public SilentLoss(List<Column> columns) {
        this.columns = columns;
        this.watch = new Watch[columns.size()];
        this.most = new int[columns.size()];
        boolean any = false;
        for (int i = 0; i < watch.length; i++) {
            Column column = columns.get(i);
            watch[i] = watch(column);
            most[i] = watch[i] == Watch.BLANKS ? (int) Math.min(column.length(), Integer.MAX_VALUE) : column.scale();
            any |= watch[i] != Watch.NOTHING;
        }
        this.watching = any;
    }

    private static Watch watch(Column column) {
        Family family = column.family();
        if (family == Family.EXACT) {
            return column.precision() == 0 ? Watch.NOTHING : Watch.FRACTION;
        }
        if (family == Family.TIME || family == Family.TIMESTAMP) {
            return Watch.SECONDS;
        }
        if (family == Family.DATE) {
            return Watch.TIME;
        }
        return family == Family.TEXT && column.length() > 0 ? Watch.BLANKS : Watch.NOTHING;
    }

    /** What the first value would lose, or null where none would lose anything. */
    public String of(RowBuffer rows, int first, int end) {
        if (!watching) {
            return null;
        }
        byte[] bytes = rows.bytes();
        for (int row = first; row < end; row++) {
            int from = rows.start(row);
            int stop = rows.end(row);
            int column = 0;
            for (int i = from; i < stop; i++) {
                if (bytes[i] == '\t' || bytes[i] == '\n') {
                    if (watch[column] != Watch.NOTHING && loses(bytes, from, i, column)) {
                        return "the value would lose " + words(column) + " for column '"
                                + columns.get(column).name() + "' at row " + (row - first + 1);
                    }
                    column++;
                    from = i + 1;
                }
            }
        }
        return null;
    }

    private String words(int column) {
        String type = columns.get(column).label();
        return switch (watch[column]) {
            case FRACTION -> "digits: " + type + " has " + most[column] + " behind the point";
            case SECONDS -> "digits of the second: it is " + type;
            case TIME -> "its time of day: it is " + type;
            default -> "blanks at its end: it is " + type;
        };
    }

    private boolean loses(byte[] bytes, int from, int to, int column) {
        switch (watch[column]) {
            case FRACTION, SECONDS:
                return digitsBehind(bytes, from, to, most[column]);
            case TIME:
                return timeOfDay(bytes, from, to);
            default:
                return to - from > most[column] && bytes[to - 1] == ' ' && characters(bytes, from, to) > most[column];
        }
    }

    /** Whether a date has a time of day behind it that is not midnight. */
    private static boolean timeOfDay(byte[] bytes, int from, int to) {
        for (int i = from + 10; i < to; i++) {
            if (bytes[i] >= '1' && bytes[i] <= '9') {
                return true;
            }
        }
        return false;
    }

    private static boolean digitsBehind(byte[] bytes, int from, int to, int fit) {
        for (int i = to - 1; i > from; i--) {
            if (bytes[i] == '.') {
                for (int d = i + 1 + fit; d < to; d++) {
                    if (bytes[d] != '0') {
                        return true;
                    }
                }
                return false;
            }
        }
        return false;
    }

    private static int characters(byte[] bytes, int from, int to) {
        int characters = 0;
        for (int i = from; i < to; i++) {
            if (bytes[i] == '\\') {
                i++;
            }
            if ((bytes[i] & 0xC0) != 0x80) {
                characters++;
            }
        }
        return characters;
    }
}
