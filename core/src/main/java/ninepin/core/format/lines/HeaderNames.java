package ninepin.core.format.lines;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import ninepin.core.layout.Check;
import ninepin.core.layout.Delimited;
import ninepin.core.layout.Field;
import ninepin.core.layout.Place;
import ninepin.core.layout.Shown;
import ninepin.core.record.Fault;
import org.apache.commons.text.similarity.LevenshteinDistance;

/**
 * Finds the columns of fields by the names in a header row.
 *
 * @param anyCase whether names are compared without regard to upper and lower case
 * @param missingColumns whether the row may lack columns whose fields need no value
 * @param extraColumns what happens to columns that no field describes
 * @param adviceTwice what to do about a name that stands twice
 * @param adviceMissing what to do about a missing name that no other is near to
 */
public record HeaderNames(
        boolean anyCase,
        boolean missingColumns,
        Delimited.ExtraColumns extraColumns,
        String adviceTwice,
        String adviceMissing) {

    private static final int MOST_SHOWN = 20;
    /** So many letters may differ in a name that is near to another. */
    private static final int MOST_LETTERS = 2;

    private static final LevenshteinDistance NEAR = new LevenshteinDistance(MOST_LETTERS);

    /**
     * Finds the column of each field that stands under a name.
     *
     * @param columns the names in the row
     * @param columnOf takes for each field its column, counted from 0
     * @param length the bytes of the row, the place of what is found
     * @param notes takes what is to be said without stopping for it
     * @return what keeps the file from being read, or null
     */
    public Fault resolve(List<String> columns, List<Field> fields, int[] columnOf, int length, List<Fault> notes) {
        Map<String, Integer> byName = new HashMap<>();
        Map<String, String> twice = new LinkedHashMap<>();
        for (int c = 0; c < columns.size(); c++) {
            String key = key(columns.get(c));
            if (byName.putIfAbsent(key, c) != null) {
                twice.put(key, columns.get(c));
            }
        }
        List<String> missing = new ArrayList<>();
        for (int f = 0; f < columnOf.length; f++) {
            if (!(fields.get(f).place() instanceof Place.Header place)) {
                continue;
            }
            String header = place.name();
            if (twice.containsKey(key(header))) {
                return new Fault(
                        "HDR-03",
                        -1,
                        0,
                        length,
                        "the column " + Shown.quoted(header) + " twice",
                        "each column once",
                        adviceTwice);
            }
            Integer column = byName.get(key(header));
            if (column == null && missingColumns && !isRequired(fields.get(f))) {
                notes.add(lacking(header, length));
            } else if (column == null) {
                missing.add(header);
            } else {
                columnOf[f] = column;
            }
        }
        if (!missing.isEmpty()) {
            return missingFault(missing, columns, length);
        }
        Fault extra = extraColumns == Delimited.ExtraColumns.IGNORE ? null : extraFault(columns, columnOf, length);
        if (extra != null && extraColumns == Delimited.ExtraColumns.NOTE) {
            notes.add(extra);
            return null;
        }
        return extra;
    }

    private static boolean isRequired(Field field) {
        return field.checks().stream().anyMatch(c -> c instanceof Check.Required);
    }

    private static Fault lacking(String header, int length) {
        return new Fault(
                "HDR-05",
                -1,
                0,
                length,
                "no column " + Shown.quoted(header),
                "one, though its field needs no value",
                "Its values are NULL in this file.");
    }

    /** What there is to say of columns that no field describes, or null. */
    private static Fault extraFault(List<String> columns, int[] columnOf, int length) {
        List<String> extra = new ArrayList<>();
        for (int c = 0; c < columns.size(); c++) {
            int column = c;
            if (Arrays.stream(columnOf).noneMatch(k -> k == column)) {
                extra.add(columns.get(c));
            }
        }
        if (extra.isEmpty()) {
            return null;
        }
        String shown = String.join(", ", extra.size() > MOST_SHOWN ? extra.subList(0, MOST_SHOWN) : extra);
        return new Fault(
                "HDR-04",
                -1,
                0,
                length,
                (extra.size() == 1 ? "the column " : "the columns ") + Shown.visible(shown),
                "only columns that the layout describes",
                "Add a field for it, or let the layout pass over such columns.");
    }

    /** A name as it is compared with others. */
    public String key(String name) {
        return anyCase ? name.toLowerCase(Locale.ROOT) : name;
    }

    private Fault missingFault(List<String> missing, List<String> columns, int length) {
        String shown = String.join(", ", columns.size() > MOST_SHOWN ? columns.subList(0, MOST_SHOWN) : columns);
        String near = nearest(missing.get(0), columns);
        List<String> firstMissing = missing.size() > MOST_SHOWN ? missing.subList(0, MOST_SHOWN) : missing;
        return new Fault(
                "HDR-02",
                -1,
                0,
                length,
                columns.size() + " columns: " + Shown.visible(shown) + (columns.size() > MOST_SHOWN ? " …" : ""),
                (missing.size() == 1 ? "also a column " : "also columns ")
                        + String.join(", ", firstMissing)
                        + (missing.size() > MOST_SHOWN ? " … (" + missing.size() + " in all)" : ""),
                near == null ? adviceMissing : "The nearest column is " + Shown.quoted(near) + ".");
    }

    /** The column whose name is alike but for case, blanks or two letters; or null. */
    public static String nearest(String wanted, List<String> columns) {
        String plain = plain(wanted);
        String best = null;
        int bestDistance = MOST_LETTERS + 1;
        for (String column : columns) {
            int distance = NEAR.apply(plain, plain(column));
            if (distance >= 0 && distance < bestDistance && distance * 2 < Math.max(plain.length(), 1)) {
                bestDistance = distance;
                best = column;
            }
        }
        return best;
    }

    private static String plain(String name) {
        return name.toLowerCase(Locale.ROOT).replaceAll("[\\s_.-]", "");
    }
}
