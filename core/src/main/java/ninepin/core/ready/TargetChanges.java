package ninepin.core.ready;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.TreeSet;
import java.util.stream.Collectors;
import ninepin.core.deliver.TableDescription;
import ninepin.core.deliver.TableDescription.Column;

/** What has changed in a table, or in what an application takes, since it was looked at last. */
public final class TargetChanges {

    private TargetChanges() {}

    /** The changes in words, one for each; none where nothing that matters to a delivery has changed. */
    public static List<String> between(TableDescription before, TableDescription now) {
        List<String> changes = new ArrayList<>();
        for (Column old : before.columns()) {
            Column column = now.column(old.name()).orElse(null);
            if (column == null) {
                changes.add(old.name() + " is gone");
            } else {
                ofColumn(old, column, changes);
            }
        }
        for (Column column : now.columns()) {
            if (before.column(column.name()).isEmpty()) {
                changes.add(column.name() + " is new (" + column.label()
                        + (column.needsRule() ? ", must have a value)" : ")"));
            }
        }
        if (!keys(before).equals(keys(now))) {
            changes.add("unique are now " + words(now) + ", before " + words(before));
        }
        if (before.view() != now.view()) {
            changes.add(now.view() ? "it is a view now" : "it is a table now");
        }
        return changes;
    }

    private static void ofColumn(Column old, Column now, List<String> changes) {
        if (!old.label().equals(now.label())) {
            changes.add(now.name() + " is " + now.label() + ", before " + old.label());
        }
        if (old.nullable() != now.nullable()) {
            changes.add(now.name() + (now.nullable() ? " may be NULL now" : " must have a value now"));
        }
        if (!old.nullable() && !now.nullable() && old.hasDefault() != now.hasDefault()) {
            changes.add(now.name() + (now.hasDefault() ? " has a default now" : " has no default any more"));
        }
        if (old.generated() != now.generated()) {
            changes.add(
                    now.name() + (now.generated() ? " is computed by the database now" : " is not computed any more"));
        }
    }

    private static TreeSet<String> keys(TableDescription table) {
        return table.uniqueKeys().stream()
                .map(k -> String.join(", ", k).toLowerCase(Locale.ROOT))
                .collect(Collectors.toCollection(TreeSet::new));
    }

    private static String words(TableDescription table) {
        return table.uniqueKeys().isEmpty() ? "no columns" : String.join("; ", keys(table));
    }
}
