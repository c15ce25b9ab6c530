package ninepin.core.format.json.schema;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.StreamSupport;
import ninepin.core.layout.DefinitionException;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.dataformat.yaml.YAMLMapper;

/** A document that has schemas in it, as JSON or YAML. References lead to places of the document; nothing is fetched. */
final class SchemaTree {

    private static final JsonMapper JSON = JsonMapper.builder().build();
    private static final YAMLMapper YAML = YAMLMapper.builder().build();
    /** References that lead to references; a longer chain leads in a circle. */
    private static final int MOST_REFERENCES = 50;

    private final JsonNode document;

    private SchemaTree(JsonNode document) {
        this.document = document;
    }

    /**
     * Reads a document.
     *
     * @throws DefinitionException where it is neither JSON nor YAML
     */
    static SchemaTree read(String text) {
        String stripped = text.strip();
        try {
            JsonNode read = stripped.startsWith("{") ? JSON.readTree(stripped) : YAML.readTree(stripped);
            if (read == null || !read.isObject()) {
                throw new DefinitionException("schema", "is no object of JSON or YAML");
            }
            return new SchemaTree(read);
        } catch (JacksonException e) {
            throw new DefinitionException("schema", "is neither JSON nor YAML: " + e.getOriginalMessage());
        }
    }

    JsonNode document() {
        return document;
    }

    /** A schema with its references followed and the parts of {@code allOf} put together. */
    JsonNode resolved(JsonNode schema) {
        return resolved(schema, new HashSet<>());
    }

    private JsonNode resolved(JsonNode schema, Set<String> followed) {
        JsonNode at = schema;
        for (int i = 0; at.path("$ref").isString(); i++) {
            String reference = at.path("$ref").asString();
            if (i > MOST_REFERENCES || !followed.add(reference)) {
                throw new DefinitionException("schema", "the reference " + reference + " leads to itself");
            }
            at = place(reference);
        }
        if (!at.path("allOf").isArray()) {
            return at;
        }
        var all = JsonNodeFactory.instance.objectNode();
        merge(all, at);
        for (JsonNode part : at.path("allOf")) {
            merge(all, resolved(part, new HashSet<>(followed)));
        }
        all.remove("allOf");
        return all;
    }

    /** Puts what one schema says beside what others say; properties and required names of all of them hold. */
    private static void merge(tools.jackson.databind.node.ObjectNode all, JsonNode more) {
        for (Map.Entry<String, JsonNode> e : more.properties()) {
            String key = e.getKey();
            if (key.equals("properties") && all.path(key).isObject()) {
                e.getValue().properties().forEach(p -> all.path(key).asObject().set(p.getKey(), p.getValue()));
            } else if (key.equals("required") && all.path(key).isArray()) {
                e.getValue().forEach(all.path(key).asArray()::add);
            } else {
                all.set(
                        key,
                        key.equals("properties") || key.equals("required")
                                ? e.getValue().deepCopy()
                                : e.getValue());
            }
        }
    }

    private JsonNode place(String reference) {
        if (!reference.startsWith("#")) {
            throw new DefinitionException(
                    "schema", "the reference " + reference + " leads out of the document; put what it means into it");
        }
        JsonNode at = reference.equals("#") ? document : document.at(reference.substring(1));
        if (at.isMissingNode()) {
            at = anchored(document, reference.substring(1));
        }
        if (at == null) {
            throw new DefinitionException("schema", "the reference " + reference + " leads nowhere");
        }
        return at;
    }

    private static JsonNode anchored(JsonNode in, String anchor) {
        for (JsonNode definition : in.path("$defs")) {
            if (definition.path("$anchor").asString("").equals(anchor)) {
                return definition;
            }
        }
        return null;
    }

    /** The types that a value may have, without null. */
    Set<String> types(JsonNode schema) {
        Set<String> types = new LinkedHashSet<>();
        JsonNode type = schema.path("type");
        if (type.isString()) {
            types.add(type.asString());
        }
        type.forEach(t -> types.add(t.asString("")));
        if (types.isEmpty() && schema.path("properties").isObject()) {
            types.add("object");
        }
        if (types.isEmpty() && schema.path("items").isObject()) {
            types.add("array");
        }
        types.remove("null");
        return types;
    }

    /** Whether a value may be null. */
    boolean mayBeNull(JsonNode schema) {
        JsonNode type = schema.path("type");
        boolean listed = StreamSupport.stream(type.spliterator(), false)
                .anyMatch(t -> t.asString("").equals("null"));
        return listed || schema.path("nullable").asBoolean(false);
    }

    /** The one of several schemas that says something beside null; the schema itself where there are none. Several are told. */
    JsonNode one(JsonNode schema, List<JsonNode> others) {
        for (String of : List.of("oneOf", "anyOf")) {
            if (schema.path(of).isArray()) {
                List<JsonNode> all = new ArrayList<>();
                for (JsonNode part : schema.path(of)) {
                    JsonNode resolved = resolved(part);
                    if (!resolved.path("type").asString("").equals("null")) {
                        all.add(resolved);
                    }
                }
                if (!all.isEmpty()) {
                    others.addAll(all.subList(1, all.size()));
                    return all.get(0);
                }
            }
        }
        return schema;
    }

    /** The answers of operations that are JSON, by how people call the operation. */
    Map<String, JsonNode> answers() {
        Map<String, JsonNode> answers = new LinkedHashMap<>();
        for (Map.Entry<String, JsonNode> path : document.path("paths").properties()) {
            for (Map.Entry<String, JsonNode> operation : path.getValue().properties()) {
                for (Map.Entry<String, JsonNode> response :
                        operation.getValue().path("responses").properties()) {
                    JsonNode schema = schemaOf(response.getValue());
                    if (response.getKey().startsWith("2") && schema != null) {
                        answers.putIfAbsent(
                                operation.getKey().toUpperCase(java.util.Locale.ROOT) + " " + path.getKey(), schema);
                    }
                }
            }
        }
        return answers;
    }

    private JsonNode schemaOf(JsonNode response) {
        for (Map.Entry<String, JsonNode> content :
                resolved(response).path("content").properties()) {
            if (content.getKey().contains("json")
                    && content.getValue().path("schema").isObject()) {
                return content.getValue().path("schema");
            }
        }
        return null;
    }
}
