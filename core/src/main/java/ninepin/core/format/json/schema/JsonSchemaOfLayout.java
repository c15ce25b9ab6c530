package ninepin.core.format.json.schema;

import java.util.List;
import ninepin.core.layout.Check;
import ninepin.core.layout.DataType;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.Field;
import ninepin.core.layout.Json;
import ninepin.core.layout.JsonPath;
import ninepin.core.layout.JsonPath.Step;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Place;
import ninepin.core.layout.Recognition;
import ninepin.core.layout.RecordType;
import ninepin.core.layout.Severity;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;

/** Writes a JSON layout as JSON Schema (draft 2020-12): what a file needs to be read without a reject. */
public final class JsonSchemaOfLayout {

    private static final String DRAFT = "https://json-schema.org/draft/2020-12/schema";
    private static final JsonMapper JSON = JsonMapper.builder().build();

    private JsonSchemaOfLayout() {}

    /**
     * The schema of a layout, indented. Of JSON Lines it is that of a line.
     *
     * @throws DefinitionException where the layout is not one of JSON
     */
    public static String write(Layout layout) {
        if (!(layout.format() instanceof Json)) {
            throw new DefinitionException("format", "only a layout of JSON has a JSON Schema");
        }
        ObjectNode root = JsonNodeFactory.instance.objectNode();
        root.put("$schema", DRAFT);
        root.put("title", layout.title());
        for (RecordType type : layout.recordTypes()) {
            JsonPath path = JsonPath.ofRecord("when.path", ((Recognition.JsonPath) type.when()).path());
            ObjectNode record = descend(root, path.steps(), false);
            bounds(root, path.steps(), type);
            for (Field field : type.fields()) {
                field(record, field);
            }
        }
        return JSON.writerWithDefaultPrettyPrinter().writeValueAsString(root) + "\n";
    }

    /** The schema of a value, from one around it on; made where it is not there. */
    private static ObjectNode descend(ObjectNode from, List<Step> steps, boolean required) {
        ObjectNode at = from;
        for (Step step : steps) {
            if (step instanceof JsonPath.Member member) {
                at.put("type", "object");
                if (required) {
                    require(at, member.name());
                }
                at = child(child(at, "properties"), member.name());
            } else if (step instanceof JsonPath.At index) {
                at.put("type", "array");
                ArrayNode items = at.path("prefixItems").isArray()
                        ? at.path("prefixItems").asArray()
                        : at.putArray("prefixItems");
                while (items.size() <= index.index()) {
                    items.addObject();
                }
                at = items.get(index.index()).asObject();
            } else {
                at.put("type", "array");
                at = child(at, "items");
            }
        }
        return at;
    }

    private static ObjectNode child(ObjectNode of, String name) {
        return of.path(name).isObject() ? of.path(name).asObject() : of.putObject(name);
    }

    private static void require(ObjectNode object, String name) {
        ArrayNode required =
                object.path("required").isArray() ? object.path("required").asArray() : object.putArray("required");
        for (int i = 0; i < required.size(); i++) {
            if (required.get(i).asString("").equals(name)) {
                return;
            }
        }
        required.add(name);
    }

    /** How many elements there must and may be, said at their array. */
    private static void bounds(ObjectNode root, List<Step> steps, RecordType type) {
        if (steps.isEmpty() || !(steps.get(steps.size() - 1) instanceof JsonPath.Each)) {
            return;
        }
        ObjectNode array = descend(root, steps.subList(0, steps.size() - 1), false);
        if (type.min() != null) {
            array.put("minItems", type.min());
        }
        if (type.max() != null) {
            array.put("maxItems", type.max());
        }
    }

    private static void field(ObjectNode record, Field field) {
        JsonPath path = JsonPath.ofField("json", ((Place.JsonPath) field.place()).path());
        boolean required =
                field.checks().stream().anyMatch(c -> c instanceof Check.Required && c.severity() != Severity.NOTE);
        boolean present =
                field.checks().stream().anyMatch(c -> c instanceof Check.Present && c.severity() != Severity.NOTE);
        ObjectNode value = descend(record, path.steps(), required || present);
        type(value, field.type(), required);
        for (Check check : field.checks()) {
            if (check.severity() != Severity.NOTE) {
                check(value, check, field.type());
            }
        }
    }

    private static void type(ObjectNode value, DataType type, boolean required) {
        String name = "string";
        if (type instanceof DataType.IntegerNumber) {
            name = "integer";
        } else if (type instanceof DataType.Decimal d) {
            name = "number";
            value.put("multipleOf", java.math.BigDecimal.ONE.movePointLeft(d.scale()));
        } else if (type instanceof DataType.Bool) {
            name = "boolean";
        } else if (type instanceof DataType.Date d && d.pattern().equals("yyyy-MM-dd")) {
            value.put("format", "date");
        } else if (type instanceof DataType.CharacterVarying t) {
            value.put("maxLength", t.length());
        }
        if (required) {
            value.put("type", name);
        } else {
            value.putArray("type").add(name).add("null");
        }
    }

    private static void check(ObjectNode value, Check check, DataType type) {
        boolean number = type instanceof DataType.IntegerNumber || type instanceof DataType.Decimal;
        if (check instanceof Check.Length length) {
            if (length.min() != null) {
                value.put("minLength", length.min());
            }
            if (length.max() != null) {
                value.put("maxLength", length.max());
            }
        } else if (check instanceof Check.OneOf one && type instanceof DataType.CharacterVarying) {
            ArrayNode values = value.putArray("enum");
            one.values().forEach(values::add);
            if (value.path("type").isArray()) {
                values.addNull();
            }
        } else if (check instanceof Check.Matches matches && type instanceof DataType.CharacterVarying) {
            value.put("pattern", "^(?:" + matches.pattern() + ")$");
        } else if (check instanceof Check.Range range && number) {
            if (range.min() != null) {
                value.put("minimum", new java.math.BigDecimal(range.min()));
            }
            if (range.max() != null) {
                value.put("maximum", new java.math.BigDecimal(range.max()));
            }
        }
    }
}
