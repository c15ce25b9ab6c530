package ninepin.core.check;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.concurrent.TimeUnit;
import ninepin.core.bytes.MemorySource;
import ninepin.core.format.Formats;
import ninepin.core.job.Definitions;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Severity;
import ninepin.core.record.Opening;
import ninepin.core.record.Position;
import ninepin.core.record.RawRecord;
import ninepin.core.record.RecordReader;
import ninepin.core.testing.SpoiltBytes;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;

/**
 * Any bytes at all, above all good files with bytes changed, cut, doubled and moved: findings, but never an exception,
 * and every place lies in the file. Reading again from behind a document gives what followed it.
 */
class AnyBytesTest {

    private static final Map<String, byte[]> GOOD = Map.of(
            "tanker-collections",
            ("H20261123R07OBC 4.2                                                             \r\n"
                            + "R000001LK-1049 Edda Brück          202611230417                                 \r\n"
                            + "C001000900428003243040+261123-00001Hof Süd                                      \r\n"
                            + "C002000950443003118034+261123-00002                                             \r\n"
                            + "R000002LK-1049 Tom Ashby           202611230517                                 \r\n"
                            + "C001000900428000010040-261123-00001                                             \r\n"
                            + "T000003000006371                                                                \r\n")
                    .getBytes(StandardCharsets.ISO_8859_1),
            "farm-register",
            ("<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n<r:register xmlns:r=\"urn:larkfell:register\""
                            + " xmlns:h=\"urn:larkfell:herd\">\n  <r:farm number=\"1\" since=\"1962-02-01\">\n"
                            + "    <r:name>Birk &amp; S\u00f6hne</r:name><r:place valley=\"Ousdale\"><r:village>Söll</r:village>"
                            + "</r:place><h:herd breed='A'><h:cows>12</h:cows></h:herd></r:farm>\n"
                            + "<r:farm number=\"2\"><r:name><![CDATA[x<y]]></r:name><h:herd breed=\"B\"/></r:farm></r:register>")
                    .getBytes(StandardCharsets.UTF_8),
            "wide",
            "\ufeffFarm;Hof Süd;🥛\r\n1;\"a\"\"\n;\";x\r\n2;\u2028;y\n\n3;Ω;z".getBytes(StandardCharsets.UTF_16LE),
            "json",
            ("{\"made\":\"today\",\"farms\":[\n {\"number\":1,\"name\":\"Birk \\u0026 Söhne\",\"place\":{\"valley\":\"Ousdale\"},"
                            + "\n  \"herds\":[{\"breed\":\"A\",\"cows\":12},{\"breed\":\"B\",\"cows\":1.5e3}]},\n"
                            + " {\"number\":2,\"name\":null,\"herds\":[],\"more\":[[{\"x\":[true,false]}]]}]}")
                    .getBytes(StandardCharsets.UTF_8),
            "lines",
            ("{\"number\":1,\"name\":\"Birk\",\"herds\":[{\"breed\":\"A\"}]}\n\n{\"number\":2,\"place\":{\"valley\":\"ä\\n\"}}\r\n"
                            + "{\"number\":3,\"herds\":[{\"cows\":4}]}")
                    .getBytes(StandardCharsets.UTF_8),
            "rows",
            ("@workbook 1\n\"Farms\",2,,\"No\",\"Name\",\"Taken\"\n\"Farms\",3,,1,\"Birk \\\"&\\\" S\u00f6hne\\n\",2026-10-01\n"
                            + "\"Farms\",4,hidden,2{000},^\"Sand\",10:30:00\n\"Farms\",6,,#N/A,=,TRUE\n\"Farms\",7,,@C,34.5\n"
                            + "@sheet \"Farms\",visible,12,2,7,1,B:C\n@range \"All\",\"Farms\",A2:C9,table,1,0\n@end 172\n")
                    .getBytes(StandardCharsets.UTF_8),
            "beyond",
            ("Report of today\nV||1||\\\"a\\||b\\\"~\nL||\"x\\~y\"||\"stray\"s||~\nL||z~\nTOTAL 2\n")
                    .getBytes(StandardCharsets.UTF_8),
            "quality-results",
            ("Sample;Farm;Route;Test;Value;Unit;Taken;Temperature;Remark\r\n"
                            + "261123-00001;38;R03;FAT;4,45;%;23.11.2026;4,2;\"Kühlung \"\"Tank 2\"\" geprüft\"\r\n"
                            + "261123-00001;38;R03;PROT;3,72;%;23.11.2026;4,0;\r\n;;;;;;;;\r\n")
                    .getBytes(java.nio.charset.Charset.forName("windows-1252")));

    private static Layout layout(String name) throws IOException {
        if (name.equals("wide")) {
            return Definitions.layout(
                    """
                    {"name":"wide","format":{"kind":"delimited","charset":"UTF-16","delimiter":";","quote":"\\"","header":false,"skipLines":1},
                     "recordTypes":[{"name":"r","fields":[{"name":"n","column":1,"type":{"is":"integer"}},
                      {"name":"text","column":2,"type":{"is":"text","length":40}},{"name":"z","column":3,"type":{"is":"text","length":3}}]}]}
                    """);
        }
        if (name.equals("rows")) {
            return Definitions.layout(
                    """
                    {"name":"rows","format":{"kind":"workbook","mergedCells":"each"},"recordTypes":[
                     {"name":"farm","when":{"by":"rows","sheet":"Farms"},"fields":[{"name":"no","header":"No","type":{"is":"integer"}},
                      {"name":"name","header":"Name","type":{"is":"text","length":40}},{"name":"taken","letter":"C","type":{"is":"date"}}]}]}
                    """);
        }
        if (name.equals("beyond")) {
            return Definitions.layout(
                    """
                    {"name":"beyond","format":{"kind":"delimited","delimiter":"||","quote":"\\"","header":false,"skipLines":1,
                     "habits":{"escape":"\\\\","recordEnd":"~\\n","footerLines":1,"comment":"#"},
                     "tolerance":{"strayQuotes":true,"raggedRows":true}},"recordTypes":[
                     {"name":"v","when":{"by":"tag","column":1,"values":["V"]},"fields":[{"name":"no","column":2,"type":{"is":"integer"}},
                      {"name":"text","column":3,"type":{"is":"text","length":40}}]},
                     {"name":"l","when":{"by":"tag","column":1,"values":["L"]},"parent":"v","fields":[{"name":"item","column":2,"type":{"is":"text","length":40}}]}]}
                    """);
        }
        if (name.equals("json") || name.equals("lines")) {
            boolean lines = name.equals("lines");
            String farm = lines ? "$" : "$.farms[*]";
            return Definitions.layout(
                    """
                    {"name":"json","format":{"kind":"json","lines":%s},"recordTypes":[
                     {"name":"farm","when":{"by":"json","path":"%s"},"fields":[{"name":"number","json":"number","type":{"is":"integer"}},
                      {"name":"name","json":"name","type":{"is":"text","length":40}},{"name":"valley","json":"place.valley","type":{"is":"text","length":40}}]},
                     {"name":"herd","when":{"by":"json","path":"%s.herds[*]"},"parent":"farm","fields":[
                      {"name":"breed","json":"breed","type":{"is":"text","length":4}},{"name":"cows","json":"cows","type":{"is":"integer"}}]}]}
                    """
                            .formatted(lines, farm, farm));
        }
        return Definitions.layout(Files.readString(Path.of("../demo/" + name + ".layout.json")));
    }

    /** Thousands of cases ordinarily; {@code ./ninepin test --long} sets a million for each format. */
    private static final int TRIES = Integer.getInteger("ninepin.tries", 3_000);

    @Test
    @Timeout(value = 6, unit = TimeUnit.HOURS)
    void spoilt_files_give_findings_and_nothing_else() throws IOException {
        long first = new Random().nextLong();
        Map<String, Layout> layouts = new HashMap<>();
        for (String name : GOOD.keySet()) {
            layouts.put(name, layout(name));
        }
        for (int i = 0; i < TRIES; i++) {
            long seed = first + i;
            try {
                spoil(seed, layouts);
            } catch (IOException | RuntimeException | AssertionError e) {
                throw new AssertionError("with the seed " + seed, e);
            }
        }
        System.out.printf("any bytes: %d spoilt files from the seed %d on%n", TRIES * GOOD.size(), first);
    }

    private static void spoil(long seed, Map<String, Layout> layouts) throws IOException {
        Random random = new Random(seed);
        for (String name : GOOD.keySet()) {
            byte[] bytes = SpoiltBytes.of(GOOD.get(name), random);
            Layout layout = layouts.get(name);
            WholeFile whole = new WholeFile(() -> new MemorySource(bytes), layout, LocalDate.EPOCH, () -> false);
            Optional<WholeFile.Summary> pieces = whole.inPieces(1 + random.nextInt(4), 1);
            if (pieces.isPresent()) {
                assertThat(pieces.get()).isEqualTo(whole.inOne());
            }
            List<Position> documents = new ArrayList<>();
            List<String> all = read(layout, bytes, null, documents);
            if (!documents.isEmpty()) {
                int at = random.nextInt(documents.size());
                Position from = documents.get(at);
                List<String> rest = read(layout, bytes, from, new ArrayList<>());
                assertThat(rest).isEqualTo(all.subList((int) from.records(), all.size()));
            }
        }
    }

    /** What is read, one line for each record; the places where documents start go into a list. */
    private static List<String> read(Layout layout, byte[] bytes, Position from, List<Position> documents)
            throws IOException {
        MemorySource source = new MemorySource(bytes);
        Opening opening = Formats.open(source, layout);
        List<String> out = new ArrayList<>();
        if (opening.fault() != null) {
            return out;
        }
        RecordChecker checker = new RecordChecker(layout, opening, LocalDate.of(2026, 11, 23));
        RecordReader reader = opening.reader(source, from == null ? opening.body() : from);
        RecordReader.Item item;
        long number = from == null ? 0 : from.records();
        // Half a character at the end of UTF-16 counts as a whole one.
        long end = layout.name().equals("wide") ? bytes.length + 1 : bytes.length;
        for (int steps = 0; (item = reader.next()) != RecordReader.Item.END; steps++) {
            assertThat(steps).as("reading comes to an end").isLessThan(10_000);
            RawRecord r = reader.record();
            assertThat(r.byteOf(r.length())).isLessThanOrEqualTo(end);
            if (item == RecordReader.Item.BLANK) {
                continue;
            }
            assertThat(r.number()).isEqualTo(++number);
            if (checker.startsDocument(r) && r.fault() == null) {
                documents.add(new Position(r.offset(), r.line(), r.number() - 1));
            }
            Severity worst = checker.check(r);
            for (Finding finding : checker.findings()) {
                assertThat(finding.message()).isNotEmpty();
                assertThat(finding.offset() + finding.length()).isLessThanOrEqualTo(end);
            }
            for (int f = 0; r.fault() == null && f < r.fieldCount(); f++) {
                assertThat(r.from(f)).isBetween(0, r.length());
                assertThat(r.to(f)).isBetween(r.from(f), r.length());
            }
            String fault = r.fault() == null ? "" : r.fault().code();
            out.add(r.offset() + "+" + r.length() + " line " + r.line() + " type " + r.type() + fault);
            if (worst == Severity.HALT && r.fault() != null) {
                break;
            }
        }
        checker.lacking();
        checker.atEnd();
        return out;
    }
}
