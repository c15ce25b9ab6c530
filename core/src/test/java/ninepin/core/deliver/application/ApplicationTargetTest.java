package ninepin.core.deliver.application;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.ZoneOffset;
import java.time.ZonedDateTime;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.atomic.AtomicBoolean;
import ninepin.core.deliver.ApplicationAddress;
import ninepin.core.deliver.ApplicationDelivery;
import ninepin.core.deliver.Authentication;
import ninepin.core.deliver.Batch;
import ninepin.core.deliver.LoadConnection;
import ninepin.core.deliver.Loaded;
import ninepin.core.deliver.Mark;
import ninepin.core.deliver.Refusal;
import ninepin.core.deliver.Shares;
import ninepin.core.deliver.TakeUp;
import ninepin.core.deliver.Tally;
import ninepin.core.deliver.TargetException;
import ninepin.core.deliver.application.ScriptedServer.Reply;
import ninepin.core.deliver.application.ScriptedServer.Sent;
import ninepin.core.record.Position;
import ninepin.core.shape.TestRows;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What is sent to an application, and what becomes of its answers. */
class ApplicationTargetTest {

    private static final String DESCRIPTION =
            """
            {"openapi":"3.0.3","info":{"title":"Orders"},"paths":{"/farms/{farm}/orders":{"put":{
             "parameters":[{"name":"farm","in":"path","required":true,"schema":{"type":"integer"}},
              {"name":"day","in":"query","schema":{"type":"string","format":"date"}},
              {"name":"X-Sender","in":"header","schema":{"type":"string"}}],
             "requestBody":{"content":{"MEDIA":{"schema":{"$ref":"#/components/schemas/order"}}}},
             "responses":{"201":{"content":{"application/json":{"schema":{"type":"object","properties":{"id":{"type":"string"}}}}}}}}}},
             "components":{"schemas":{"order":{"type":"object","properties":{
              "number":{"type":"string"},"urgent":{"type":"boolean"},"contact":{"type":"object","properties":{"name":{"type":"string"}}},
              "at":{"type":"string","format":"date-time"},
              "lines":{"type":"array","items":{"allOf":[{"$ref":"#/components/schemas/line"}]}}}},
              "line":{"type":"object","required":["article"],"properties":{"article":{"type":"string"},"amount":{"type":"number"}}}}}}
            """;

    private static final String MANY =
            """
                # Orders, many at a time
                openapi: 3.1.0
                info: {title: Orders}
                paths:
                  /orders:
                    post:
                      summary: Takes orders
                      requestBody:
                        content:
                          application/json:
                            schema: {type: array, items: {$ref: '#/components/schemas/order'}}
                      responses:
                        '200':
                          content:
                            application/json:
                              schema: {type: array, items: {type: object, properties: {id: {type: string}}}}
                components:
                  schemas:
                    order:
                      type: object
                      required: [number]
                      properties:
                        number: {type: string, maxLength: 9}
                        lines: {type: array, items: {type: object, properties: {article: {type: string}}}}
                """;

    private static final RetryPolicy QUICK =
            new RetryPolicy(4, Duration.ofMillis(5), Duration.ofMillis(300), Duration.ofSeconds(5));

    @TempDir
    Path folder;

    private ScriptedServer server;
    private final AtomicBoolean stop = new AtomicBoolean();

    @BeforeEach
    void start() throws IOException {
        server = new ScriptedServer();
    }

    @AfterEach
    void end() {
        server.close();
    }

    private ApplicationTarget target(String media) {
        ApplicationDelivery order =
                new ApplicationDelivery("orders", "PUT", "/farms/{farm}/orders", null, List.of("id"));
        ApplicationDelivery line = new ApplicationDelivery("orders", "PUT", "/farms/{farm}/orders", "lines", null);
        return new ApplicationTarget(
                ApplicationAddress.of(
                        "Orders",
                        server.address(),
                        new Authentication(Authentication.By.BEARER, null, "secret"),
                        DESCRIPTION.replace("MEDIA", media)),
                List.of(
                        new ApplicationTarget.Load(
                                order,
                                List.of(
                                        "number",
                                        "urgent",
                                        "contact.name",
                                        "at",
                                        "path:farm",
                                        "query:day",
                                        "header:X-Sender")),
                        new ApplicationTarget.Load(line, List.of("article", "amount"))),
                "run-1",
                folder.resolve("7.ndjson"),
                QUICK,
                stop::get);
    }

    private static Batch batch(int documents) {
        Batch batch = new Batch(2);
        for (int d = 0; d < documents; d++) {
            TestRows.add(batch.rows(0), "O" + d, "1", "Ann & Co", "2026-11-23 10:12:00", "7", "2026-11-23", "store");
            TestRows.add(batch.rows(1), "twine", "12.50");
            TestRows.add(batch.rows(1), "salt", null);
            batch.endDocument(10 + d * 3L);
        }
        return batch;
    }

    /** The target of an operation that takes up to three orders at a time. */
    private ApplicationTarget many() {
        ApplicationDelivery order = new ApplicationDelivery("orders", "POST", "/orders", null, List.of("id"), 3);
        ApplicationDelivery line = new ApplicationDelivery("orders", "POST", "/orders", "lines", null, 3);
        ApplicationAddress address = ApplicationAddress.of(
                "Orders", server.address(), new Authentication(Authentication.By.NONE, null, null), MANY);
        return new ApplicationTarget(
                address,
                List.of(
                        new ApplicationTarget.Load(order, List.of("number")),
                        new ApplicationTarget.Load(line, List.of("article"))),
                "run-1",
                folder.resolve("8.ndjson"),
                QUICK,
                stop::get);
    }

    /** Orders by the numbers of their first records. */
    private static Batch orders(int from, int to) {
        Batch batch = new Batch(2);
        for (int number = from; number <= to; number++) {
            TestRows.add(batch.rows(0), "O" + (number - 1));
            TestRows.add(batch.rows(1), "twine");
            batch.endDocument(number);
        }
        return batch;
    }

    private static Mark mark(long records) {
        return new Mark(new Position(records, 1, records), Tally.ZERO, Shares.NONE, 1, 0, "f", false);
    }

    private Loaded load(Batch batch) throws TargetException {
        try (ApplicationTarget target = target("application/json")) {
            target.takeUp(TakeUp.ALONE);
            try (LoadConnection connection = target.connect()) {
                return connection.load(batch);
            }
        }
    }

    /** Of seven documents in requests of three, one that is refused is found by halves; the others go through, each once. */
    @Test
    void documents_go_together_where_the_operation_takes_a_list_of_them() throws TargetException {
        assertThat(OpenApi.read(MANY).operation("POST", "/orders").orElseThrow().many())
                .isTrue();
        Reply taken = Reply.of(200, "[{\"id\":\"A\"},{\"id\":\"B\"},{\"id\":\"C\"}]");
        Reply refused =
                Reply.of(422, "{\"errors\":[{\"field\":\"[0].lines[0].article\",\"message\":\"no such article\"}]}");
        server.answers(taken, refused, taken, refused, refused, taken, taken);
        Batch batch = orders(1, 7);
        try (ApplicationTarget target = many()) {
            target.takeUp(TakeUp.ALONE);
            try (LoadConnection connection = target.connect()) {
                Loaded loaded = connection.load(batch);
                assertThat(loaded.all().added()).isEqualTo(12);
                assertThat(loaded.refused())
                        .singleElement()
                        .isEqualTo(new Refusal(
                                4, 1, 4, "article", "APP-01", "Orders says: [0].lines[0].article: no such article"));
            }
        }
        assertThat(server.sent)
                .extracting(Sent::key)
                .containsExactly("run-1-1x3", "run-1-4x3", "run-1-4", "run-1-5x2", "run-1-5", "run-1-6", "run-1-7");
        assertThat(server.sent.get(0).body())
                .isEqualTo(
                        "[{\"number\":\"O0\",\"lines\":[{\"article\":\"twine\"}]},"
                                + "{\"number\":\"O1\",\"lines\":[{\"article\":\"twine\"}]},{\"number\":\"O2\",\"lines\":[{\"article\":\"twine\"}]}]");
    }

    @Test
    void a_document_is_one_request_with_its_lines_inside() throws TargetException {
        Loaded loaded = load(batch(1));

        assertThat(loaded.all().added()).isEqualTo(3);
        Sent sent = server.sent.get(0);
        assertThat(sent.method() + " " + sent.target()).isEqualTo("PUT /api/farms/7/orders?day=2026-11-23");
        assertThat(sent.key()).isEqualTo("run-1-10");
        assertThat(sent.authorization()).isEqualTo("Bearer secret");
        assertThat(sent.body())
                .isEqualTo(
                        "{\"number\":\"O0\",\"urgent\":true,\"contact\":{\"name\":\"Ann & Co\"},\"at\":\"2026-11-23T10:12:00\","
                                + "\"lines\":[{\"article\":\"twine\",\"amount\":12.50},{\"article\":\"salt\"}]}");
    }

    @Test
    void where_the_application_takes_xml_the_same_is_sent_as_elements() throws TargetException {
        try (ApplicationTarget target = target("application/xml")) {
            target.takeUp(TakeUp.ALONE);
            try (LoadConnection connection = target.connect()) {
                connection.load(batch(1));
            }
        }
        assertThat(server.sent.get(0).type()).isEqualTo("application/xml");
        assertThat(server.sent.get(0).body())
                .endsWith("<order><number>O0</number><urgent>true</urgent><contact><name>Ann &amp; Co</name></contact>"
                        + "<at>2026-11-23T10:12:00</at><lines><article>twine</article><amount>12.50</amount></lines>"
                        + "<lines><article>salt</article></lines></order>");
    }

    @Test
    void it_is_sent_again_with_the_same_key_until_it_is_taken() throws TargetException {
        server.answers(Reply.of(503, ""), Reply.of(0, ""), Reply.of(500, "<html>oops</html>"));

        assertThat(load(batch(2)).all().added()).isEqualTo(6);
        assertThat(server.sent)
                .extracting(Sent::key)
                .containsExactly("run-1-10", "run-1-10", "run-1-10", "run-1-10", "run-1-13");
    }

    @ParameterizedTest
    @CsvSource({"seconds", "date"})
    void the_wait_that_is_asked_for_is_waited_within_a_bound(String how) throws TargetException {
        String after = how.equals("seconds")
                ? "1"
                : DateTimeFormatter.RFC_1123_DATE_TIME.format(
                        ZonedDateTime.now(ZoneOffset.UTC).plusMinutes(10));
        server.answers(new Reply(429, "{}", Map.of("Retry-After", after)));
        long begun = System.nanoTime();

        load(batch(1));

        assertThat(Duration.ofNanos(System.nanoTime() - begun)).isGreaterThanOrEqualTo(QUICK.most());
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "422 | {\"errors\":[{\"field\":\"lines[1].article\",\"message\":\"No such article.\"}]} | 1 | 1 | article | lines[1].article: No such article.",
                "422 | {\"errors\":[{\"path\":\"/lines/1/amount\",\"detail\":\"Too much.\"}]}            | 1 | 1 | amount  | /lines/1/amount: Too much.",
                "400 | {\"errors\":[{\"pointer\":\"$.contact.name\",\"message\":\"Who?\"}]}               | 0 | 0 | contact.name | $.contact.name: Who?",
                "409 | {\"title\":\"Conflict\",\"detail\":\"O0 is there already.\"}                       | 0 | 0 |         | O0 is there already.",
                "422 | {\"errors\":[{\"field\":\"lines[9].article\",\"message\":\"Odd.\"}]}               | 0 | 0 |         | lines[9].article: Odd.",
                "400 | not JSON at all                                                              | 0 | 0 |         | not JSON at all",
                "413 | <html><body>too large</body></html>                                          | 0 | 0 |         | status 413"
            })
    void a_refusal_is_told_in_its_own_words_at_the_place_it_names(
            int status, String body, int table, int row, String column, String words) throws TargetException {
        server.answers(Reply.of(status, body));

        Loaded loaded = load(batch(2));

        assertThat(loaded.refused())
                .containsExactly(new Refusal(0, table, row, column, "APP-01", "Orders says: " + words));
        assertThat(loaded.all().added()).as("the other document is taken").isEqualTo(3);
    }

    @ParameterizedTest
    @CsvSource({"401, APP-03", "403, APP-03", "404, APP-04", "302, APP-04", "405, APP-04"})
    void what_is_wrong_with_the_connection_ends_the_run(int status, String code) {
        server.answers(Reply.of(status, "{\"detail\":\"No.\"}"));

        TargetException trouble = catchThrowableOfType(TargetException.class, () -> load(batch(2)));

        assertThat(trouble.code()).isEqualTo(code);
        assertThat(trouble).hasMessageContaining("Orders answers " + status).hasMessageNotContaining("secret");
        assertThat(server.sent).hasSize(1);
    }

    @Test
    void after_some_tries_the_run_fails_and_says_how_to_go_on() {
        server.answers(
                Reply.of(503, "{\"detail\":\"Out of order.\"}"),
                Reply.of(503, ""),
                Reply.of(503, ""),
                Reply.of(503, ""));

        TargetException trouble = catchThrowableOfType(TargetException.class, () -> load(batch(1)));

        assertThat(trouble.code()).isEqualTo("APP-02");
        assertThat(trouble)
                .hasMessageStartingWith("Orders does not take a document: it answers 503")
                .hasMessageContaining("Tried 4 times. What is committed stays");
    }

    @Test
    void an_application_that_is_not_there_cannot_be_reached() {
        server.close();

        TargetException trouble = catchThrowableOfType(TargetException.class, () -> load(batch(1)));

        assertThat(trouble.code()).isEqualTo("APP-02");
        assertThat(trouble).hasMessageStartingWith("Orders cannot be reached. Tried 4 times.");
    }

    @Test
    void while_it_waits_it_says_for_what() throws Exception {
        server.answers(new Reply(503, "", Map.of("Retry-After", "1")), Reply.of(200, "{\"id\":\"A1\"}"));
        try (ApplicationTarget target = target("application/json")) {
            target.takeUp(TakeUp.ALONE);
            assertThat(target.waitsFor()).isNull();
            try (LoadConnection connection = target.connect()) {
                CompletableFuture<Void> loading = CompletableFuture.runAsync(() -> {
                    try {
                        connection.load(batch(1));
                    } catch (TargetException e) {
                        throw new IllegalStateException(e);
                    }
                });
                List<String> said = new ArrayList<>();
                while (!loading.isDone()) {
                    said.add(target.waitsFor());
                    Thread.sleep(5);
                }
                loading.join();
                assertThat(said)
                        .anyMatch(w -> w != null
                                && w.startsWith("Orders does not take a document: it answers 503")
                                && w.endsWith("Tried 1 of 4 times."));
                assertThat(target.waitsFor()).isNull();
            }
        }
    }

    @Test
    void a_wait_ends_when_a_person_asks_to_stop() {
        stop.set(true);
        server.answers(Reply.of(503, ""));

        TargetException trouble = catchThrowableOfType(TargetException.class, () -> load(batch(1)));

        assertThat(trouble.kind()).isEqualTo(TargetException.Kind.STOPPED);
    }

    /** What was sent behind the last mark is sent again with its keys; what was answered to it is not kept twice. */
    @Test
    void a_restart_goes_on_from_the_mark_with_the_answers_that_belong_to_it() throws TargetException, IOException {
        try (ApplicationTarget target = target("application/json")) {
            assertThat(target.takeUp(TakeUp.ALONE)).isEmpty();
            try (LoadConnection connection = target.connect()) {
                connection.load(batch(1));
                connection.commit(mark(3));
                connection.load(batch(2));
            }
        }
        Path answers = ApplicationTarget.answers(folder.resolve("7.ndjson"));
        Files.writeString(answers, "half a li", java.nio.file.StandardOpenOption.APPEND);

        try (ApplicationTarget target = target("application/json")) {
            assertThat(target.takeUp(TakeUp.ALONE)).contains(mark(3));
            try (LoadConnection connection = target.connect()) {
                connection.load(batch(2));
                connection.commit(mark(9));
            }
        }
        assertThat(server.sent)
                .extracting(Sent::key)
                .containsExactly("run-1-10", "run-1-10", "run-1-13", "run-1-10", "run-1-13");
        assertThat(Answers.read(answers, 0, Files.size(answers)))
                .extracting(Answers.Kept::values)
                .containsExactly(Map.of("id", "N1"), Map.of("id", "N4"), Map.of("id", "N5"));
    }

    /** What was sent together goes together again, although a stop had cut the part short before the crash. */
    @ParameterizedTest
    @CsvSource({"7, 7", "5, 7", "4, 9", "2, 9", "1, 8"})
    void what_was_sent_before_a_crash_is_sent_again_in_the_same_requests(int first, int then) throws TargetException {
        try (ApplicationTarget target = many()) {
            target.takeUp(TakeUp.ALONE);
            try (LoadConnection connection = target.connect()) {
                connection.load(orders(1, first));
            }
        }
        List<String> before = server.sent.stream().map(Sent::key).toList();
        server.sent.clear();
        try (ApplicationTarget target = many()) {
            target.takeUp(TakeUp.ALONE);
            try (LoadConnection connection = target.connect()) {
                assertThat(connection.load(orders(1, then)).all().added()).isEqualTo(then * 2L);
                connection.commit(mark(then));
            }
        }
        List<String> again = server.sent.stream().map(Sent::key).toList();
        assertThat(again.subList(0, before.size())).isEqualTo(before);
        long[] booked = {0};
        again.forEach(
                key -> booked[0] += key.contains("x") ? Integer.parseInt(key.substring(key.indexOf('x') + 1)) : 1);
        assertThat(booked[0]).isEqualTo(then);
    }

    @Test
    void what_cannot_go_together_any_more_is_told_and_not_sent() throws TargetException {
        try (ApplicationTarget target = many()) {
            target.takeUp(TakeUp.ALONE);
            try (LoadConnection connection = target.connect()) {
                connection.load(orders(1, 3));
            }
        }
        server.sent.clear();
        try (ApplicationTarget target = many()) {
            target.takeUp(TakeUp.ALONE);
            try (LoadConnection connection = target.connect()) {
                TargetException refused =
                        catchThrowableOfType(TargetException.class, () -> connection.load(orders(1, 2)));
                assertThat(refused.code()).isEqualTo("APP-07");
                assertThat(server.sent).isEmpty();
            }
        }
    }

    /** The answer begins at once and never ends. */
    @Test
    void an_answer_that_does_not_end_is_given_up_in_time() throws Exception {
        try (DrippingServer drips = new DrippingServer()) {
            ApplicationTarget target = dripping(
                    drips, new RetryPolicy(2, Duration.ofMillis(5), Duration.ofMillis(5), Duration.ofMillis(700)));
            TargetException given = catchThrowableOfType(TargetException.class, () -> load(target));
            assertThat(given.code()).isEqualTo("APP-02");
            assertThat(given.kind()).isEqualTo(TargetException.Kind.AWAY);
            assertThat(given.getMessage()).contains("not complete");
        }
    }

    @Test
    void a_stop_does_not_wait_for_an_answer_that_does_not_end() throws Exception {
        try (DrippingServer drips = new DrippingServer()) {
            ApplicationTarget target = dripping(drips, RetryPolicy.USUAL);
            stop.set(true);
            TargetException stopped = catchThrowableOfType(TargetException.class, () -> load(target));
            assertThat(stopped.kind()).isEqualTo(TargetException.Kind.STOPPED);
        }
    }

    private ApplicationTarget dripping(DrippingServer drips, RetryPolicy retries) {
        ApplicationDelivery order = new ApplicationDelivery("orders", "POST", "/orders", null, List.of(), 3);
        ApplicationAddress address = ApplicationAddress.of(
                "Orders", drips.address(), new Authentication(Authentication.By.NONE, null, null), MANY);
        return new ApplicationTarget(
                address,
                List.of(new ApplicationTarget.Load(order, List.of("number"))),
                "run-1",
                folder.resolve("9.ndjson"),
                retries,
                stop::get);
    }

    private static Loaded load(ApplicationTarget target) throws TargetException {
        try (target) {
            target.takeUp(TakeUp.ALONE);
            Batch batch = new Batch(1);
            TestRows.add(batch.rows(0), "O1");
            batch.endDocument(1);
            try (LoadConnection connection = target.connect()) {
                return connection.load(batch);
            }
        }
    }
}
