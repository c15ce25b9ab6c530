package ninepin.core.format.fixedlength.copybook;

import java.util.List;
import java.util.stream.Collectors;
import ninepin.core.format.fixedlength.copybook.Copybook.Entry;
import ninepin.core.layout.Check;
import ninepin.core.layout.Severity;

/** Condition names (level 88) as checks: the values an entry may have. */
final class Conditions {

    private Conditions() {}

    static List<Check> checks(Entry entry) {
        if (entry.conditions.isEmpty()) {
            return List.of();
        }
        boolean number = entry.picture.kind() != Picture.Kind.TEXT;
        if (!number && entry.conditions.stream().noneMatch(c -> c.range)) {
            List<String> values = entry.conditions.stream()
                    .flatMap(c -> c.values.stream())
                    .map(String::stripTrailing)
                    .filter(v -> !v.isEmpty())
                    .distinct()
                    .toList();
            return values.isEmpty() ? List.of() : List.of(new Check.OneOf(values, Severity.REJECT));
        }
        boolean oneRange =
                entry.conditions.size() == 1 && entry.conditions.get(0).values.size() == 2;
        if (oneRange && number) {
            List<String> ends = entry.conditions.get(0).values;
            return List.of(new Check.Range(ends.get(0), ends.get(1), Severity.REJECT));
        }
        return List.of();
    }

    static String words(Entry entry) {
        return entry.conditions.stream()
                .map(c -> CopybookLayout.plain(c.name) + ": " + String.join(c.range ? " to " : ", ", c.values))
                .collect(Collectors.joining("; "));
    }
}
