package ninepin.core.codes;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** A code list as it is asked while records are shaped. Never changes. */
public final class CodeTable {

    private final CodeList list;
    private final Map<String, List<CodeList.Entry>> byValue = new HashMap<>();
    private final int[] longest;
    private final Map<String, Long> missed;

    public CodeTable(CodeList list) {
        this(list, null);
    }

    /**
     * @param missed counts the values that are asked for and not there; null where nobody wants to know
     */
    public CodeTable(CodeList list, Map<String, Long> missed) {
        this.list = list;
        this.missed = missed;
        this.longest = new int[list.columns().size()];
        for (CodeList.Entry entry : list.entries()) {
            byValue.merge(entry.value(0), List.of(entry), CodeTable::both);
            for (int c = 0; c < longest.length; c++) {
                String value = entry.value(c);
                longest[c] = Math.max(longest[c], value == null ? 0 : value.codePointCount(0, value.length()));
            }
        }
    }

    private static List<CodeList.Entry> both(List<CodeList.Entry> some, List<CodeList.Entry> more) {
        List<CodeList.Entry> all = new ArrayList<>(some);
        all.addAll(more);
        return all;
    }

    public String name() {
        return list.name();
    }

    public List<String> columns() {
        return list.columns();
    }

    public CodeList.Missing missing() {
        return list.missing();
    }

    /** The most characters of a column's values. */
    public int longest(int column) {
        return longest[column];
    }

    /** The column that a translation gives when none is named: the first behind the values, if there is one. */
    public int usualColumn() {
        return Math.min(1, longest.length - 1);
    }

    /** The index of a column, regardless of case, or -1. */
    public int column(String name) {
        for (int c = 0; c < longest.length; c++) {
            if (list.columns().get(c).equalsIgnoreCase(name)) {
                return c;
            }
        }
        return -1;
    }

    /**
     * The line of a value on a day, or null.
     *
     * @param epochDay the days since 1970-01-01
     */
    public CodeList.Entry find(String value, long epochDay) {
        for (CodeList.Entry entry : byValue.getOrDefault(value, List.of())) {
            boolean begun = entry.from() == null || entry.from().toEpochDay() <= epochDay;
            boolean over = entry.to() != null && entry.to().toEpochDay() < epochDay;
            if (begun && !over) {
                return entry;
            }
        }
        if (missed != null) {
            missed.merge(value, 1L, Long::sum);
        }
        return null;
    }

    /** Whether a value is in the list on any other day. */
    public boolean knowsOnOtherDays(String value) {
        return byValue.containsKey(value);
    }
}
