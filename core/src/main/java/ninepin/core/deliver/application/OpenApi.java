package ninepin.core.deliver.application;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import ninepin.core.deliver.TableDescription.Column;
import ninepin.core.deliver.TableDescription.Family;
import ninepin.core.deliver.application.Operation.Input;
import ninepin.core.deliver.application.Operation.Place;
import ninepin.core.layout.DefinitionException;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.dataformat.yaml.YAMLMapper;

/**
 * Reads what an application takes from its OpenAPI document (versions 3.0 and 3.1, as JSON or YAML). References within the
 * document are followed; those that lead outside it are not. Of {@code oneOf} and {@code anyOf} the first is taken, of
 * {@code allOf} all are. A list inside a list of the body is left out.
 */
public final class OpenApi {

    private static final JsonMapper JSON = JsonMapper.builder().build();
    private static final YAMLMapper YAML = YAMLMapper.builder().build();
    private static final int DEEPEST = 8;
    private static final int MOST_INPUTS = 2_000;
    /** The most places that are looked at; a description that refers to itself has as many as one likes. */
    private static final int MOST_PLACES = 500_000;

    private static final Set<String> METHODS = Set.of("post", "put", "patch");

    private final JsonNode document;
    private int places;

    private OpenApi(JsonNode document) {
        this.document = document;
    }

    /**
     * Reads a document.
     *
     * @throws DefinitionException where it is none
     */
    public static OpenApi read(String text) {
        try {
            JsonNode document = parsed(text == null ? "" : text.strip());
            if (document == null || !document.path("openapi").asString("").startsWith("3.")) {
                throw new DefinitionException(
                        "description",
                        "this is no OpenAPI document of version 3, as JSON or YAML; it names its version at \"openapi\"");
            }
            return new OpenApi(document);
        } catch (JacksonException e) {
            throw new DefinitionException(
                    "description", "the OpenAPI document is neither JSON nor YAML: " + e.getOriginalMessage());
        }
    }

    private static JsonNode parsed(String text) {
        if (text.isEmpty()) {
            return JSON.nullNode();
        }
        return text.startsWith("{") ? JSON.readTree(text) : YAML.readTree(text);
    }

    /** What the application calls itself. */
    public String title() {
        return document.path("info").path("title").asString("");
    }

    /** The operations that take something, in the order of the document. */
    public List<Operation> operations() {
        List<Operation> all = new ArrayList<>();
        places = 0;
        for (Map.Entry<String, JsonNode> path : document.path("paths").properties()) {
            for (Map.Entry<String, JsonNode> operation : path.getValue().properties()) {
                if (METHODS.contains(operation.getKey())) {
                    all.add(operation(operation.getKey(), path.getKey(), path.getValue(), operation.getValue()));
                }
            }
        }
        return all;
    }

    /** An operation by its method and path. */
    public Optional<Operation> operation(String method, String path) {
        return operations().stream()
                .filter(o -> o.method().equals(method) && o.path().equals(path))
                .findFirst();
    }

    private Operation operation(String method, String path, JsonNode item, JsonNode operation) {
        List<Input> inputs = new ArrayList<>();
        parameters(item.path("parameters"), inputs);
        parameters(operation.path("parameters"), inputs);
        JsonNode contents = followed(operation.path("requestBody")).path("content");
        String media = media(contents);
        JsonNode schema = contents.path(media).path("schema");
        boolean many = type(followed(schema)).equals("array");
        body(many ? followed(schema).path("items") : schema, "", null, true, 0, inputs);
        Set<String> answers = new LinkedHashSet<>();
        for (Map.Entry<String, JsonNode> response : operation.path("responses").properties()) {
            if (response.getKey().startsWith("2")) {
                JsonNode content = followed(response.getValue()).path("content");
                JsonNode answer = followed(content.path(media(content)).path("schema"));
                answers(type(answer).equals("array") ? answer.path("items") : answer, "", 0, answers);
            }
        }
        return new Operation(
                method.toUpperCase(),
                path,
                operation.path("summary").asString(operation.path("operationId").asString("")),
                media,
                root(schema),
                many,
                inputs,
                List.copyOf(answers));
    }

    /** JSON where it is offered, else XML. */
    private static String media(JsonNode contents) {
        String xml = null;
        for (Map.Entry<String, JsonNode> content : contents.properties()) {
            String type = content.getKey();
            if (type.startsWith("application/json") || type.contains("+json")) {
                return type;
            }
            xml = xml == null && type.contains("xml") ? type : xml;
        }
        return xml == null ? "application/json" : xml;
    }

    private String root(JsonNode schema) {
        String named = followed(schema).path("xml").path("name").asString("");
        String reference = schema.path("$ref").asString("");
        return !named.isEmpty() ? named : reference.isEmpty() ? "document" : reference.replaceAll(".*/", "");
    }

    private void parameters(JsonNode parameters, List<Input> inputs) {
        for (JsonNode written : parameters) {
            JsonNode p = followed(written);
            Place place =
                    switch (p.path("in").asString("")) {
                        case "path" -> Place.PATH;
                        case "query" -> Place.QUERY;
                        case "header" -> Place.HEADER;
                        default -> null;
                    };
            String name = p.path("name").asString("");
            if (place != null && !name.isEmpty()) {
                boolean required = place == Place.PATH || p.path("required").asBoolean(false);
                String known = place.name().toLowerCase() + ":" + name;
                inputs.add(new Input(place, null, name, column(known, followed(p.path("schema")), p, required)));
            }
        }
    }

    /** Takes the values of a schema, those inside others under the names of both. */
    private void body(JsonNode written, String before, String part, boolean required, int depth, List<Input> inputs) {
        look();
        JsonNode schema = followed(written);
        if (depth > DEEPEST || inputs.size() > MOST_INPUTS) {
            return;
        }
        Map<String, JsonNode> properties = new LinkedHashMap<>();
        Set<String> wanted = new LinkedHashSet<>();
        gather(schema, properties, wanted, 0);
        properties.forEach((name, of) -> {
            JsonNode property = followed(of);
            if (property.path("readOnly").asBoolean(false)) {
                return;
            }
            boolean needed = required && wanted.contains(name);
            String type = type(property);
            if (type.equals("array")) {
                if (part == null) {
                    body(property.path("items"), "", before + name, true, depth + 1, inputs);
                }
            } else if (type.equals("object")) {
                body(property, before + name + ".", part, needed, depth + 1, inputs);
            } else {
                inputs.add(
                        new Input(Place.BODY, part, before + name, column(before + name, property, property, needed)));
            }
        });
    }

    private void look() {
        if (++places > MOST_PLACES) {
            throw new DefinitionException(
                    "description",
                    "the OpenAPI document describes more than " + MOST_PLACES + " places; give one with fewer");
        }
    }

    /** The properties of a schema and of all that it is made of. */
    private void gather(JsonNode schema, Map<String, JsonNode> properties, Set<String> wanted, int depth) {
        look();
        if (depth > DEEPEST) {
            return;
        }
        for (JsonNode part : schema.path("allOf")) {
            gather(followed(part), properties, wanted, depth + 1);
        }
        schema.path("properties").properties().forEach(p -> properties.put(p.getKey(), p.getValue()));
        schema.path("required").forEach(r -> wanted.add(r.asString()));
    }

    private void answers(JsonNode written, String before, int depth, Set<String> answers) {
        look();
        JsonNode schema = followed(written);
        if (depth > DEEPEST) {
            return;
        }
        Map<String, JsonNode> properties = new LinkedHashMap<>();
        gather(schema, properties, new LinkedHashSet<>(), 0);
        properties.forEach((name, of) -> {
            String type = type(followed(of));
            if (type.equals("object")) {
                answers(of, before + name + ".", depth + 1, answers);
            } else if (!type.equals("array")) {
                answers.add(before + name);
            }
        });
    }

    /** What a reference within the document leads to, and the first of several choices. */
    private JsonNode followed(JsonNode written) {
        JsonNode at = written;
        for (int i = 0; i < DEEPEST; i++) {
            String reference = at.path("$ref").asString("");
            if (reference.startsWith("#/")) {
                at = document.at(reference.substring(1));
            } else if (at.path("oneOf").size() > 0) {
                at = at.path("oneOf").get(0);
            } else if (at.path("anyOf").size() > 0) {
                at = at.path("anyOf").get(0);
            } else {
                break;
            }
        }
        return at;
    }

    private static String type(JsonNode schema) {
        JsonNode type = schema.path("type");
        if (type.isArray()) {
            for (JsonNode one : type) {
                if (!one.asString("").equals("null")) {
                    return one.asString("");
                }
            }
        }
        String named = type.asString("");
        return named.isEmpty() && (schema.has("properties") || schema.has("allOf")) ? "object" : named;
    }

    private static Column column(String name, JsonNode schema, JsonNode described, boolean required) {
        String type = type(schema);
        String format = schema.path("format").asString("");
        long length = schema.path("maxLength").asLong(0);
        Family family =
                switch (type) {
                    case "integer" -> Family.WHOLE;
                    case "number" -> Family.EXACT;
                    case "boolean" -> Family.BOOLEAN_BIT;
                    default ->
                        format.equals("date")
                                ? Family.DATE
                                : format.equals("date-time")
                                        ? Family.TIMESTAMP
                                        : format.equals("time") ? Family.TIME : Family.TEXT;
                };
        String label = (type.isEmpty() ? "string" : type)
                + (format.isEmpty() ? "" : " " + format)
                + (length > 0 ? "(" + length + ")" : "");
        int precision = family == Family.WHOLE ? 18 : family == Family.EXACT ? 38 : 0;
        return new Column(
                name,
                label,
                family,
                length > 0 ? length : 1 << 20,
                precision,
                family == Family.EXACT ? 18 : 6,
                !required,
                schema.has("default"),
                false,
                false,
                described.path("description").asString(""));
    }
}
