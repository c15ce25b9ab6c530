package ninepin.server.testing;

import java.net.http.HttpResponse;
import java.util.Map;
import java.util.Set;
import ninepin.core.job.Definitions;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;

/** Holds answers against what the API's own description says of them: the status, and every property and type of the body. */
public final class DescribedAnswers {

    private static final String SCHEMAS = "#/components/schemas/";

    private final JsonNode description;

    /**
     * @param description the API's description (OpenAPI 3.1)
     */
    public DescribedAnswers(JsonNode description) {
        this.description = description;
    }

    /**
     * How an answer departs from what is described.
     *
     * @param operation the operation that was asked
     * @return null where it does not, and for an answer that refuses
     */
    public String departure(JsonNode operation, HttpResponse<String> answer) {
        if (answer.statusCode() >= 400) {
            return null;
        }
        JsonNode response = operation.path("responses").path(String.valueOf(answer.statusCode()));
        if (response.isMissingNode()) {
            return "not the status that is described";
        }
        JsonNode content = response.path("content");
        if (content.isMissingNode() || content.isEmpty()) {
            return answer.body().isEmpty() ? null : "a body where none is described";
        }
        String type = answer.headers().firstValue("Content-Type").orElse("");
        if (!type.contains("json")) {
            return content.has("*/*") || content.propertyNames().stream().anyMatch(type::startsWith)
                    ? null
                    : "not a type that is described: " + type;
        }
        JsonNode json = content.has("application/json") ? content.path("application/json") : content.path("*/*");
        if (json.isMissingNode()
                || json.path("schema").path("format").asString("").equals("binary")) {
            return null;
        }
        JsonNode schema = json.path("schema");
        if (schema.path("type").asString("").equals("string")) {
            return null;
        }
        try {
            return departure(schema, Definitions.mapper().readTree(answer.body()), "answer");
        } catch (JacksonException e) {
            return "no JSON: " + e.getOriginalMessage();
        }
    }

    private String departure(JsonNode schema, JsonNode value, String at) {
        if (schema.has("$ref")) {
            String name = schema.path("$ref").asString().substring(SCHEMAS.length());
            return name.equals("JsonNode")
                    ? null
                    : departure(description.path("components").path("schemas").path(name), value, at);
        }
        if (value.isNull()) {
            return null;
        }
        if (schema.has("enum") && !has(schema.path("enum"), value)) {
            return at + " is " + value + ", which is none of " + schema.path("enum");
        }
        return switch (schema.path("type").asString("")) {
            case "array" -> ofArray(schema, value, at);
            case "object" -> ofObject(schema, value, at);
            case "integer" -> value.isIntegralNumber() ? null : at + " is no whole number: " + value;
            case "number" -> value.isNumber() ? null : at + " is no number: " + value;
            case "boolean" -> value.isBoolean() ? null : at + " is neither true nor false: " + value;
            case "string" -> value.isString() ? null : at + " is no text: " + value;
            default -> null;
        };
    }

    private static boolean has(JsonNode all, JsonNode value) {
        return all.valueStream().anyMatch(value::equals);
    }

    private String ofArray(JsonNode schema, JsonNode value, String at) {
        if (!value.isArray()) {
            return at + " is no array: " + value;
        }
        for (int i = 0; i < value.size(); i++) {
            String departure = departure(schema.path("items"), value.get(i), at + "[" + i + "]");
            if (departure != null) {
                return departure;
            }
        }
        return null;
    }

    private String ofObject(JsonNode schema, JsonNode value, String at) {
        if (!value.isObject()) {
            return at + " is no object: " + value;
        }
        JsonNode known = schema.path("properties");
        JsonNode others = schema.path("additionalProperties");
        for (JsonNode required : schema.path("required")) {
            if (!value.has(required.asString())) {
                return at + " has no " + required.asString();
            }
        }
        for (Map.Entry<String, JsonNode> property : value.properties()) {
            JsonNode of = known.has(property.getKey()) ? known.path(property.getKey()) : others;
            boolean any = of.isBoolean() || of.isMissingNode() && known.isMissingNode();
            if (of.isMissingNode() && !any) {
                return at + " has " + property.getKey() + ", which is not described; there are "
                        + Set.copyOf(known.propertyNames());
            }
            String departure = any ? null : departure(of, property.getValue(), at + "." + property.getKey());
            if (departure != null) {
                return departure;
            }
        }
        return null;
    }
}
