package ninepin.server.app;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.net.URLEncoder;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import ninepin.core.deliver.TableDelivery.Mode;
import ninepin.core.job.Definitions;
import ninepin.core.testing.MariaDbServer;
import ninepin.core.testing.Quality;
import ninepin.server.testing.DescribedAnswers;
import ninepin.server.testing.ServerProcess;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;

/**
 * Requests of all kinds to everything the API describes, with names that are there and names that are not, and bodies that
 * are whole, spoilt or none: each is answered, and what is refused is refused in words, never by an unforeseen error.
 */
class AnyRequestTest {

    private static final int EACH = Integer.getInteger("ninepin.requests", 20);

    private static final List<String> ODD = List.of(
            "nothing-here",
            "0",
            "-1",
            "1",
            "9223372036854775807",
            "99999999999999999999",
            "a'b\"c`d",
            "../../etc/passwd",
            "..",
            "%",
            "\u0000",
            "Söll 😀",
            "x".repeat(3000));

    @TempDir
    static Path folder;

    private static MariaDbServer database;
    private static ServerProcess server;
    private static JsonNode description;
    private static DescribedAnswers described;
    private static final Map<String, List<String>> THERE = new TreeMap<>();
    private static JsonNode job;
    private static JsonNode layout;

    @BeforeAll
    static void start() throws Exception {
        database = MariaDbServer.start();
        database.database("ninepin");
        database.database("warehouse");
        database.execute("warehouse", Quality.TABLE);
        server = new ServerProcess(folder, database);
        server.start();
        server.ask(
                "PUT",
                "/api/v1/connections/warehouse",
                "{\"title\":\"Warehouse\",\"host\":\"127.0.0.1\",\"port\":" + database.port()
                        + ",\"database\":\"warehouse\",\"user\":\"root\",\"password\":\"\"}");
        job = Definitions.mapper().valueToTree(Quality.job(Mode.ADD, null));
        layout = Definitions.mapper().readTree(Definitions.mapper().writeValueAsString(Quality.layout()));
        String name = job.path("name").asString();
        server.ask("POST", "/api/v1/jobs", "{\"revision\":0,\"job\":" + job + ",\"layout\":" + layout + "}");
        JsonNode live = server.ask("POST", "/api/v1/jobs/" + name + "/live", null);
        assertThat(live.path("version").asInt()).as(live.toString()).isEqualTo(1);
        StringBuilder file = new StringBuilder(Quality.HEADER);
        for (int i = 1; i <= 20; i++) {
            file.append("S%d;%s;FAT;3,%02d;03.11.2026;ok\r\n".formatted(i, i % 7 == 0 ? "x" : "7", i));
        }
        long run = server.upload(
                        "/api/v1/jobs/" + name + "/runs",
                        "quality.csv",
                        file.toString().getBytes(Quality.CHARSET))
                .path("id")
                .asLong();
        server.await("/api/v1/runs/" + run, r -> r.path("state").asString().equals("FINISHED"));
        description = server.get("/api/v1/openapi.json");
        described = new DescribedAnswers(description);
        THERE.put("name", List.of(name, layout.path("name").asString(), "warehouse"));
        THERE.put("job", List.of(name));
        THERE.put("root", List.of("partners"));
        THERE.put("owner", List.of("run", "job", "layout"));
        THERE.put("table", List.of("quality_result"));
        for (String id : List.of("id", "run", "record", "leg", "number", "line", "from", "to")) {
            THERE.put(id, List.of("0", "1", String.valueOf(run)));
        }
    }

    @AfterAll
    static void stop() throws Exception {
        server.close();
        database.close();
    }

    @Test
    void every_request_is_answered_and_none_by_an_unforeseen_error() throws Exception {
        long seed = Long.getLong("ninepin.seed", new Random().nextLong(1_000_000));
        Random random = new Random(seed);
        List<String> wrong = new ArrayList<>();
        int asked = 0;
        for (Map.Entry<String, JsonNode> path : description.path("paths").properties()) {
            for (Map.Entry<String, JsonNode> operation : path.getValue().properties()) {
                if (operation.getValue().toString().contains("text/event-stream")) {
                    continue;
                }
                for (int i = 0; i < EACH; i++) {
                    // What is there goes last of all, so that the others find it.
                    boolean spare =
                            operation.getKey().equals("delete") || path.getKey().equals("/api/v1/session");
                    String target = target(path.getKey(), operation.getValue(), random, spare);
                    String body = body(operation.getValue(), random);
                    HttpResponse<String> answer = server.send(operation.getKey().toUpperCase(), target, body);
                    asked++;
                    String problem = problem(answer);
                    if (problem == null) {
                        problem = described.departure(operation.getValue(), answer);
                    }
                    if (problem != null) {
                        wrong.add(operation.getKey() + " " + cut(target) + " " + cut(body) + "\n  -> "
                                + answer.statusCode() + " " + problem + " " + cut(answer.body())
                                + trace(answer.body()));
                    }
                }
            }
        }
        assertThat(asked).isGreaterThan(90 * EACH);
        assertThat(wrong).as("seed " + seed).isEmpty();
        assertThat(server.get("/api/v1/jobs").size()).isPositive();
    }

    /** The same made by many at once: one of them has made it, all others are told so. */
    @Test
    void of_many_who_make_the_same_at_once_one_does_and_the_others_are_told() throws Exception {
        Map<String, String> made = Map.of(
                "/api/v1/code-lists",
                "{\"basedOn\":0,\"note\":\"\",\"list\":{\"name\":\"NAME\",\"columns\":[\"code\"],\"entries\":[]}}",
                "/api/v1/layouts",
                "{\"revision\":0,\"layout\":" + layout.toString().replace("\"name\":\"test\"", "\"name\":\"NAME\"")
                        + "}",
                "/api/v1/jobs",
                "{\"revision\":0,\"job\":" + job.toString().replace("\"name\":\"quality\"", "\"name\":\"NAME\"")
                        + ",\"layout\":" + layout + "}");
        ExecutorService people = Executors.newFixedThreadPool(8);
        for (Map.Entry<String, String> one : made.entrySet()) {
            for (int round = 0; round < 5; round++) {
                String body = one.getValue().replace("NAME", "crowd-" + round);
                Callable<Integer> make =
                        () -> server.send("POST", one.getKey(), body).statusCode();
                List<Integer> answers = new ArrayList<>();
                for (Future<Integer> answer : people.invokeAll(Collections.nCopies(8, make))) {
                    answers.add(answer.get());
                }
                assertThat(answers).as(one.getKey()).containsOnly(201, 409).containsOnlyOnce(201);
            }
        }
        people.shutdown();
    }

    /** Files that are none of the kind, sent to every place that takes one. */
    @Test
    void every_file_is_taken_or_refused_in_words() throws Exception {
        String job = THERE.get("job").get(0);
        Map<String, String> doors = Map.of(
                "/api/v1/layouts/proposal?name=x",
                "POST",
                "/api/v1/layouts/import?name=x&from=xsd",
                "POST",
                "/api/v1/layouts/import?name=x&from=copybook",
                "POST",
                "/api/v1/layouts/import?name=x&from=header",
                "POST",
                "/api/v1/code-lists/read",
                "POST",
                "/api/v1/jobs/" + job + "/sample",
                "PUT",
                "/api/v1/layouts/test/sample",
                "PUT",
                "/api/v1/jobs/" + job + "/runs",
                "POST",
                "/api/v1/rejects/1/file",
                "POST");
        List<byte[]> files = List.of(
                new byte[0],
                new byte[] {0},
                new byte[] {(byte) 0xff, (byte) 0xfe, 'a'},
                new byte[] {(byte) 0x89, 'P', 'N', 'G', '\r', '\n', 0x1a, '\n', 0, 0, 0, (byte) 0xd},
                "\n\n\n".getBytes(),
                ("\"" + "x".repeat(1 << 20)).getBytes(),
                ";".repeat(20_000).getBytes(),
                "<a>".repeat(5_000).getBytes(),
                ("<!DOCTYPE a [<!ENTITY b SYSTEM \"file:///etc/passwd\">]><a>&b;</a>").getBytes(),
                "PK\u0003\u0004 a packed file".getBytes(),
                Quality.line(1).getBytes(StandardCharsets.UTF_16LE),
                layout.toString().getBytes(StandardCharsets.UTF_8));
        List<String> names = List.of("a.csv", "", "../../../x", "Söll 😀.csv", "x".repeat(400) + ".csv", ".", "a;b=c");
        List<String> wrong = new ArrayList<>();
        for (Map.Entry<String, String> door : doors.entrySet()) {
            for (int f = 0; f < files.size(); f++) {
                String name = names.get(f % names.size());
                HttpResponse<String> answer = server.form(door.getValue(), door.getKey(), name, files.get(f));
                String problem = problem(answer);
                if (problem != null || answer.body().contains("root:")) {
                    wrong.add(door.getKey() + " file " + f + " " + cut(name) + "\n  -> " + answer.statusCode() + " "
                            + problem + " " + cut(answer.body()) + trace(answer.body()));
                }
            }
        }
        assertThat(wrong).isEmpty();
        for (JsonNode run : server.get("/api/v1/runs").path("items")) {
            server.await("/api/v1/runs/" + run.path("id").asLong(), r -> !List.of("WAITING", "RUNNING")
                    .contains(r.path("state").asString()));
        }
        assertThat(server.get("/api/v1/runs").toString()).doesNotContain("Something went wrong");
    }

    /** What is wrong with an answer, or null. A target that is away or refuses is told as a bad gateway. */
    private static String problem(HttpResponse<String> answer) {
        int status = answer.statusCode();
        if (status >= 500 && status != 502) {
            return "an unforeseen error";
        }
        boolean words = answer.body().contains("\"detail\"");
        // A path that is none is refused before it comes to the application.
        boolean noPath = status == 400
                && (answer.body().contains("\"error\":\"Bad Request\"")
                        || answer.body().contains("<title>HTTP Status 400"));
        if (status >= 400 && !words && !noPath) {
            return "refused without words";
        }
        return answer.body().contains("Exception:") || answer.body().contains("\tat ") ? "tells its insides" : null;
    }

    /** Where in the application an unforeseen error comes from, as its log tells. */
    private static String trace(String body) throws IOException {
        Matcher number = Pattern.compile("The log tells more under (\\w+)").matcher(body);
        if (!number.find()) {
            return "";
        }
        String log = Files.readString(server.log());
        String from = log.substring(log.indexOf("Unforeseen trouble " + number.group(1)));
        return from.lines()
                .limit(80)
                .filter(l -> l.startsWith("\tat ninepin") || l.contains("Exception"))
                .limit(4)
                .collect(Collectors.joining("\n     ", "\n     ", ""));
    }

    private static String cut(String text) {
        return text == null ? "(no body)" : text.length() > 300 ? text.substring(0, 300) + "…" : text;
    }

    private static String target(String path, JsonNode operation, Random random, boolean spare) {
        String target = path;
        StringBuilder query = new StringBuilder();
        for (JsonNode parameter : operation.path("parameters")) {
            String name = parameter.path("name").asString();
            List<String> there = THERE.getOrDefault(name, List.of());
            boolean known = !spare && !there.isEmpty() && random.nextInt(4) > 0;
            String value = known ? there.get(random.nextInt(there.size())) : ODD.get(random.nextInt(ODD.size()));
            if (parameter.path("in").asString().equals("path")) {
                target = target.replace("{" + name + "}", encoded(value));
            } else if (random.nextInt(3) > 0) {
                query.append(query.isEmpty() ? "?" : "&")
                        .append(name)
                        .append('=')
                        .append(encoded(value));
            }
        }
        return target + query;
    }

    private static String encoded(String value) {
        return URLEncoder.encode(value, StandardCharsets.UTF_8).replace("+", "%20");
    }

    private static String body(JsonNode operation, Random random) {
        JsonNode schema = operation
                .path("requestBody")
                .path("content")
                .path("application/json")
                .path("schema");
        if (schema.isMissingNode()) {
            return null;
        }
        return switch (random.nextInt(10)) {
            case 0 -> "{";
            case 1 -> "[1,2]";
            case 2 -> "\"\\u0000\"";
            case 3 -> "{}";
            case 4 -> "null";
            default -> made(schema, random, 0).toString();
        };
    }

    /** A value of a schema, in which here and there something else stands. */
    private static JsonNode made(JsonNode schema, Random random, int depth) {
        JsonNodeFactory nodes = JsonNodeFactory.instance;
        if (random.nextInt(12) == 0 || depth > 6) {
            return oddity(random);
        }
        if (schema.has("$ref")) {
            String name = schema.path("$ref").asString().replace("#/components/schemas/", "");
            return name.equals("JsonNode") ? definition("", random) : made(named(name), random, depth + 1);
        }
        if (schema.path("type").asString("").equals("array")) {
            ArrayNode array = nodes.arrayNode();
            for (int i = random.nextInt(3); i > 0; i--) {
                array.add(made(schema.path("items"), random, depth + 1));
            }
            return array;
        }
        if (schema.has("properties")) {
            ObjectNode object = nodes.objectNode();
            for (Map.Entry<String, JsonNode> property :
                    schema.path("properties").properties()) {
                boolean defined =
                        property.getKey().equals("job") || property.getKey().equals("layout");
                JsonNode value = defined && random.nextInt(5) > 0
                        ? definition(property.getKey(), random)
                        : made(property.getValue(), random, depth + 1);
                if (random.nextInt(8) > 0) {
                    object.set(property.getKey(), value);
                }
            }
            return object;
        }
        return switch (schema.path("type").asString("string")) {
            case "integer", "number" ->
                nodes.numberNode(random.nextInt(3) == 0 ? random.nextLong() : random.nextInt(5));
            case "boolean" -> nodes.booleanNode(random.nextBoolean());
            case "object" -> random.nextBoolean() ? nodes.objectNode() : definition("", random);
            default -> {
                List<List<String>> all = new ArrayList<>(THERE.values());
                List<String> some = random.nextBoolean() ? ODD : all.get(random.nextInt(all.size()));
                yield nodes.stringNode(some.get(random.nextInt(some.size())));
            }
        };
    }

    private static JsonNode named(String schema) {
        return description.path("components").path("schemas").path(schema);
    }

    /** The job or the layout, as it is or spoilt in one place. */
    private static JsonNode definition(String which, Random random) {
        JsonNode whole = (which.equals("layout") || which.isEmpty() && random.nextBoolean() ? layout : job).deepCopy();
        for (int i = random.nextInt(3); i > 0; i--) {
            spoil(whole, random);
        }
        return whole;
    }

    private static void spoil(JsonNode node, Random random) {
        List<String> names = new ArrayList<>(node.propertyNames());
        int count = node.isArray() ? node.size() : names.size();
        if (count == 0) {
            return;
        }
        int at = random.nextInt(count);
        JsonNode child = node.isArray() ? node.get(at) : node.get(names.get(at));
        if (child.isContainer() && random.nextInt(4) > 0) {
            spoil(child, random);
        } else if (node instanceof ArrayNode array) {
            array.set(at, oddity(random));
        } else if (random.nextBoolean()) {
            ((ObjectNode) node).remove(names.get(at));
        } else {
            ((ObjectNode) node).set(names.get(at), oddity(random));
        }
    }

    private static JsonNode oddity(Random random) {
        JsonNodeFactory nodes = JsonNodeFactory.instance;
        return switch (random.nextInt(7)) {
            case 0 -> nodes.nullNode();
            case 1 -> nodes.numberNode(random.nextLong());
            case 2 -> nodes.arrayNode().add(nodes.nullNode());
            case 3 -> nodes.objectNode();
            case 4 -> nodes.booleanNode(true);
            case 5 -> nodes.stringNode("");
            default -> nodes.stringNode(ODD.get(random.nextInt(ODD.size())));
        };
    }
}
