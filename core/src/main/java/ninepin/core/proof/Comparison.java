package ninepin.core.proof;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Stream;
import ninepin.core.proof.Proof.Found;
import ninepin.core.proof.Proof.Made;
import ninepin.core.proof.Proof.Row;

/** What differs between what was expected of a sample and what was made of it. */
public final class Comparison {

    /**
     * A difference.
     *
     * @param place where: the record and the target field, or what of the whole
     * @param expected what was expected; null for nothing
     * @param made what was made; null for nothing
     */
    public record Difference(String place, String expected, String made) {
        /** As a line of text. */
        public String words() {
            return place + ": expected " + (expected == null ? "nothing" : expected) + ", got "
                    + (made == null ? "nothing" : made);
        }
    }

    private final List<Difference> found = new ArrayList<>();

    private Comparison() {}

    /** The differences in the order of the file; none where both are the same. */
    public static List<Difference> of(Made expected, Made made) {
        Comparison comparison = new Comparison();
        comparison.differ("how it ended", expected.ended(), made.ended());
        comparison.differ("records read", expected.read(), made.read());
        comparison.differ("records rejected", expected.rejected(), made.rejected());
        comparison.differ("records set aside", expected.setAside(), made.setAside());
        comparison.rows(expected.rows(), made.rows());
        comparison.findings(expected.findings(), made.findings());
        return comparison.found;
    }

    private void differ(String place, Object expected, Object made) {
        if (!expected.equals(made)) {
            found.add(new Difference(place, String.valueOf(expected), String.valueOf(made)));
        }
    }

    /** Rows are told apart by their document and place, so that one that is missing does not shift all others. */
    private void rows(List<Row> expected, List<Row> made) {
        Map<String, List<Row>> left = grouped(expected);
        Map<String, List<Row>> right = grouped(made);
        Set<String> all = new LinkedHashSet<>(left.keySet());
        all.addAll(right.keySet());
        for (String key : all) {
            List<Row> a = left.getOrDefault(key, List.of());
            List<Row> b = right.getOrDefault(key, List.of());
            for (int i = 0; i < Math.max(a.size(), b.size()); i++) {
                String place = key + (Math.max(a.size(), b.size()) > 1 ? " row " + (i + 1) : "");
                if (i >= a.size()) {
                    found.add(new Difference(place, null, shown(b.get(i))));
                } else if (i >= b.size()) {
                    found.add(new Difference(place, shown(a.get(i)), null));
                } else {
                    values(place, a.get(i).values(), b.get(i).values());
                }
            }
        }
    }

    private static Map<String, List<Row>> grouped(List<Row> rows) {
        Map<String, List<Row>> groups = new LinkedHashMap<>();
        for (Row row : rows) {
            String of = row.document() < 0 ? "groups" : "record " + row.document();
            groups.computeIfAbsent(of + " → " + row.to(), k -> new ArrayList<>())
                    .add(row);
        }
        return groups;
    }

    private static String shown(Row row) {
        return row.values().toString();
    }

    private void values(String place, Map<String, String> expected, Map<String, String> made) {
        Set<String> fields = new LinkedHashSet<>(expected.keySet());
        fields.addAll(made.keySet());
        for (String field : fields) {
            String a = value(expected, field);
            String b = value(made, field);
            if (!String.valueOf(a).equals(String.valueOf(b))) {
                found.add(new Difference(place + "." + field, a, b));
            }
        }
    }

    /** A value as it is told; null where there is no such field. */
    private static String value(Map<String, String> values, String field) {
        if (!values.containsKey(field)) {
            return null;
        }
        String value = values.get(field);
        return value == null ? "NULL" : "\"" + value + "\"";
    }

    private void findings(List<Found> expected, List<Found> made) {
        List<Found> lacking = new ArrayList<>(expected);
        List<Found> more = new ArrayList<>();
        for (Found finding : made) {
            if (!lacking.remove(finding)) {
                more.add(finding);
            }
        }
        Stream.concat(lacking.stream(), more.stream())
                .map(Found::record)
                .distinct()
                .sorted()
                .forEach(record -> findings(record, lacking, more));
    }

    private void findings(long record, List<Found> lacking, List<Found> more) {
        List<Found> a = lacking.stream().filter(f -> f.record() == record).toList();
        List<Found> b = more.stream().filter(f -> f.record() == record).toList();
        String place = record == 0 ? "finding about the file" : "finding about record " + record;
        for (int i = 0; i < Math.max(a.size(), b.size()); i++) {
            found.add(new Difference(
                    place,
                    i < a.size() ? a.get(i).message() : null,
                    i < b.size() ? b.get(i).message() : null));
        }
    }
}
