package ninepin.core.format.workbook;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import ninepin.core.layout.DataType;
import ninepin.core.layout.Field;
import ninepin.core.layout.TemporalPattern;
import ninepin.core.value.UnwritableException;
import ninepin.core.value.ValueFormat;

/**
 * Dates and times of ISO 8601 as the type of a field writes them. Most patterns only put the same digits into another order, which is
 * done with the bytes; a file has millions of them.
 */
final class MomentForm {

    private static final String MIDNIGHT = "T00:00:00";
    private static final int LENGTH_OF_DATE = 10;
    private static final int LENGTH_OF_TIME = 8;
    private static final int LENGTH_OF_MOMENT = 19;
    private static final int NONE = Integer.MIN_VALUE;

    private final Field field;
    /** For each byte that is written the place it has in a moment, or its negative where it always stands; null where digits move. */
    private final int[] template;

    private final byte[] whole = new byte[LENGTH_OF_MOMENT];
    private byte[] written = new byte[LENGTH_OF_MOMENT];
    private int length;

    MomentForm(Field field) {
        this.field = field;
        DataType type = field.type();
        String pattern = type instanceof DataType.Date d
                ? d.pattern()
                : type instanceof DataType.Timestamp t
                        ? t.pattern()
                        : type instanceof DataType.Time t ? t.pattern() : null;
        this.template = pattern == null ? null : template(pattern);
    }

    private static int[] template(String pattern) {
        int[] places = new int[pattern.length() * 2];
        int n = 0;
        for (TemporalPattern.Part part : TemporalPattern.parse(pattern).parts()) {
            int place = placeOf(part);
            if (place == NONE) {
                return null;
            }
            int width = place < 0 ? 1 : part.minDigits();
            for (int i = 0; i < width; i++) {
                places[n++] = place + i;
            }
        }
        return Arrays.copyOf(places, n);
    }

    /** Where a part has its digits in a moment; the negative of a character that always stands, {@link #NONE} where digits move. */
    private static int placeOf(TemporalPattern.Part part) {
        if (part.section() != 0 || part.literal() >= 0x80) {
            return NONE;
        }
        int width = part.minDigits() == part.maxDigits() ? part.minDigits() : 0;
        return switch (part.unit()) {
            case LITERAL -> -part.literal();
            case YEAR -> width == 4 ? 0 : NONE;
            case MONTH -> width == 2 ? 5 : NONE;
            case DAY -> width == 2 ? 8 : NONE;
            case HOUR -> width == 2 ? 11 : NONE;
            case MINUTE -> width == 2 ? 14 : NONE;
            case SECOND -> width == 2 ? 17 : NONE;
            default -> NONE;
        };
    }

    /** Takes a date or time, and makes of it what the field has; what does not fit the type of the field stays as it is. */
    void take(byte[] line, int from, int to) {
        int count = to - from;
        DataType type = field.type();
        boolean day = count == LENGTH_OF_DATE;
        boolean time = count == LENGTH_OF_TIME;
        boolean midnight = count == LENGTH_OF_MOMENT && isMidnight(line, from);
        boolean plain = type instanceof DataType.Date && (day || midnight)
                || type instanceof DataType.Time && time
                || type instanceof DataType.Timestamp && (day || count == LENGTH_OF_MOMENT);
        if (template == null || !plain) {
            takeSlowly(new String(line, from, count, StandardCharsets.UTF_8));
            return;
        }
        for (int i = 0; i < LENGTH_OF_MOMENT; i++) {
            whole[i] = '0';
        }
        System.arraycopy(line, from, whole, time ? LENGTH_OF_DATE + 1 : 0, count);
        ensure(template.length);
        for (int i = 0; i < template.length; i++) {
            written[i] = template[i] < 0 ? (byte) -template[i] : whole[template[i]];
        }
        length = template.length;
    }

    private static boolean isMidnight(byte[] line, int from) {
        for (int i = 0; i < MIDNIGHT.length(); i++) {
            if (line[from + LENGTH_OF_DATE + i] != MIDNIGHT.charAt(i)) {
                return false;
            }
        }
        return true;
    }

    private void takeSlowly(String iso) {
        DataType type = field.type();
        String value = type instanceof DataType.Date && iso.endsWith(MIDNIGHT)
                ? iso.substring(0, LENGTH_OF_DATE)
                : type instanceof DataType.Timestamp && iso.length() == LENGTH_OF_DATE ? iso + MIDNIGHT : iso;
        String text = iso;
        if (type instanceof DataType.Date || type instanceof DataType.Time || type instanceof DataType.Timestamp) {
            try {
                text = ValueFormat.text(field, value);
            } catch (UnwritableException e) {
                text = iso;
            }
        }
        byte[] bytes = text.getBytes(StandardCharsets.UTF_8);
        ensure(bytes.length);
        System.arraycopy(bytes, 0, written, 0, bytes.length);
        length = bytes.length;
    }

    private void ensure(int bytes) {
        if (written.length < bytes) {
            written = new byte[bytes];
        }
    }

    byte[] bytes() {
        return written;
    }

    int length() {
        return length;
    }
}
