package ninepin.server.app;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import ninepin.core.format.Transcripts;
import ninepin.core.job.Definitions;
import ninepin.core.layout.Layout;
import ninepin.core.testing.Holds;
import ninepin.core.testing.Holds.Capability;
import ninepin.core.testing.MariaDbServer;
import ninepin.core.testing.WorkbookText;
import ninepin.server.testing.ServerProcess;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tools.jackson.databind.JsonNode;

/**
 * A file of each kind and in many charsets goes the whole way: a good record to the table and followed back to its bytes,
 * a bad one to the desk, marked where it is bad, corrected there and sent again, and given back in a file that is read as
 * it is.
 */
class KindsOfFilesTest {

    private static final String FIELDS =
            """
            "fields":[
             {"name":"no","%1$s,"type":{"is":"integer"}},
             {"name":"name","%2$s,"type":{"is":"text","length":12}},
             {"name":"cows","%3$s,"type":{"is":"integer"}}]""";

    @TempDir
    static Path folder;

    private static MariaDbServer database;
    private static ServerProcess server;

    @BeforeAll
    static void start() throws Exception {
        database = MariaDbServer.start();
        database.database("ninepin");
        database.database("farms");
        server = new ServerProcess(folder, database);
        server.start();
        server.ask(
                "PUT",
                "/api/v1/connections/farms",
                "{\"title\":\"Farms\",\"host\":\"127.0.0.1\",\"port\":" + database.port()
                        + ",\"database\":\"farms\",\"user\":\"root\",\"password\":\"\"}");
    }

    @AfterAll
    static void stop() throws Exception {
        server.close();
        database.close();
    }

    private static String fields(String first, String second, String third) {
        return FIELDS.formatted(first, second, third);
    }

    private static String layout(String kind, String charset) {
        return switch (kind) {
            case "delimited" ->
                "{\"name\":\"l\",\"format\":{\"kind\":\"delimited\",\"charset\":\"" + charset
                        + "\",\"delimiter\":\"|\",\"header\":true},\"recordTypes\":[{\"name\":\"r\","
                        + fields("header\":\"no\"", "header\":\"name\"", "header\":\"cows\"") + "}]}";
            case "fixed" ->
                "{\"name\":\"l\",\"format\":{\"kind\":\"fixed-length\",\"charset\":\"" + charset
                        + "\",\"length\":20},\"recordTypes\":[{\"name\":\"r\","
                        + fields("start\":1,\"length\":3", "start\":4,\"length\":12", "start\":16,\"length\":5")
                        + "}]}";
            case "json", "jsonl" ->
                "{\"name\":\"l\",\"format\":{\"kind\":\"json\",\"lines\":" + kind.equals("jsonl")
                        + "},\"recordTypes\":[{\"name\":\"r\",\"when\":{\"by\":\"json\",\"path\":\""
                        + (kind.equals("json") ? "$.all[*]" : "$") + "\"},"
                        + fields("json\":\"no\"", "json\":\"name\"", "json\":\"cows\"") + "}]}";
            case "workbook" ->
                "{\"name\":\"l\",\"format\":{\"kind\":\"workbook\"},\"recordTypes\":[{\"name\":\"r\",\"when\":{\"by\":\"rows\",\"sheet\":\"Farms\"},"
                        + fields("header\":\"no\"", "header\":\"name\"", "letter\":\"C\"") + "}]}";
            default ->
                "{\"name\":\"l\",\"format\":{\"kind\":\"xml\"},\"recordTypes\":[{\"name\":\"r\",\"when\":{\"by\":\"path\",\"path\":\"/all/r\"},"
                        + fields("path\":\"@no\"", "path\":\"name\"", "path\":\"cows\"") + "}]}";
        };
    }

    private static String record(String kind, String no, String name, String cows) {
        return switch (kind) {
            case "delimited" -> no + "|" + name + "|" + cows;
            case "fixed" -> String.format("%-3s%-12s%-5s", no, name, cows);
            case "json", "jsonl" -> "{\"no\":\"" + no + "\",\"name\":\"" + name + "\",\"cows\":\"" + cows + "\"}";
            // As the row is shown, kept and corrected: the text that the workbook is read as.
            case "workbook" ->
                "\"Farms\"," + (no.equals("1") || no.equals("9") ? 3 : 4) + ",," + cell(no) + "," + cell(name) + ","
                        + cell(cows);
            default -> "<r no='" + no + "'><name>" + name + "</name><cows>" + cows + "</cows></r>";
        };
    }

    private static String cell(String text) {
        return text.matches("\\d+") ? text : '"' + text + '"';
    }

    private static byte[] workbook(String... records) throws IOException {
        List<String> lines =
                new ArrayList<>(List.of("sheet Notes", "1: Made up", "sheet Farms", "2: no | name | cows"));
        for (String record : records) {
            String[] parts = record.split(",");
            lines.add(parts[1] + ": "
                    + String.join(" | ", parts[3], parts[4], parts[5]).replace("\"", ""));
        }
        return WorkbookText.bytes(lines);
    }

    private static byte[] file(String kind, String charset, Charset bytes, String... records) throws IOException {
        if (kind.equals("workbook")) {
            return workbook(records);
        }
        String end = charset.startsWith("IBM") ? "\u0085" : "\r\n";
        String head =
                switch (kind) {
                    case "delimited" -> "no|name|cows" + end;
                    case "fixed", "jsonl" -> "";
                    case "json" -> "{\"all\":[" + end;
                    default -> "<?xml version='1.0' encoding='" + charset + "'?>" + end + "<all>" + end;
                };
        String mark = charset.equals("UTF-16") ? "\ufeff" : "";
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        String between = kind.equals("json") ? "," + end : end;
        out.writeBytes((mark + head + String.join(between, records) + end).getBytes(bytes));
        out.writeBytes((kind.equals("xml") ? "</all>" : kind.equals("json") ? "]}" : "").getBytes(bytes));
        return out.toByteArray();
    }

    @Holds(
            value = {Capability.PROPOSE, Capability.BENCH, Capability.REJECTS, Capability.FOLLOW, Capability.PROOF},
            formats = {"delimited", "fixed-length", "json", "workbook", "xml"})
    @ParameterizedTest(name = "{0} in {1} {2}")
    @CsvSource({
        "delimited, UTF-8, UTF-8",
        "delimited, windows-1252, windows-1252",
        "delimited, UTF-16, UTF-16LE",
        "delimited, UTF-16, UTF-16BE",
        "fixed, UTF-8, UTF-8",
        "fixed, ISO-8859-1, ISO-8859-1",
        "fixed, IBM037, IBM037",
        "json, UTF-8, UTF-8",
        "jsonl, UTF-8, UTF-8",
        "workbook, UTF-8, UTF-8",
        "xml, UTF-8, UTF-8",
        "xml, ISO-8859-1, ISO-8859-1",
        "xml, UTF-16, UTF-16LE",
        "xml, UTF-16, UTF-16BE"
    })
    void a_file_goes_the_whole_way(String kind, String charset, String bytes) throws Exception {
        String name = (kind + "-" + bytes).toLowerCase();
        String table = name.replace('-', '_');
        database.execute("farms", "CREATE TABLE " + table + " (no INT PRIMARY KEY, name VARCHAR(12), cows INT)");
        String job = "{\"name\":\"" + name
                + "\",\"layout\":\"l\",\"deliveries\":[{\"of\":\"r\",\"to\":{\"connection\":\"farms\","
                + "\"table\":\"" + table + "\",\"mode\":\"add\"},\"shaping\":["
                + "{\"target\":\"no\",\"take\":{\"from\":\"field\",\"field\":\"no\"}},"
                + "{\"target\":\"name\",\"take\":{\"from\":\"field\",\"field\":\"name\"}},"
                + "{\"target\":\"cows\",\"take\":{\"from\":\"field\",\"field\":\"cows\"}}]}]}";
        String layout = layout(kind, charset);
        server.ask("POST", "/api/v1/jobs", "{\"revision\":0,\"job\":" + job + ",\"layout\":" + layout + "}");
        JsonNode live = server.ask("POST", "/api/v1/jobs/" + name + "/live", null);
        assertThat(live.path("version").asInt()).as(live.toString()).isEqualTo(1);

        String good = record(kind, "1", "Söllbridge", "12");
        String bad = record(kind, "2", "Großgarth", "zwöl");
        byte[] file = file(kind, charset, Charset.forName(bytes), good, bad);
        showsAndProves(name, job, layout, kind, file, good);
        long id = run(name, file);
        assertThat(server.get("/api/v1/runs/" + id).path("tally").toString())
                .contains("\"read\":2,\"delivered\":1", "\"rejected\":1");
        assertThat(database.rows("farms", "SELECT * FROM " + table)).containsExactly("1|Söllbridge|12");

        JsonNode followed = server.get("/api/v1/runs/" + id + "/follow?record=1");
        assertThat(followed.path("fate").asString()).isEqualTo("delivered");
        assertThat(followed.path("records").get(0).path("text").asString()).isEqualTo(good);
        assertThat(server.get("/api/v1/raw/run/" + id).toString()).contains("Söllbridge", "Großgarth");

        JsonNode ofRun =
                server.get("/api/v1/runs/" + id + "/rejects").path("items").get(0);
        JsonNode onDesk =
                server.get("/api/v1/rejects/" + id + "/0/2").path("records").get(0);
        assertThat(ofRun.path("text").asString()).isEqualTo(bad);
        assertThat(onDesk.path("raw").asString()).isEqualTo(bad);
        for (JsonNode told : List.of(ofRun, onDesk)) {
            JsonNode place = told.path("bad").get(0);
            assertThat(bad.substring(
                                    place.path("from").asInt(), place.path("to").asInt())
                            .strip())
                    .isEqualTo("zwöl");
        }

        server.ask(
                "PUT",
                "/api/v1/rejects/" + id + "/0/2",
                Definitions.mapper()
                        .writeValueAsString(Map.of("texts", Map.of("2", record(kind, "2", "Großgarth", "4")))));
        JsonNode again = server.ask(
                "POST", "/api/v1/rejects/resubmit", "{\"keys\":[{\"run\":" + id + ",\"leg\":0,\"record\":2}]}");
        assertThat(ended(again.path("runs").get(0).asLong()).path("tally").toString())
                .contains("\"delivered\":1");
        assertThat(database.rows("farms", "SELECT * FROM " + table + " WHERE no = 2"))
                .containsExactly("2|Großgarth|4");
        correctedElsewhere(name, kind, charset, Charset.forName(bytes));
        assertThat(database.rows("farms", "SELECT * FROM " + table + " WHERE no > 2 ORDER BY no"))
                .containsExactly("7|Å|1", "9|Ærø|9");
    }

    /** The bench shows it, a layout of its kind is proposed from it, and a proof that is made of it is green. */
    private static void showsAndProves(String name, String job, String layout, String kind, byte[] file, String good)
            throws Exception {
        assertThat(server.form("PUT", "/api/v1/jobs/" + name + "/sample", "farms.dat", file)
                        .statusCode())
                .isLessThan(300);
        JsonNode preview = server.ask(
                        "POST", "/api/v1/jobs/" + name + "/bench", "{\"job\":" + job + ",\"layout\":" + layout + "}")
                .path("preview");
        assertThat(preview.path("summary").path("read").asInt()).isEqualTo(2);
        assertThat(preview.path("records").get(0).path("text").asString()).isEqualTo(good);
        assertThat(preview.path("findings").toString()).contains("NUM-");

        JsonNode proposed = server.upload("/api/v1/layouts/proposal?name=proposed", "farms.dat", file);
        assertThat(proposed.path("layout").path("format").path("kind").asString())
                .startsWith(kind.startsWith("json") ? "json" : kind);

        server.ask("POST", "/api/v1/jobs/" + name + "/proofs?name=first", null);
        JsonNode proof = server.get("/api/v1/jobs/" + name + "/proofs").get(0);
        assertThat(proof.path("green").asBoolean()).as(proof.toString()).isTrue();
        assertThat(proof.path("records").asInt()).isEqualTo(2);
    }

    /** Two more are corrected in the file of rejects, which is taken back. */
    private static void correctedElsewhere(String name, String kind, String charset, Charset bytes) throws Exception {
        long id = run(name, file(kind, charset, bytes, record(kind, "9", "Ærø", "nine"), record(kind, "x", "Å", "1")));
        byte[] rejects = server.bytes("/api/v1/rejects/" + id + "/file");
        Layout layout = Definitions.layout(layout(kind, charset));
        rejects = Transcripts.text(rejects, layout);
        // What they are given back in is UTF-16 with the higher byte first, and UTF-8 for XML.
        Charset given = kind.equals("xml") || kind.equals("workbook") || kind.startsWith("json")
                ? StandardCharsets.UTF_8
                : charset.equals("UTF-16") ? StandardCharsets.UTF_16BE : bytes;
        String text = new String(rejects, given);
        assertThat(text).contains(record(kind, "9", "Ærø", "nine"));
        String nine = kind.equals("workbook") ? text.replace("\"nine\"", "9") : text.replace("nine", "9   ");
        String corrected = nine.replace(record(kind, "x", "Å", "1"), record(kind, "7", "Å", "1"));
        byte[] file = Transcripts.composed(corrected.getBytes(given), layout);
        JsonNode imported = server.upload("/api/v1/rejects/" + id + "/file", "corrected", file);
        assertThat(imported.path("corrected").asInt()).as(imported.toString()).isEqualTo(2);
        assertThat(ended(imported.path("runs").get(0).asLong()).path("tally").toString())
                .contains("\"delivered\":2");
    }

    private static long run(String job, byte[] file) throws Exception {
        long id = server.upload("/api/v1/jobs/" + job + "/runs", "farms.dat", file)
                .path("id")
                .asLong();
        assertThat(ended(id).path("state").asString()).isEqualTo("FINISHED");
        return id;
    }

    private static JsonNode ended(long id) throws Exception {
        return server.await("/api/v1/runs/" + id, r -> !List.of("WAITING", "RUNNING")
                .contains(r.path("state").asString()));
    }
}
