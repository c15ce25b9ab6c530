package ninepin.core.format.fixedlength;

import java.util.ArrayList;
import java.util.List;
import ninepin.core.infer.FieldGuess;
import ninepin.core.infer.TypeGuess;
import ninepin.core.layout.DataType;
import ninepin.core.layout.Field;
import ninepin.core.layout.Place;

/**
 * Takes the digits of a record that stands once apart, where they begin with the number of records of a type: one line
 * alone does not show that a count and a total stand next to each other.
 */
final class TrailerDigits {

    private static final int SHORTEST = 6;
    private static final int FEWEST = 2;

    private TrailerDigits() {}

    /**
     * Splits fields.
     *
     * @param fields the proposed fields of the record
     * @param line the one line of its type
     * @param counts how many records the other types have
     */
    static List<FieldGuess> split(List<FieldGuess> fields, String line, List<Integer> counts) {
        List<FieldGuess> all = new ArrayList<>();
        for (FieldGuess guess : fields) {
            Place.Span place = (Place.Span) guess.field().place();
            String digits =
                    line.substring(Math.min(place.start() - 1, line.length()), Math.min(place.end(), line.length()));
            int at = digits.length() >= SHORTEST && digits.matches("\\d+") ? place(digits, counts) : 0;
            if (at == 0) {
                all.add(named(guess, all.size() + 1));
            } else {
                all.add(part(place.start(), digits.substring(0, at), all.size() + 1));
                all.add(part(place.start() + at, digits.substring(at), all.size() + 1));
            }
        }
        return all;
    }

    /**
     * The number of first digits that say how many records of some type there are, or 0; rather one behind which the
     * zeros begin that fill a total.
     */
    private static int place(String digits, List<Integer> counts) {
        int first = 0;
        for (int at = 2; at <= Math.min(18, digits.length() - 2); at++) {
            long said = Long.parseLong(digits.substring(0, at));
            if (said >= FEWEST && counts.contains((int) Math.min(said, Integer.MAX_VALUE))) {
                if (digits.charAt(at) == '0') {
                    return at;
                }
                first = first == 0 ? at : first;
            }
        }
        return first;
    }

    private static FieldGuess part(int start, String digits, int number) {
        TypeGuess type = TypeGuess.of(List.of(digits), digits.length());
        DataType own = digits.length() <= 18 ? new DataType.IntegerNumber() : type.type();
        return new FieldGuess(Field.at(start, digits.length(), "field " + number, own), type);
    }

    private static FieldGuess named(FieldGuess guess, int number) {
        Field f = guess.field();
        return new FieldGuess(new Field("field " + number, f.place(), f.type(), List.of()), guess.seen(), guess.note());
    }
}
