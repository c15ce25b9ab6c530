package ninepin.server.codes;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import ninepin.core.codes.CodeList;
import ninepin.core.codes.CodeList.Entry;
import ninepin.server.definitions.JsonDifference.Change;

/** How one version of a code list differs from another, line by line. */
final class CodeListDifference {

    private CodeListDifference() {}

    static List<Change> between(CodeList before, CodeList after) {
        List<Change> changes = new ArrayList<>();
        note(changes, "title", before.title(), after.title());
        note(changes, "description", before.description(), after.description());
        note(changes, "columns", String.join(", ", before.columns()), String.join(", ", after.columns()));
        note(
                changes,
                "not in the list",
                before.missing().sentence(),
                after.missing().sentence());
        note(changes, "query", query(before), query(after));
        Map<String, String> old = lines(before);
        Map<String, String> now = lines(after);
        old.forEach((line, text) -> note(changes, line, text, now.get(line)));
        now.forEach((line, text) -> {
            if (!old.containsKey(line)) {
                note(changes, line, null, text);
            }
        });
        return changes;
    }

    private static void note(List<Change> changes, String part, String before, String after) {
        if (!Objects.equals(before, after)) {
            changes.add(new Change(part, before, after));
        }
    }

    private static String query(CodeList list) {
        return list.query() == null
                ? null
                : list.query().statement() + " in " + list.query().connection();
    }

    private static Map<String, String> lines(CodeList list) {
        Map<String, String> lines = new LinkedHashMap<>();
        for (Entry entry : list.entries()) {
            String from = entry.from() == null ? "" : " from " + entry.from();
            List<String> rest = new ArrayList<>();
            for (int c = 1; c < list.columns().size(); c++) {
                rest.add(entry.value(c) == null ? "–" : entry.value(c));
            }
            String until = entry.to() == null ? "" : " until " + entry.to();
            lines.put(entry.value(0) + from, String.join(" · ", rest) + until);
        }
        return lines;
    }
}
