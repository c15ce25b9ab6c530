package ninepin.server.app;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.StreamSupport;
import ninepin.core.testing.MariaDbServer;
import ninepin.core.testing.PostgreSqlServer;
import ninepin.server.testing.ServerProcess;
import ninepin.standins.accounts.FarmAccounts;
import ninepin.standins.accounts.Switches;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;

/** What becomes of records after a run: the reject desk, an application that refuses, rows followed and taken back. */
class DeskTest {

    private static final String LAYOUT =
            """
            {"name":"slips","format":{"kind":"delimited","delimiter":";","quote":"\\"","header":true},"recordTypes":[{"name":"line","fields":[
             {"name":"Slip","header":"Slip","type":{"is":"text","length":10}},
             {"name":"Farm","header":"Farm","type":{"is":"integer"}},
             {"name":"Article","header":"Article","type":{"is":"text","length":10}},
             {"name":"Amount","header":"Amount","type":{"is":"decimal","precision":9,"scale":2}}]}]}
            """;

    @TempDir
    static Path folder;

    private static MariaDbServer database;
    private static ServerProcess server;
    private static FarmAccounts accounts;

    @BeforeAll
    static void start() throws Exception {
        database = MariaDbServer.start();
        database.database("ninepin");
        database.database("shop");
        database.execute(
                "shop",
                "CREATE TABLE slip_line (slip VARCHAR(10), article VARCHAR(10), farm INT, amount DECIMAL(9,2),"
                        + " PRIMARY KEY (slip, article))");
        accounts = FarmAccounts.start(0, folder.resolve("ledger"), "desk-token");
        server = new ServerProcess(folder, database);
        server.start();
        server.ask(
                "PUT",
                "/api/v1/connections/shop",
                "{\"title\":\"Shop\",\"host\":\"127.0.0.1\",\"port\":" + database.port()
                        + ",\"database\":\"shop\",\"user\":\"root\",\"password\":\"\"}");
        server.ask(
                "PUT",
                "/api/v1/connections/accounts",
                "{\"title\":\"Farm Accounts\",\"kind\":\"application\",\"base\":\"" + accounts.address()
                        + "/api\",\"authentication\":\"bearer\",\"password\":\"desk-token\",\"port\":0,"
                        + "\"descriptionPath\":\"/openapi.json\"}");
        job("slips", "");
        job(
                "booked",
                """
                ,{"of":"slip","to":{"kind":"application","connection":"accounts","path":"/vouchers","keep":["accountNumber"]},"shaping":[
                  {"target":"number","take":{"from":"field","field":"Slip"}},
                  {"target":"bookedOn","take":{"from":"constant","value":"2026-11-23"}},
                  {"target":"farm","take":{"from":"field","field":"Farm"}}]},
                 {"of":"line","to":{"kind":"application","connection":"accounts","path":"/vouchers","part":"lines"},"shaping":[
                  {"target":"article","take":{"from":"field","field":"Article"}},
                  {"target":"debit","take":{"from":"field","field":"Amount"}}]}
                """);
    }

    private static void job(String name, String more) throws Exception {
        String job = "{\"name\":\"" + name + "\",\"layout\":\"slips\",\"documents\":{\"gather\":{\"by\":[\"Slip\"],"
                + "\"document\":\"slip\",\"head\":[\"Slip\",\"Farm\"]}},\"together\":{\"whenOneFails\":\"go-on\"},\"deliveries\":["
                + table("shop", "slip_line") + more + "]}";
        live(name, job);
    }

    private static String table(String connection, String table) {
        return """
                {"of":"line","to":{"connection":"%s","table":"%s","mode":"add"},"shaping":[
                 {"target":"slip","take":{"from":"field","field":"slip.Slip"}},
                 {"target":"article","take":{"from":"field","field":"Article"}},
                 {"target":"farm","take":{"from":"field","field":"slip.Farm"}},
                 {"target":"amount","take":{"from":"field","field":"Amount"}}]}
                """
                .formatted(connection, table);
    }

    private static void live(String name, String job) throws Exception {
        server.ask("POST", "/api/v1/jobs", "{\"revision\":0,\"job\":" + job + ",\"layout\":" + LAYOUT + "}");
        JsonNode live = server.ask("POST", "/api/v1/jobs/" + name + "/live", null);
        assertThat(live.path("version").asInt()).as(live.toString()).isEqualTo(1);
    }

    @AfterAll
    static void stop() throws Exception {
        server.close();
        accounts.close();
        database.close();
    }

    private static JsonNode run(String job, String lines) throws Exception {
        byte[] file = ("Slip;Farm;Article;Amount\n" + lines).getBytes(StandardCharsets.UTF_8);
        return ended(server.upload("/api/v1/jobs/" + job + "/runs", "slips.csv", file)
                .path("id")
                .asLong());
    }

    private static JsonNode ended(long id) throws Exception {
        return server.await("/api/v1/runs/" + id, r -> !List.of("WAITING", "RUNNING", "PAUSED")
                .contains(r.path("state").asString()));
    }

    private static String keys(JsonNode page) {
        List<String> keys = StreamSupport.stream(page.path("items").spliterator(), false)
                .map(l -> "{\"run\":" + l.path("run").asLong() + ",\"leg\":"
                        + l.path("leg").asInt() + ",\"record\":"
                        + l.path("record").asLong() + "}")
                .toList();
        return "\"keys\":[" + String.join(",", keys) + "]";
    }

    @Test
    void forty_rejects_are_corrected_at_once_and_sent_again_with_their_documents() throws Exception {
        StringBuilder lines = new StringBuilder();
        for (int i = 0; i < 40; i++) {
            lines.append("A%02d;7;twine;1O.%02d\nA%02d;7;salt;2.50\n".formatted(i, i, i));
        }
        JsonNode first = run("slips", lines + "GOOD;7;twine;3.00\n");
        assertThat(first.path("tally").path("rejected").asLong()).isEqualTo(80);
        String of = "run=" + first.path("id").asLong();
        JsonNode bad = server.get("/api/v1/rejects?code=NUM-01&" + of);
        assertThat(bad.path("count").asLong()).isEqualTo(40);

        String change =
                "{" + keys(bad) + ",\"wanted\":{\"field\":\"Amount\",\"find\":\"O\",\"replace\":\"0\"},\"apply\":";
        JsonNode shown = server.ask("POST", "/api/v1/rejects/change", change + "false}");
        assertThat(shown.toString()).contains("\"changed\":40,\"good\":80,\"bad\":0", "A07;7;twine;10.07");
        assertThat(server.get("/api/v1/rejects?" + of).toString()).doesNotContain("\"corrected\":true");
        server.ask("POST", "/api/v1/rejects/change", change + "true}");
        JsonNode answer = server.ask("POST", "/api/v1/rejects/resubmit", "{" + keys(bad) + "}");

        JsonNode second = ended(answer.path("runs").get(0).asLong());
        assertThat(second.path("state").asString()).isEqualTo("FINISHED");
        assertThat(second.path("parentRun").asLong()).isEqualTo(first.path("id").asLong());
        assertThat(second.path("tally").toString()).contains("\"read\":80,\"delivered\":80", "\"rejected\":0");
        assertThat(database.rows("shop", "SELECT COUNT(*), SUM(amount) FROM slip_line WHERE slip LIKE 'A%'"))
                .containsExactly("80|507.80");
        assertThat(server.get("/api/v1/rejects?state=open&" + of).path("count").asLong())
                .isZero();
        JsonNode document = server.get("/api/v1/rejects/" + first.path("id").asLong() + "/0/"
                + bad.path("items").get(0).path("record").asLong());
        assertThat(document.path("records").get(0).path("raw").asString()).isEqualTo("A00;7;twine;1O.00");
        assertThat(document.path("history").toString())
                .contains("\"did\":\"changed\",\"text\":\"in Amount: \\\"O\\\" became \\\"0\\\"\"", "with run");
        assertThat(server.send("POST", "/api/v1/rejects/resubmit", "{" + keys(bad) + "}")
                        .statusCode())
                .as("nothing is sent again twice")
                .isEqualTo(409);
    }

    /** Whoever changes a table finds it said by the next run, and in the sheet, until the job is put live again. */
    @Test
    void a_table_that_was_changed_after_the_job_went_live_is_told() throws Exception {
        database.execute(
                "shop", "CREATE TABLE moved (slip VARCHAR(10), article VARCHAR(10), farm INT, amount DECIMAL(9,2))");
        live(
                "moved",
                "{\"name\":\"moved\",\"layout\":\"slips\",\"documents\":{\"gather\":{\"by\":[\"Slip\"],\"document\":\"slip\","
                        + "\"head\":[\"Slip\",\"Farm\"]}},\"deliveries\":[" + table("shop", "moved") + "]}");
        database.execute(
                "shop",
                "ALTER TABLE moved MODIFY article VARCHAR(5), ADD COLUMN clerk VARCHAR(9) NOT NULL DEFAULT 'x'");
        JsonNode ended = run("moved", "D1;7;twine;1.00\nD2;7;pitchfork;1.00\n");
        assertThat(ended.path("tally").path("rejected").asLong()).isEqualTo(1);
        String changes = "moved: article is varchar(5), before varchar(10); clerk is new (varchar(9))";
        assertThat(server.get("/api/v1/runs/" + ended.path("id").asLong() + "/timeline")
                        .toString())
                .contains("Changed since version 1 went live: " + changes);
        assertThat(server.get("/api/v1/jobs/moved/check").toString()).contains("JOB-51", changes);
        server.ask("POST", "/api/v1/jobs/moved/live", null);
        assertThat(server.get("/api/v1/jobs/moved/check").toString()).doesNotContain("JOB-51");
    }

    /** A file of rejects corrected elsewhere does what the desk does, records that were taken out stay open. */
    @Test
    void a_corrected_file_of_rejects_is_taken_back() throws Exception {
        JsonNode first = run("slips", "QB1;7;twine;1O.00\nQB2;7;salt;2O.00\nQB3;7;salt;x\nQB4;7;salt;4.00\n");
        long run = first.path("id").asLong();
        String file =
                server.send("GET", "/api/v1/rejects/" + run + "/file", null).body();
        assertThat(file.lines())
                .containsExactly("Slip;Farm;Article;Amount", "QB1;7;twine;1O.00", "QB2;7;salt;2O.00", "QB3;7;salt;x");
        String head = "Slip;Farm;Article;Amount\n";
        assertThat(server.upload(
                                "/api/v1/rejects/" + run + "/file",
                                "x.txt",
                                (head + "QB1;7;twine;10.00\r\n").getBytes())
                        .toString())
                .contains("it cannot be told which is which");

        JsonNode answer = server.upload(
                "/api/v1/rejects/" + run + "/file",
                "x.txt",
                file.replace("1O", "10").replace("2O", "20").getBytes());
        assertThat(answer.path("corrected").asInt()).isEqualTo(2);
        JsonNode second = ended(answer.path("runs").get(0).asLong());
        assertThat(second.path("parentRun").asLong()).isEqualTo(run);
        assertThat(second.path("tally").toString()).contains("\"read\":3,\"delivered\":2", "\"rejected\":1");
        assertThat(database.rows("shop", "SELECT slip, amount FROM slip_line WHERE slip LIKE 'QB%' ORDER BY slip"))
                .containsExactly("QB1|10.00", "QB2|20.00", "QB4|4.00");
        JsonNode document = server.get("/api/v1/rejects/" + run + "/0/1");
        assertThat(document.path("records").get(0).path("raw").asString()).isEqualTo("QB1;7;twine;1O.00");
        assertThat(document.path("history").toString()).contains("\"did\":\"corrected\"", "with run");

        // Of a further file one record is taken out: it stays open.
        JsonNode third = run("slips", "QC1;7;twine;1O.00\nQC2;7;salt;2O.00\n");
        run = third.path("id").asLong();
        answer = server.upload("/api/v1/rejects/" + run + "/file", "x.txt", (head + "QC2;7;salt;2O.00\r\n").getBytes());
        assertThat(answer.path("sent").asInt()).isEqualTo(1);
        assertThat(answer.path("left").asInt()).isEqualTo(1);
        assertThat(server.get("/api/v1/rejects?state=open&run=" + run)
                        .path("count")
                        .asLong())
                .isEqualTo(1);
    }

    @Test
    void so_are_thousands() throws Exception {
        StringBuilder lines = new StringBuilder();
        StringBuilder keys = new StringBuilder();
        for (int i = 1; i <= 2_500; i++) {
            lines.append("T").append(i).append(";7;twine;1O.00\n");
            keys.append(i == 1 ? "" : ",")
                    .append("{\"run\":RUN,\"leg\":0,\"record\":")
                    .append(i)
                    .append('}');
        }
        long id = run("slips", lines.toString()).path("id").asLong();
        String chosen = "\"keys\":[" + keys.toString().replace("RUN", String.valueOf(id)) + "]";
        JsonNode change = server.ask(
                "POST",
                "/api/v1/rejects/change",
                "{" + chosen + ",\"wanted\":{\"field\":\"Amount\",\"find\":\"O\",\"replace\":\"0\"},\"apply\":true}");
        assertThat(change.toString()).contains("\"changed\":2500,\"good\":2500,\"bad\":0");
        JsonNode answer = server.ask("POST", "/api/v1/rejects/resubmit", "{" + chosen + "}");
        assertThat(ended(answer.path("runs").get(0).asLong()).path("tally").toString())
                .contains("\"read\":2500,\"delivered\":2500");
    }

    @Test
    void a_record_is_checked_while_it_is_corrected_and_set_aside_only_with_a_reason() throws Exception {
        JsonNode run = run("slips", "B1;x7;twine;1.00\nB2;7;rope;2.00\n");
        String path = "/api/v1/rejects/" + run.path("id").asLong() + "/0/1";
        JsonNode still = server.ask("POST", path + "/check", "{\"texts\":{\"1\":\"B1;y7;twine;1.00\"}}");
        assertThat(still.get(0).path("fate").asString()).isEqualTo("reject");
        assertThat(still.get(0).path("bad").get(0).toString())
                .contains("\"from\":3,\"to\":5", "expected a whole number");
        JsonNode fits = server.ask("POST", path + "/check", "{\"texts\":{\"1\":\"B1;7;twine;1.00\"}}");
        assertThat(fits.get(0).path("fate").asString()).isEqualTo("row");

        String key = "{\"keys\":[{\"run\":" + run.path("id").asLong() + ",\"leg\":0,\"record\":1}],\"reason\":";
        assertThat(server.send("POST", "/api/v1/rejects/aside", key + "\" \"}").statusCode())
                .isEqualTo(422);
        server.ask("POST", "/api/v1/rejects/aside", key + "\"sent by mistake\"}");
        JsonNode aside = server.get(path);
        assertThat(aside.path("state").asString()).isEqualTo("aside");
        assertThat(aside.path("reason").asString()).isEqualTo("sent by mistake");
        assertThat(server.send("PUT", path, "{\"texts\":{\"1\":\"B1;7;twine;1.00\"}}")
                        .statusCode())
                .as("what is decided is not changed")
                .isEqualTo(409);
    }

    @Test
    void what_only_the_application_refuses_is_delivered_elsewhere_and_sent_again_there_alone() throws Exception {
        accounts.set(new Switches(0, 50, 0, 0));
        JsonNode run = run("booked", "C1;7;twine;1.00\nC1;7;salt;2.00\nC2;999;twine;4.00\nC3;8;rope;5.00\n");
        accounts.set(Switches.NONE);
        String id = String.valueOf(run.path("id").asLong());
        JsonNode legs = server.get("/api/v1/runs/" + id + "/places");
        assertThat(legs.get(0).path("tally").path("delivered").asLong()).isEqualTo(4);
        assertThat(legs.get(1).path("tally").toString())
                .as(legs.get(1).path("message").asString())
                .contains("\"delivered\":3", "\"rejected\":1");
        assertThat(server.get("/api/v1/runs/" + id + "/answers").toString()).contains("\"accountNumber\":\"FA-");
        JsonNode refused = server.get("/api/v1/rejects?run=" + id);
        assertThat(refused.path("items").get(0).path("messages").get(0).asString())
                .contains("line 4 → farm", "Farm Accounts says: farm: Farm 999 has no account.", "[APP-01]");

        server.ask("PUT", "/api/v1/rejects/" + id + "/1/3", "{\"texts\":{\"3\":\"C2;99;twine;4.00\"}}");
        JsonNode answer = server.ask("POST", "/api/v1/rejects/resubmit", "{" + keys(refused) + "}");
        JsonNode again = ended(answer.path("runs").get(0).asLong());
        assertThat(again.path("tally").toString()).contains("\"read\":1,\"delivered\":1");
        assertThat(accounts.booked().stream()
                        .map(b -> b.voucher().number() + " " + b.voucher().farm()))
                .containsExactlyInAnyOrder("C1 7", "C2 99", "C3 8");
        assertThat(database.rows("shop", "SELECT slip, farm FROM slip_line WHERE slip LIKE 'C2'"))
                .containsExactly("C2|999");
    }

    /** In PostgreSQL, where a key has to be asked for in its own type. */
    @Test
    void rows_are_followed_to_their_bytes_and_taken_back_unless_they_were_changed() throws Exception {
        PostgreSqlServer postgres = PostgreSqlServer.shared();
        postgres.database("desk");
        postgres.execute(
                "desk",
                "DO 'BEGIN IF NOT EXISTS (SELECT 1 FROM pg_roles WHERE rolname = ''clerk'') THEN CREATE ROLE clerk LOGIN; END IF; END'",
                "CREATE TABLE line (slip VARCHAR(10), article VARCHAR(10), farm INT, amount NUMERIC(9,2),"
                        + " PRIMARY KEY (slip, article))",
                "GRANT ALL ON line TO clerk",
                "GRANT CREATE ON SCHEMA public TO clerk");
        server.ask(
                "PUT",
                "/api/v1/connections/desk",
                "{\"title\":\"Desk\",\"kind\":\"postgresql\",\"host\":\"127.0.0.1\",\"port\":" + postgres.port()
                        + ",\"database\":\"desk\",\"user\":\"clerk\",\"password\":\"\"}");
        live(
                "lines",
                "{\"name\":\"lines\",\"layout\":\"slips\",\"documents\":{\"gather\":{\"by\":[\"Slip\"],"
                        + "\"document\":\"slip\",\"head\":[\"Slip\",\"Farm\"]}},\"deliveries\":["
                        + table("desk", "line") + "]}");
        JsonNode run = run("lines", "D1;7;twine;1.00\nD1;7;salt;2.00\nD2;x;twine;3.00\nD3;9;rope;4.50\n");
        long id = run.path("id").asLong();
        postgres.execute("desk", "UPDATE line SET amount = 9 WHERE slip = 'D1' AND article = 'salt'");

        JsonNode found = server.ask(
                "POST",
                "/api/v1/follow",
                "{\"connection\":\"desk\",\"table\":\"line\",\"key\":{\"slip\":\"D1\",\"article\":\"salt\"}}");
        assertThat(found.path("run").asLong()).isEqualTo(id);
        assertThat(found.path("record").asLong()).isEqualTo(2);
        JsonNode followed = server.get("/api/v1/runs/" + id + "/follow?record=2");
        assertThat(followed.path("fate").asString()).isEqualTo("delivered");
        assertThat(followed.path("records").get(1).toString())
                .contains("\"line\":3,\"offset\":41,\"length\":14", "D1;7;salt;2.00");
        assertThat(followed.path("rows").get(1).toString())
                .contains("\"state\":\"changed\"", "\"value\":\"2.00\",\"now\":\"9.00\",\"differs\":true");
        assertThat(server.get("/api/v1/runs/" + id + "/follow?line=4")
                        .path("fate")
                        .asString())
                .isEqualTo("rejected");
        assertThat(server.send("GET", "/api/v1/runs/" + id + "/follow?line=99", null)
                        .statusCode())
                .isEqualTo(404);

        long undo = server.ask("POST", "/api/v1/runs/" + id + "/take-back", null)
                .path("id")
                .asLong();
        assertThat(ended(undo).path("state").asString()).isEqualTo("FINISHED");
        assertThat(server.get("/api/v1/runs/" + undo + "/taken-back").get(0).toString())
                .contains("\"removed\":2,\"changed\":1,\"gone\":0", "slip D1, article salt: changed since");
        assertThat(server.get("/api/v1/runs/" + id).path("state").asString()).isEqualTo("TAKEN_BACK");
        assertThat(postgres.rows("desk", "SELECT slip, article, amount FROM line"))
                .containsExactly("D1|salt|9.00");
        postgres.execute("desk", "DELETE FROM line");
        server.ask("POST", "/api/v1/runs/" + id + "/restart", null);
        assertThat(ended(id).path("tally").toString()).contains("\"read\":4,\"delivered\":3", "\"rejected\":1");
        assertThat(server.get("/api/v1/rejects?run=" + id).path("count").asLong())
                .as("rejects of a run that began anew are there once")
                .isEqualTo(1);
    }
}
