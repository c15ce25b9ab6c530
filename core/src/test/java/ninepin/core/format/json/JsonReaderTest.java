package ninepin.core.format.json;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import ninepin.core.bytes.MemorySource;
import ninepin.core.job.Definitions;
import ninepin.core.layout.Layout;
import ninepin.core.record.Position;
import ninepin.core.record.RecordReader;
import ninepin.core.testing.Reading;
import org.junit.jupiter.api.Test;
import tools.jackson.core.JacksonException;
import tools.jackson.core.StreamReadFeature;
import tools.jackson.databind.DeserializationFeature;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/** What is read from a JSON document is what a tree of it says, and what is no JSON is refused by both. */
class JsonReaderTest {

    private static final JsonMapper JSON = JsonMapper.builder()
            .enable(StreamReadFeature.STRICT_DUPLICATE_DETECTION)
            .enable(DeserializationFeature.FAIL_ON_TRAILING_TOKENS)
            .enable(DeserializationFeature.USE_BIG_DECIMAL_FOR_FLOATS)
            .build();

    private static final Layout LAYOUT = Definitions.layout(
            """
            {"name":"j","format":{"kind":"json"},"recordTypes":[
             {"name":"row","when":{"by":"json","path":"$.rows[*]"},"fields":[
              {"name":"a","json":"a","type":{"is":"text","length":1000}},
              {"name":"c","json":"b.c","type":{"is":"text","length":1000}},
              {"name":"d","json":"d[1]","type":{"is":"text","length":1000}}]},
             {"name":"part","parent":"row","when":{"by":"json","path":"$.rows[*].parts[*]"},"fields":[
              {"name":"a","json":"a","type":{"is":"text","length":1000}}]}]}
            """);

    private static final String[] NAMES = {"a", "b", "c", "d", "rows", "parts", "\u00e4 \"x\"", ""};

    private static JsonNode any(Random random, int depth) {
        return switch (random.nextInt(depth > 4 ? 5 : 8)) {
            case 0 -> JSON.getNodeFactory().nullNode();
            case 1 -> JSON.getNodeFactory().booleanNode(random.nextBoolean());
            case 2 -> JSON.getNodeFactory().numberNode(random.nextInt(2_000_000) - 1_000_000);
            case 3, 4 -> JSON.getNodeFactory().stringNode(text(random));
            case 5 -> array(random, depth);
            default -> object(random, depth);
        };
    }

    /** An object that the layout fits, with what it does not know beside it. */
    private static ObjectNode row(Random random) {
        ObjectNode row = object(random, 2);
        row.remove(List.of("b", "d", "parts"));
        if (random.nextBoolean()) {
            row.set("b", random.nextInt(4) == 0 ? JSON.getNodeFactory().nullNode() : object(random, 3));
        }
        if (random.nextBoolean()) {
            row.set("d", array(random, 3));
        }
        if (random.nextBoolean()) {
            ArrayNode parts = JSON.createArrayNode();
            for (int i = random.nextInt(4); i > 0; i--) {
                parts.add(object(random, 3));
            }
            row.set("parts", parts);
        }
        return row;
    }

    private static String text(Random random) {
        String letters = "aZ \"\\/\n\t\b\u00e4\u20ac\ud83d\ude00{}[]:,'";
        StringBuilder text = new StringBuilder();
        for (int i = random.nextInt(12); i > 0; i--) {
            text.appendCodePoint(
                    letters.codePoints().toArray()[random.nextInt(letters.codePointCount(0, letters.length()))]);
        }
        return text.toString();
    }

    private static ArrayNode array(Random random, int depth) {
        ArrayNode array = JSON.createArrayNode();
        for (int i = random.nextInt(4); i > 0; i--) {
            array.add(any(random, depth + 1));
        }
        return array;
    }

    private static ObjectNode object(Random random, int depth) {
        ObjectNode object = JSON.createObjectNode();
        for (int i = random.nextInt(6); i > 0; i--) {
            object.set(NAMES[random.nextInt(NAMES.length)], any(random, depth + 1));
        }
        return object;
    }

    /** The rows and their parts, as the tree has them; raw JSON is compared as a tree. */
    private static List<List<String>> expected(JsonNode document) {
        List<List<String>> records = new ArrayList<>();
        for (JsonNode row : elements(document.path("rows"))) {
            records.add(Arrays.asList(
                    "row",
                    value(row.path("a")),
                    value(row.path("b").path("c")),
                    value(row.path("d").path(1))));
            for (JsonNode part : elements(row.path("parts"))) {
                records.add(Arrays.asList("part", value(part.path("a"))));
            }
        }
        return records;
    }

    private static List<JsonNode> elements(JsonNode of) {
        List<JsonNode> elements = new ArrayList<>();
        if (of.isArray()) {
            of.forEach(elements::add);
        }
        return elements;
    }

    private static String value(JsonNode of) {
        return of.isMissingNode() || of.isNull() ? null : of.isString() ? of.asString() : of.toString();
    }

    @Property(tries = 1_500)
    void values_are_those_of_the_tree(@ForAll long seed) throws IOException {
        Random random = new Random(seed);
        ObjectNode document = object(random, 0);
        ArrayNode rows = JSON.createArrayNode();
        for (int i = random.nextInt(4); i > 0; i--) {
            rows.add(row(random));
        }
        document.set("rows", rows);
        String text = random.nextBoolean()
                ? document.toString()
                : JSON.writerWithDefaultPrettyPrinter().writeValueAsString(document);
        Reading reading = Reading.of(LAYOUT, text.getBytes(StandardCharsets.UTF_8));
        assertThat(reading.findings).as(text).isEmpty();
        List<List<String>> read = reading.records.stream()
                .map(r -> r.stream().map(JsonReaderTest::compact).toList())
                .toList();
        List<List<String>> expected = expected(document).stream()
                .map(r -> r.stream().map(JsonReaderTest::compact).toList())
                .toList();
        assertThat(read.toString()).as(text).isEqualTo(expected.toString());
    }

    /** Objects and arrays are handed on as they are written, blanks among them. */
    private static String compact(String value) {
        if (value == null || !value.startsWith("{") && !value.startsWith("[")) {
            return String.valueOf(value);
        }
        try {
            return JSON.readTree(value).toString();
        } catch (JacksonException e) {
            return value;
        }
    }

    @Property(tries = 3_000)
    void what_is_no_json_is_refused_and_nothing_else(@ForAll long seed) throws IOException {
        Random random = new Random(seed);
        StringBuilder text = new StringBuilder(object(random, 0).toString());
        String bytes = "{}[]\",:0123.eE+-\\ntfu \n\u0001x/";
        for (int i = 1 + random.nextInt(2); i > 0; i--) {
            int at = random.nextInt(text.length());
            if (random.nextBoolean()) {
                text.setCharAt(at, bytes.charAt(random.nextInt(bytes.length())));
            } else {
                text.deleteCharAt(at);
            }
        }
        boolean good = isJson(text.toString());
        boolean read = Reading.of(LAYOUT, text.toString().getBytes(StandardCharsets.UTF_8)).findings.stream()
                .noneMatch(f -> f.contains("no JSON") || f.contains("expected a JSON value"));
        assertThat(read).as(text.toString()).isEqualTo(good);
    }

    private static boolean isJson(String text) {
        try {
            JsonMapper.builder()
                    .enable(DeserializationFeature.FAIL_ON_TRAILING_TOKENS)
                    .build()
                    .readTree(text);
            return !text.isBlank();
        } catch (JacksonException e) {
            return false;
        }
    }

    private static final Layout PLAIN_LINES = Definitions.layout(
            """
            {"name":"j","format":{"kind":"json","lines":true},"recordTypes":[{"name":"row","when":{"by":"json","path":"$"},"fields":[
             {"name":"a","json":"a","type":{"is":"text","length":1000}},{"name":"b","json":"b","type":{"is":"text","length":1000}},
             {"name":"c","json":"['long name']","type":{"is":"text","length":1000}}]}]}
            """);

    private static String plainLine(Random random) {
        List<String> names = new ArrayList<>(List.of("a", "b", "long name", "other", "a\\u0041"));
        java.util.Collections.shuffle(names, random);
        String[] values = {
            "1",
            "-0.5",
            "0",
            "true",
            "null",
            "\"\"",
            "\"x y\"",
            "\"\u00e4\u20ac\"",
            "\"a\\nb\"",
            "\"0123456789 abc\"",
            "[1]"
        };
        StringBuilder line = new StringBuilder(random.nextInt(8) == 0 ? " {" : "{");
        for (int i = 0; i < random.nextInt(5); i++) {
            String blank = random.nextInt(4) == 0 ? " " : "";
            line.append(i == 0 ? "" : "," + blank)
                    .append('"')
                    .append(names.get(i))
                    .append("\":")
                    .append(blank);
            line.append(values[random.nextInt(values.length)]);
        }
        return line.append('}').append(random.nextInt(8) == 0 ? " " : "").toString();
    }

    /** The short way through plain lines and the long one come to the same: what the tree says, or a line that is refused. */
    @Property(tries = 3_000)
    void plain_lines_are_what_the_tree_says(@ForAll long seed) throws IOException {
        Random random = new Random(seed);
        StringBuilder text = new StringBuilder();
        List<List<String>> expected = new ArrayList<>();
        int refused = 0;
        for (int i = 0; i < 4; i++) {
            StringBuilder line = new StringBuilder(plainLine(random));
            if (random.nextInt(3) == 0) {
                line.setCharAt(random.nextInt(line.length()), "{}[]\",:0x. -".charAt(random.nextInt(12)));
            }
            text.append(line).append(random.nextBoolean() ? "\n" : "\r\n");
            JsonNode tree = isJson(line.toString()) ? JSON_WITH_DUPLICATES.readTree(line.toString()) : null;
            boolean twice = tree != null && !tree.equals(strictly(line.toString()));
            if (tree == null || !tree.isObject() || twice) {
                refused++;
            } else {
                expected.add(Arrays.asList(
                        "row", value(tree.path("a")), value(tree.path("b")), value(tree.path("long name"))));
            }
        }
        Reading reading = Reading.of(PLAIN_LINES, text.toString().getBytes(StandardCharsets.UTF_8));
        if (refused == 0) {
            assertThat(reading.findings).as(text.toString()).isEmpty();
            assertThat(numbers(reading.records)).as(text.toString()).isEqualTo(numbers(expected));
        } else {
            assertThat(reading.findings).as(text.toString()).isNotEmpty();
            assertThat(numbers(reading.records)).as(text.toString()).containsAll(numbers(expected));
        }
    }

    /** Numbers and parts as what they come to; the tree does not keep how they are written. */
    private static List<String> numbers(List<List<String>> records) {
        return records.stream()
                .map(r -> r.stream().map(JsonReaderTest::normal).toList().toString())
                .toList();
    }

    private static String normal(String value) {
        if (value != null && value.matches("-?\\d+(\\.\\d+)?")) {
            return new java.math.BigDecimal(value).stripTrailingZeros().toPlainString();
        }
        return value != null && value.matches("[\\[{].*") && isJson(value)
                ? JSON_WITH_DUPLICATES.readTree(value).toString()
                : value;
    }

    private static final JsonMapper JSON_WITH_DUPLICATES = JsonMapper.builder()
            .enable(DeserializationFeature.FAIL_ON_TRAILING_TOKENS)
            .enable(DeserializationFeature.USE_BIG_DECIMAL_FOR_FLOATS)
            .build();

    private static JsonNode strictly(String text) {
        try {
            return JSON.readTree(text);
        } catch (JacksonException e) {
            return null;
        }
    }

    @Test
    void a_reading_goes_on_behind_any_record() throws IOException {
        byte[] bytes =
                """
                {"rows":[{"a":1,"parts":[{"a":"x"},{"a":"y"}]},
                 {"a":2}, {"a":3,"parts":[{"a":"z"}]}],"more":[1]}
                """
                        .getBytes(StandardCharsets.UTF_8);
        List<Position> documents = new ArrayList<>();
        List<String> all = read(bytes, Position.START, documents);
        assertThat(all).hasSize(6);
        for (Position from : documents) {
            assertThat(read(bytes, from, new ArrayList<>())).isEqualTo(all.subList((int) from.records(), all.size()));
        }
    }

    private static List<String> read(byte[] bytes, Position from, List<Position> documents) throws IOException {
        MemorySource source = new MemorySource(bytes);
        List<String> all = new ArrayList<>();
        try (RecordReader reader = new JsonReader(source, LAYOUT, from)) {
            while (reader.next() == RecordReader.Item.RECORD) {
                all.add(reader.record().number() + " " + reader.record().offset() + " "
                        + reader.record().text(StandardCharsets.UTF_8));
                if (reader.record().type() == 0) {
                    documents.add(new Position(
                            reader.record().offset(), 1, reader.record().number() - 1));
                }
            }
        }
        return all;
    }

    @Test
    void values_that_stand_deep_in_each_other_are_refused_and_break_nothing() throws IOException {
        String deep = "[".repeat(100_000);
        for (String text : List.of(deep, "{\"rows\":" + deep, "{\"rows\":[{\"a\":" + deep, "{\"x\":".repeat(100_000))) {
            Reading reading = Reading.of(LAYOUT, text.getBytes(StandardCharsets.UTF_8));
            assertThat(reading.findings).hasSize(1).allMatch(f -> f.contains("deep in each other"));
        }
    }

    /** Outside of records nothing is held: a document of any size is read in little memory. */
    @Test
    void what_no_record_takes_is_not_held() throws IOException {
        String skipped = "{\"x\":[" + "{\"long\":\"" + "y".repeat(1000) + "\"},".repeat(1) + "1]},";
        StringBuilder text = new StringBuilder("{\"before\":[");
        text.append(skipped.repeat(100_000)).append("1],\"rows\":[{\"a\":7}]}");
        Reading reading = Reading.of(LAYOUT, text.toString().getBytes(StandardCharsets.UTF_8));
        assertThat(reading.findings).isEmpty();
        assertThat(reading.records).hasSize(1);
    }
}
