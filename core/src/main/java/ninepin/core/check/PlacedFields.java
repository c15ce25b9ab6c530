package ninepin.core.check;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.function.Predicate;
import ninepin.core.value.PlacedParser;
import ninepin.core.value.Value;

/**
 * The fields of a record type that have a place, taken together where all of them are written as usual and pass their
 * checks. Like goes with like, so that each kind is one short loop. Where this does not hold, nothing is said, and the
 * record has to be looked at field by field.
 */
final class PlacedFields {

    private final PlacedParser.Digits[] digits;
    private final Value[] numbers;
    private final PlacedParser.Text[] texts;
    private final Value[] strings;
    private final PlacedParser.Moment[] moments;
    private final Value[] times;
    /** Those that have checks, or have to have a value and may be blank. */
    private final CheckedField[] checked;
    /** Those that have no quicker way. */
    private final CheckedField[] others;

    PlacedFields(CheckedField[] fields) {
        this.digits = parsers(fields, PlacedParser.Digits.class).toArray(PlacedParser.Digits[]::new);
        this.numbers = values(fields, PlacedParser.Digits.class);
        this.texts = parsers(fields, PlacedParser.Text.class).toArray(PlacedParser.Text[]::new);
        this.strings = values(fields, PlacedParser.Text.class);
        this.moments = parsers(fields, PlacedParser.Moment.class).toArray(PlacedParser.Moment[]::new);
        this.times = values(fields, PlacedParser.Moment.class);
        this.checked = those(
                fields, f -> f.placed != null && (f.checks.length > 0 || f.required != null && f.placed.mayBeNull()));
        this.others = those(fields, f -> f.placed == null);
    }

    private static <T extends PlacedParser> List<T> parsers(CheckedField[] fields, Class<T> kind) {
        List<T> parsers = new ArrayList<>();
        for (CheckedField field : fields) {
            if (kind.isInstance(field.placed)) {
                parsers.add(kind.cast(field.placed));
            }
        }
        return parsers;
    }

    private static Value[] values(CheckedField[] fields, Class<? extends PlacedParser> kind) {
        return Arrays.stream(fields)
                .filter(f -> kind.isInstance(f.placed))
                .map(f -> f.value)
                .toArray(Value[]::new);
    }

    private static CheckedField[] those(CheckedField[] fields, Predicate<CheckedField> which) {
        return Arrays.stream(fields).filter(which).toArray(CheckedField[]::new);
    }

    /** The fields that have to be looked at in full, whatever {@link #take} says. */
    CheckedField[] others() {
        return others;
    }

    /**
     * Takes the fields of a record that stand at their places.
     *
     * @param bytes what holds the record, and at least eight bytes behind it
     * @param start where the record starts among them
     * @return false where one of them has to be looked at in full
     */
    boolean take(byte[] bytes, int start) {
        for (int i = 0; i < digits.length; i++) {
            if (!digits[i].take(bytes, start, numbers[i])) {
                return false;
            }
        }
        for (int i = 0; i < texts.length; i++) {
            if (!texts[i].take(bytes, start, strings[i])) {
                return false;
            }
        }
        for (int i = 0; i < moments.length; i++) {
            if (!moments[i].take(bytes, start, times[i])) {
                return false;
            }
        }
        for (CheckedField field : checked) {
            if (!field.passes()) {
                return false;
            }
        }
        return true;
    }
}
