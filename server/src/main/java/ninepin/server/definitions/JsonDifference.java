package ninepin.server.definitions;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import tools.jackson.databind.JsonNode;

/** What differs between two definitions, part by part. Lists of named things are compared by name, lists
 * as long as before by place. */
public final class JsonDifference {

    /**
     * A part that differs.
     *
     * @param part where it stands, such as {@code shaping › sample_no › touches}
     * @param before what it was, null where it is new
     * @param after what it is, null where it is gone
     */
    public record Change(String part, String before, String after) {}

    private static final List<String> NAMES = List.of("target", "name", "field", "rule");

    private final List<Change> changes = new ArrayList<>();

    private JsonDifference() {}

    public static List<Change> between(JsonNode before, JsonNode after) {
        JsonDifference difference = new JsonDifference();
        difference.compare("", before, after);
        return difference.changes;
    }

    private void compare(String part, JsonNode before, JsonNode after) {
        if (before != null && before.equals(after)) {
            return;
        }
        if (before != null && after != null && before.isObject() && after.isObject()) {
            compareAll(part, fields(before), fields(after));
        } else if (named(before) && named(after)) {
            compareAll(part, items(before), items(after));
        } else if (objects(before) && objects(after) && before.size() == after.size()) {
            compareAll(part, numbered(before), numbered(after));
        } else {
            changes.add(new Change(part, shown(before), shown(after)));
        }
    }

    private void compareAll(String part, Map<String, JsonNode> before, Map<String, JsonNode> after) {
        Set<String> keys = new LinkedHashSet<>(before.keySet());
        keys.addAll(after.keySet());
        for (String key : keys) {
            compare(part.isEmpty() ? key : part + " › " + key, before.get(key), after.get(key));
        }
    }

    private static Map<String, JsonNode> fields(JsonNode object) {
        Map<String, JsonNode> fields = new LinkedHashMap<>();
        object.properties().forEach(e -> fields.put(e.getKey(), e.getValue()));
        return fields;
    }

    private static boolean named(JsonNode node) {
        return node != null && node.isArray() && !node.isEmpty() && items(node).size() == node.size();
    }

    private static boolean objects(JsonNode node) {
        return node != null && node.isArray() && node.valueStream().allMatch(JsonNode::isObject);
    }

    private static Map<String, JsonNode> numbered(JsonNode array) {
        Map<String, JsonNode> items = new LinkedHashMap<>();
        for (JsonNode item : array) {
            items.put(Integer.toString(items.size() + 1), item);
        }
        return items;
    }

    private static Map<String, JsonNode> items(JsonNode array) {
        Map<String, JsonNode> items = new LinkedHashMap<>();
        for (JsonNode item : array) {
            for (String name : NAMES) {
                if (item.isObject() && item.hasNonNull(name) && item.get(name).isString()) {
                    items.put(item.get(name).asString(), item);
                    break;
                }
            }
        }
        return items;
    }

    private static String shown(JsonNode node) {
        if (node == null || node.isNull()) {
            return null;
        }
        return node.isString() ? node.asString() : node.toString();
    }
}
