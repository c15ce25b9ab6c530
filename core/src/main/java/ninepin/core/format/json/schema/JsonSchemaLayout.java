package ninepin.core.format.json.schema;

import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.regex.Pattern;
import java.util.regex.PatternSyntaxException;
import ninepin.core.infer.DistinctNames;
import ninepin.core.infer.FieldGuess;
import ninepin.core.infer.Proposal;
import ninepin.core.infer.Proposal.Guess;
import ninepin.core.infer.Proposal.Sureness;
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
import tools.jackson.databind.JsonNode;

/**
 * A layout of JSON from a schema (JSON Schema, draft 2020-12), or from the schema of what an operation of an OpenAPI document answers:
 * elements of arrays are record types, as they are where a layout is proposed from a sample, and what the schema demands becomes checks.
 */
public final class JsonSchemaLayout {

    private static final int MOST_FIELDS = 4_000;
    private static final int MOST_TYPES = 500;
    private static final int MOST_DEPTH = 40;
    private static final int USUAL_TEXT = 255;
    private static final int LONG_TEXT = 4_000;
    private static final int MOST_VALUES = 500;

    /** Whether a member has to be there. */
    private enum Need {
        NONE,
        /** It may be null. */
        PRESENT,
        VALUE
    }

    /** A record type to be: where it stands, and what it has. */
    private static final class Found {
        final List<Step> steps;
        final Found parent;
        final JsonNode occurs;
        final List<FieldGuess> fields = new ArrayList<>();
        final Set<String> names = new HashSet<>();
        final String words;

        Found(List<Step> steps, Found parent, JsonNode occurs, String words) {
            this.steps = steps;
            this.parent = parent;
            this.occurs = occurs;
            this.words = words;
        }
    }

    private final SchemaTree tree;
    private final List<Guess> guesses = new ArrayList<>();
    private final List<Found> found = new ArrayList<>();
    private int fields;

    private JsonSchemaLayout(SchemaTree tree) {
        this.tree = tree;
    }

    /**
     * Proposes a layout.
     *
     * @param text a schema, or an OpenAPI document, as JSON or YAML
     * @param taken of an OpenAPI document the operation whose answer is wanted, such as {@code GET /stations}; the first otherwise
     * @throws DefinitionException where it is none, or describes nothing that could be a record
     */
    public static Proposal propose(String text, Set<String> taken, String name, String title) {
        SchemaTree tree = SchemaTree.read(text);
        JsonSchemaLayout layout = new JsonSchemaLayout(tree);
        boolean openApi = tree.document().path("openapi").isString();
        if (!openApi) {
            return layout.proposal(tree.document(), "a JSON Schema", name, title, List.of());
        }
        Map<String, JsonNode> answers = tree.answers();
        if (answers.isEmpty()) {
            throw new DefinitionException("description", "describes no operation that answers JSON");
        }
        String chosen = answers.keySet().stream()
                .filter(taken::contains)
                .findFirst()
                .orElse(answers.keySet().iterator().next());
        List<Proposal.Alternative> alternatives = answers.size() < 2
                ? List.of()
                : List.of(new Proposal.Alternative("operation", List.copyOf(answers.keySet()), chosen));
        return layout.proposal(answers.get(chosen), "the answer of " + chosen, name, title, alternatives);
    }

    private Proposal proposal(
            JsonNode schema, String from, String name, String title, List<Proposal.Alternative> alternatives) {
        guesses.add(new Guess("kind", "JSON", Sureness.SURE, "It is " + from + "."));
        JsonNode root = tree.one(tree.resolved(schema), new ArrayList<>());
        Found document = new Found(List.of(), null, null, "");
        if (tree.types(root).contains("object")) {
            object(root, document, List.of(), List.of(), 0, true, Set.of());
        } else if (tree.types(root).contains("array")) {
            array(root, null, List.of(), "", 0, Set.of());
        }
        boolean values = !document.fields.isEmpty();
        if (values && !found.isEmpty()) {
            guesses.add(new Guess(
                    "left out",
                    document.fields.size() + " values around the records",
                    Sureness.UNSURE,
                    "They stand once in the document. With a record type at $ they would be read, and the whole document would be one"
                            + " record that is held in memory."));
        } else if (values) {
            found.add(0, document);
        }
        found.removeIf(f -> f.fields.isEmpty());
        if (found.isEmpty()) {
            throw new DefinitionException("schema", "describes no object with values that could be a record");
        }
        return layout(name, title, alternatives);
    }

    private Proposal layout(String name, String title, List<Proposal.Alternative> alternatives) {
        List<String> names = DistinctNames.of(
                found.stream().map(f -> f.words.isEmpty() ? "/record" : f.words).toList());
        guesses.add(new Guess(
                "record types",
                String.join(", ", names),
                Sureness.SURE,
                "They are the elements of arrays, or the document."));
        List<RecordType> types = new ArrayList<>();
        List<List<FieldGuess>> all = new ArrayList<>();
        for (Found f : found) {
            Found parent = f.parent;
            while (parent != null && !found.contains(parent)) {
                parent = parent.parent;
            }
            String parentName = parent == null ? null : names.get(found.indexOf(parent));
            types.add(new RecordType(
                    names.get(types.size()),
                    new Recognition.JsonPath("$" + new JsonPath(f.steps).text()),
                    parentName,
                    count(f.occurs, "minItems", parentName, 0),
                    count(f.occurs, "maxItems", parentName, 1),
                    f.fields.stream().map(FieldGuess::field).toList()));
            all.add(f.fields);
        }
        Proposal proposal = FieldGuess.proposal(new Layout(name, title, new Json(), types), guesses, all);
        return new Proposal(proposal.layout(), proposal.guesses(), proposal.fields(), alternatives);
    }

    private static Integer count(JsonNode array, String bound, String parent, int least) {
        boolean said = array != null
                && array.path(bound).isIntegralNumber()
                && array.path(bound).asInt() > least - 1;
        return said && parent != null && array.path(bound).asInt() > 0
                ? Integer.valueOf(array.path(bound).asInt())
                : null;
    }

    /**
     * Takes the properties of an object.
     *
     * @param inRecord the way from the record to the object
     * @param around the way from the document to the object
     * @param demanded whether the object has to be there
     * @param open the schemas that are being taken, which come again where one refers to itself
     */
    private void object(
            JsonNode schema,
            Found record,
            List<Step> inRecord,
            List<Step> around,
            int depth,
            boolean demanded,
            Set<JsonNode> open) {
        Set<String> required = new HashSet<>();
        schema.path("required").forEach(r -> required.add(r.asString("")));
        for (Map.Entry<String, JsonNode> property : schema.path("properties").properties()) {
            if (++fields > MOST_FIELDS || found.size() > MOST_TYPES) {
                throw new DefinitionException("schema", "describes more than " + MOST_FIELDS + " values");
            }
            Step step = new JsonPath.Member(property.getKey());
            JsonNode resolved = tree.resolved(property.getValue());
            List<JsonNode> others = new ArrayList<>();
            JsonNode one = tree.one(resolved, others);
            boolean must = demanded
                    && required.contains(property.getKey())
                    && !tree.mayBeNull(resolved)
                    && !tree.mayBeNull(one)
                    && one == resolved;
            boolean present = demanded && required.contains(property.getKey()) && !must;
            Need need = must ? Need.VALUE : present ? Need.PRESENT : Need.NONE;
            member(one, others, record, plus(inRecord, step), plus(around, step), depth, need, open);
        }
    }

    private void member(
            JsonNode schema,
            List<JsonNode> others,
            Found record,
            List<Step> inRecord,
            List<Step> around,
            int depth,
            Need need,
            Set<JsonNode> open) {
        Set<String> types = tree.types(schema);
        boolean again = open.contains(schema) || depth > MOST_DEPTH;
        boolean several = types.size() > 1 || !others.isEmpty();
        Set<JsonNode> inside = new HashSet<>(open);
        inside.add(schema);
        if (!several
                && !again
                && types.contains("object")
                && schema.path("properties").isObject()) {
            object(schema, record, inRecord, around, depth + 1, need == Need.VALUE, inside);
        } else if (!several
                && !again
                && types.contains("array")
                && schema.path("items").isObject()) {
            array(schema, record, around, words(record, inRecord), depth + 1, inside);
        } else {
            String note = again && types.contains("object")
                    ? "refers to itself; the text of the JSON is taken"
                    : several ? "may be of several kinds; the text is taken" : null;
            add(record, inRecord, schema, need, note != null, note);
        }
    }

    /** Makes a record type of the elements of an array. */
    private void array(JsonNode schema, Found around, List<Step> steps, String words, int depth, Set<JsonNode> open) {
        List<Step> each = plus(steps, new JsonPath.Each());
        Found record = new Found(each, around != null && around.steps.isEmpty() ? null : around, schema, words);
        found.add(record);
        List<JsonNode> others = new ArrayList<>();
        JsonNode items = tree.one(tree.resolved(schema.path("items")), others);
        Set<String> types = tree.types(items);
        Set<JsonNode> inside = new HashSet<>(open);
        inside.add(items);
        if (others.isEmpty()
                && types.contains("object")
                && items.path("properties").isObject()
                && !open.contains(items)) {
            object(items, record, List.of(), each, depth, true, inside);
        } else if (others.isEmpty()
                && types.contains("array")
                && items.path("items").isObject()
                && !open.contains(items)) {
            array(items, record, each, words, depth + 1, inside);
        } else {
            add(record, List.of(), items, Need.NONE, types.contains("object") || !others.isEmpty(), null);
        }
    }

    private static String words(Found record, List<Step> inRecord) {
        StringBuilder words = new StringBuilder(record.words);
        for (Step step : inRecord) {
            words.append('/').append(((JsonPath.Member) step).name().replace('/', ' '));
        }
        return words.toString();
    }

    private void add(Found record, List<Step> inRecord, JsonNode schema, Need need, boolean raw, String note) {
        List<String> members =
                inRecord.stream().map(s -> ((JsonPath.Member) s).name()).toList();
        String path = JsonPath.fieldText(members);
        String plain = members.isEmpty()
                ? "value"
                : members.get(members.size() - 1).replace('.', ' ').strip();
        String own = plain.isEmpty() ? "value" : plain.substring(0, Math.min(plain.length(), 100));
        if (!record.names.add(own)) {
            own = String.join(" ", members).replace('.', ' ');
            own = own.substring(0, Math.min(own.length(), 100));
            for (int i = 2; !record.names.add(own); i++) {
                own = plain + i;
            }
        }
        DataType type = raw ? new DataType.CharacterVarying(LONG_TEXT) : type(schema);
        List<Check> checks = raw ? new ArrayList<>() : checks(schema, type);
        if (need != Need.NONE) {
            checks.add(
                    0, need == Need.VALUE ? new Check.Required(Severity.REJECT) : new Check.Present(Severity.REJECT));
        }
        Field field = new Field(own, new Place.JsonPath(path), type, List.of());
        List<Check> fitting = new ArrayList<>();
        for (Check check : checks) {
            try {
                fitting.add(check);
                field = field.withChecks(List.copyOf(fitting));
            } catch (DefinitionException e) {
                // What makes no sense for the type is left to the schema.
                fitting.remove(check);
            }
        }
        record.fields.add(FieldGuess.stated(field, raw ? Sureness.UNSURE : Sureness.SURE, note));
    }

    private DataType type(JsonNode schema) {
        Set<String> types = tree.types(schema);
        String type = types.isEmpty() ? "string" : types.iterator().next();
        return switch (type) {
            case "integer" -> new DataType.IntegerNumber();
            case "number" -> decimal(schema);
            case "boolean" -> new DataType.Bool(List.of("true"), List.of("false"));
            case "string" -> text(schema);
            default -> new DataType.CharacterVarying(LONG_TEXT);
        };
    }

    private static DataType decimal(JsonNode schema) {
        int scale = 6;
        if (schema.path("multipleOf").isNumber()) {
            scale = Math.max(
                    0,
                    schema.path("multipleOf")
                            .decimalValue()
                            .stripTrailingZeros()
                            .scale());
        }
        return new DataType.Decimal(
                Math.min(DataType.Decimal.MOST_DIGITS, 18 + scale), Math.min(scale, 18), '.', null, null, true);
    }

    private static DataType text(JsonNode schema) {
        return switch (schema.path("format").asString("")) {
            case "date" -> new DataType.Date("yyyy-MM-dd");
            case "date-time" -> new DataType.Timestamp("yyyy-MM-dd'T'HH:mm[:ss][.SSSSSS][X]");
            case "time" -> new DataType.Time("HH:mm[:ss]");
            default -> {
                int most = schema.path("maxLength").asInt(USUAL_TEXT);
                yield new DataType.CharacterVarying(Math.max(1, Math.min(DataType.CharacterVarying.MOST, most)));
            }
        };
    }

    private static List<Check> checks(JsonNode schema, DataType type) {
        List<Check> checks = new ArrayList<>();
        Integer least = schema.path("minLength").isIntegralNumber()
                ? schema.path("minLength").asInt()
                : null;
        if (least != null && least > 0) {
            checks.add(new Check.Length(least, null, Severity.REJECT));
        }
        List<String> values = values(schema);
        if (!values.isEmpty()) {
            checks.add(new Check.OneOf(values, Severity.REJECT));
        }
        String pattern = schema.path("pattern").asString("");
        if (!pattern.isEmpty() && isPattern(pattern)) {
            // A pattern of a schema may match any part of the text.
            checks.add(new Check.Matches("(?s).*(?:" + pattern + ").*", Severity.REJECT));
        }
        String low = bound(schema, "minimum");
        String high = bound(schema, "maximum");
        if ((low != null || high != null) && !(type instanceof DataType.CharacterVarying)) {
            checks.add(new Check.Range(low, high, Severity.REJECT));
        }
        return checks;
    }

    private static List<String> values(JsonNode schema) {
        List<String> values = new ArrayList<>();
        schema.path("enum").forEach(v -> {
            if (!v.isNull() && !v.isObject() && !v.isArray() && values.size() < MOST_VALUES) {
                values.add(v.asString());
            }
        });
        if (schema.has("const")
                && !schema.path("const").isContainer()
                && !schema.path("const").isNull()) {
            values.add(schema.path("const").asString());
        }
        return values;
    }

    private static String bound(JsonNode schema, String name) {
        JsonNode bound = schema.path(name);
        return bound.isNumber() ? new BigDecimal(bound.asString()).toPlainString() : null;
    }

    private static boolean isPattern(String pattern) {
        try {
            Pattern.compile(pattern);
            return pattern.length() < 900;
        } catch (PatternSyntaxException e) {
            return false;
        }
    }

    private static List<Step> plus(List<Step> steps, Step step) {
        List<Step> more = new ArrayList<>(steps);
        more.add(step);
        return more;
    }
}
