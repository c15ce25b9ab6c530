package ninepin.core.deliver.application;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * What an application has answered.
 *
 * @param status the status of HTTP
 * @param body what came with it
 */
record Answer(int status, byte[] body) {

    private static final JsonMapper JSON = JsonMapper.builder().build();
    private static final int MOST_WORDS = 400;

    /**
     * What it says is wrong with a part of the request.
     *
     * @param field the path of the part, such as {@code lines[2].article}; null where it says none
     */
    record Complaint(String field, String words) {}

    boolean taken() {
        return status >= 200 && status < 300;
    }

    /** Whether it says that this document is wrong, and another may be taken. */
    boolean refusesDocument() {
        return status == 400 || status == 409 || status == 410 || status == 413 || status == 422;
    }

    /** Whether the same request may be taken later. */
    boolean later() {
        return status == 408 || status == 425 || status == 429 || status >= 500;
    }

    /**
     * Values of it by their names, dots between those inside each other; those that it lacks left out.
     *
     * @param number which of the documents of the request is meant, where it answers with a list
     */
    Map<String, String> values(List<String> names, int number) {
        Map<String, String> values = new LinkedHashMap<>();
        JsonNode root = json();
        root = root.isArray() ? root.path(number) : root;
        for (String name : names) {
            JsonNode at = root;
            for (String part : name.split("\\.")) {
                at = at.path(part);
            }
            if (at.isValueNode() && !at.isNull()) {
                values.put(name, at.asString());
            }
        }
        return values;
    }

    /**
     * What it has to say against the request: each error that it lists, else what it says of all (RFC 9457 and what is
     * like it), else its text.
     */
    List<Complaint> complaints() {
        JsonNode root = json();
        List<Complaint> all = new ArrayList<>();
        for (JsonNode error : root.path("errors")) {
            String words = first(error, "message", "detail", "title", "description", "code");
            if (words == null && error.isString()) {
                words = error.asString();
            }
            if (words != null) {
                all.add(new Complaint(first(error, "field", "path", "pointer", "property", "name"), shown(words)));
            }
        }
        if (all.isEmpty()) {
            String words = first(root, "detail", "message", "error", "title");
            String text = words != null ? words : new String(body, StandardCharsets.UTF_8).strip();
            all.add(new Complaint(null, text.isEmpty() || text.startsWith("<") ? "status " + status : shown(text)));
        }
        return all;
    }

    private static String first(JsonNode node, String... names) {
        for (String name : names) {
            String text = node.path(name).asString("");
            if (!text.isBlank()) {
                return text;
            }
        }
        return null;
    }

    private static String shown(String words) {
        String line = words.replaceAll("\\s+", " ").strip();
        return line.length() <= MOST_WORDS ? line : line.substring(0, MOST_WORDS) + "…";
    }

    private JsonNode json() {
        try {
            return JSON.readTree(body.length == 0 ? "{}".getBytes(StandardCharsets.UTF_8) : body);
        } catch (JacksonException e) {
            return JSON.createObjectNode();
        }
    }
}
