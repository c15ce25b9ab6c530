package ninepin.core.deliver.file;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.PosixFilePermission;
import java.nio.file.attribute.PosixFilePermissions;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import ninepin.core.deliver.Batch;
import ninepin.core.deliver.FileDelivery;
import ninepin.core.deliver.LoadConnection;
import ninepin.core.deliver.Mark;
import ninepin.core.deliver.Shares;
import ninepin.core.deliver.TableDescription;
import ninepin.core.deliver.TakeUp;
import ninepin.core.deliver.TakenBack;
import ninepin.core.deliver.Tally;
import ninepin.core.deliver.Target;
import ninepin.core.deliver.TargetException;
import ninepin.core.destination.files.FilesSupport;
import ninepin.core.format.Transcripts;
import ninepin.core.job.Definitions;
import ninepin.core.job.Delivery;
import ninepin.core.job.Job;
import ninepin.core.job.Leg;
import ninepin.core.job.Shortcoming;
import ninepin.core.layout.Layout;
import ninepin.core.ready.Readiness;
import ninepin.core.record.Position;
import ninepin.core.run.Journal;
import ninepin.core.run.Run;
import ninepin.core.run.RunListener;
import ninepin.core.run.RunOutcome;
import ninepin.core.run.StopSignal;
import ninepin.core.shape.RunFacts;
import ninepin.core.shape.ShapingContext;
import ninepin.core.shape.TestRows;
import ninepin.core.testing.Holds;
import ninepin.core.testing.Holds.Capability;
import ninepin.core.testing.Reading;
import ninepin.core.testing.SmallDisk;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** What files a run writes, by each way of making them, and that they are the same however often it is broken off. */
class FileTargetTest {

    /** Rounds of tankers with their stops: what is read. */
    private static final Layout ROUNDS = Definitions.layout(
            """
            {"name":"rounds","format":{"kind":"delimited","delimiter":";","header":false},"recordTypes":[
             {"name":"round","when":{"by":"tag","column":1,"values":["R"]},"fields":[
              {"name":"round_no","column":2,"type":{"is":"integer"}},
              {"name":"tanker","column":3,"type":{"is":"text","length":20}}]},
             {"name":"stop","parent":"round","when":{"by":"tag","column":1,"values":["S"]},"fields":[
              {"name":"farm","column":2,"type":{"is":"integer"}},
              {"name":"litres","column":3,"type":{"is":"decimal","precision":9,"scale":1}},
              {"name":"chilled","column":4,"type":{"is":"boolean","trueTokens":["y"],"falseTokens":["n"]}}]}]}
            """);

    private static final String FIXED =
            """
            {"name":"bank","format":{"kind":"fixed-length","charset":"ISO-8859-1"},"recordTypes":[
             {"name":"head","when":{"by":"tag","start":1,"values":["H"]},"fields":[
              {"name":"made_on","start":2,"length":8,"type":{"is":"date","pattern":"yyyyMMdd"},"checks":[{"rule":"required"}]}]},
             {"name":"line","when":{"by":"tag","start":1,"values":["L"]},"fields":[
              {"name":"no","start":2,"length":3,"type":{"is":"integer"}},
              {"name":"farm","start":5,"length":5,"type":{"is":"integer"},"checks":[{"rule":"range","max":"214"}]},
              {"name":"litres","start":10,"length":7,"type":{"is":"decimal","precision":7,"scale":1,"form":{"sign":"trailing","implied":true}}}]},
             {"name":"tail","when":{"by":"tag","start":1,"values":["T"]},"fields":[
              {"name":"lines","start":2,"length":4,"type":{"is":"integer"}},
              {"name":"litres","start":6,"length":9,"type":{"is":"decimal","precision":9,"scale":1,"form":{"sign":"trailing","implied":true}}}]}],
             "fileChecks":[{"rule":"sequence","field":"line.no"},{"rule":"count","field":"tail.lines","of":"line"},
              {"rule":"total","field":"tail.litres","of":"line.litres"}]}
            """;

    private static final String DELIMITED =
            """
            {"name":"list","format":{"kind":"delimited","delimiter":";","quote":"\\"","header":true},"recordTypes":[
             {"name":"line","fields":[
              {"name":"farm","header":"Farm","type":{"is":"integer"}},
              {"name":"tanker","header":"Tanker; or car","type":{"is":"text","length":20}},
              {"name":"litres","header":"Litres","type":{"is":"decimal","precision":9,"scale":1}}]}]}
            """;

    private static final String XML =
            """
            {"name":"tour","format":{"kind":"xml","namespaces":{"t":"urn:larkfell:tour"}%s},"recordTypes":[
             {"name":"tour","when":{"by":"path","path":"/t:tours/t:tour"},"fields":[
              {"name":"no","path":"@no","type":{"is":"integer"}},{"name":"tanker","path":"t:tanker","type":{"is":"text","length":20}}]},
             {"name":"call","parent":"tour","when":{"by":"path","path":"/t:tours/t:tour/t:call"},"fields":[
              {"name":"farm","path":"@farm","type":{"is":"integer"}},{"name":"chilled","path":"@chilled","type":{"is":"boolean","trueTokens":["true"],"falseTokens":["false"]}},
              {"name":"litres","path":"text()","type":{"is":"decimal","precision":9,"scale":1}}]}]}
            """;

    /** The same as JSON; with lines a tour is one. */
    private static String asJson(boolean lines) {
        return XML.formatted("")
                .replace(
                        "\"kind\":\"xml\",\"namespaces\":{\"t\":\"urn:larkfell:tour\"}",
                        "\"kind\":\"json\",\"lines\":" + lines)
                .replace(
                        "\"by\":\"path\",\"path\":\"/t:tours/t:tour/t:call\"",
                        "\"by\":\"json\",\"path\":\"T.calls[*]\"")
                .replace("\"by\":\"path\",\"path\":\"/t:tours/t:tour\"", "\"by\":\"json\",\"path\":\"T\"")
                .replace("\"T", lines ? "\"$" : "\"$.tours[*]")
                .replace("\"path\":\"@", "\"json\":\"")
                .replace("\"path\":\"t:tanker\"", "\"json\":\"by.tanker\"")
                .replace("\"path\":\"text()\"", "\"json\":\"milk.litres\"");
    }

    /** Tours and their calls on two sheets. */
    private static final String WORKBOOK =
            """
            {"name":"tour","format":{"kind":"workbook"},"recordTypes":[
             {"name":"tour","when":{"by":"rows","sheet":"Tours","header":3},"fields":[
              {"name":"no","header":"No","type":{"is":"integer"}},{"name":"tanker","header":"Tanker","type":{"is":"text","length":20}}]},
             {"name":"call","when":{"by":"rows","sheet":"Calls"},"fields":[
              {"name":"farm","header":"Farm","type":{"is":"integer"}},{"name":"chilled","letter":"D","type":{"is":"boolean","trueTokens":["true"],"falseTokens":["false"]}},
              {"name":"litres","header":"Litres","type":{"is":"decimal","precision":9,"scale":1}}]}]}
            """;

    private static final String ROUND_LINES =
            "R;1;LK 12\nS;17;812.5;y\nS;9;40;n\nR;2;Ä & <Co>\nS;17;100;y\nR;3;LK 12\nS;3;7.5;\n";

    @TempDir
    Path folder;

    private LocalDate today = LocalDate.of(2026, 11, 23);

    private Path out() {
        return folder.resolve("out");
    }

    private static String file(String name, String layout, String more) {
        return "\"file\":{\"root\":\"r\",\"folder\":\"f\",\"name\":\"" + name + "\",\"layout\":" + layout + more + "}";
    }

    private static String rule(String target, String from) {
        return "{\"target\":\"" + target + "\",\"take\":" + from + "}";
    }

    private static String field(String target, String field) {
        return rule(target, "{\"from\":\"field\",\"field\":\"" + field + "\"}");
    }

    private static Job job(String commit, String... deliveries) {
        return Definitions.job("{\"name\":\"tours\",\"layout\":\"rounds\",\"commit\":\"" + commit
                + "\",\"deliveries\":[" + String.join(",", deliveries) + "]}");
    }

    private static String delivery(String of, String file, String record, String stands, String... rules) {
        return "{\"of\":\"" + of + "\",\"to\":{\"kind\":\"file\"," + file
                + (record == null ? "" : ",\"record\":\"" + record + "\"") + ",\"stands\":\"" + stands
                + "\"},\"shaping\":[" + String.join(",", rules) + "]}";
    }

    private static Job bank(String name, String more, String commit) {
        String file = file(name, FIXED, more);
        return job(
                commit,
                delivery("round", file, "head", "first", rule("made_on", "{\"from\":\"run\",\"fact\":\"today\"}")),
                delivery("stop", file, "line", "each", field("farm", "farm"), field("litres", "litres")));
    }

    private static Job list(String name, String more, String commit) {
        String file = file(name, DELIMITED, more);
        return job(
                commit,
                delivery(
                        "stop",
                        file,
                        null,
                        "each",
                        field("farm", "farm"),
                        field("tanker", "round.tanker"),
                        field("litres", "litres")));
    }

    private static Job tours(String schema, String more, String commit) {
        return toursOf(XML.formatted(schema), more, commit);
    }

    private static Job toursOf(String layout, String more, String commit) {
        String file = file("tours.xml", layout, more);
        return job(
                commit,
                delivery("round", file, "tour", "each", field("no", "round_no"), field("tanker", "tanker")),
                delivery(
                        "stop",
                        file,
                        "call",
                        "each",
                        field("farm", "farm"),
                        field("chilled", "chilled"),
                        field("litres", "litres")));
    }

    private RunOutcome run(Job job, String lines, int chunk, RunListener listener, StopSignal stop) throws Exception {
        Path file = folder.resolve("rounds.txt");
        Files.writeString(file, lines);
        RunFacts facts = new RunFacts(7, "rounds.txt", today, Map.of());
        Leg leg = job.legs().get(0);
        FileName.Facts names = new FileName.Facts("tours", 7, "rounds.txt", facts.startedAt());
        try (Target target =
                new FileTarget(out(), new FilesSupport(null, leg).loads(), "run-7", folder.resolve("journal"), names)) {
            return new Run(
                            job.plan(ROUNDS, ShapingContext.of(facts), Tally.ZERO, leg)
                                    .withChunkRows(chunk),
                            file,
                            folder.resolve("journal"),
                            target,
                            listener,
                            stop)
                    .execute();
        }
    }

    private RunOutcome run(Job job, String lines) throws Exception {
        return run(job, lines, 1_000, RunListener.NONE, new StopSignal());
    }

    private Map<String, String> files() throws IOException {
        Map<String, String> all = new TreeMap<>();
        if (Files.exists(out())) {
            try (Stream<Path> paths = Files.list(out())) {
                for (Path path : paths.toList()) {
                    all.put(path.getFileName().toString(), text(path));
                }
            }
        }
        return all;
    }

    /** A file as text; a workbook as what it reads as, and as its bytes. */
    private static String text(Path path) throws IOException {
        byte[] bytes = Files.readAllBytes(path);
        return path.toString().endsWith(".xlsx")
                ? new String(Transcripts.text(bytes, Definitions.layout(WORKBOOK)), StandardCharsets.UTF_8)
                        + HexFormat.of().formatHex(bytes)
                : new String(bytes, StandardCharsets.UTF_8).replace("\r\n", "\n");
    }

    private String refusals() throws IOException {
        List<String> words = new ArrayList<>();
        Path journal = folder.resolve("journal");
        Journal.read(journal, 0, Files.size(journal), e -> e.findings()
                .forEach(f -> words.add(f.line() + " " + f.message())));
        return String.join("\n", words);
    }

    @Test
    void a_fixed_length_file_has_its_head_its_numbers_and_a_trailer_that_was_counted() throws Exception {
        RunOutcome outcome = run(bank("bank_{date:yyyyMMdd}_{run}.txt", "", "parts"), ROUND_LINES);
        assertThat(outcome.state()).as(outcome.message()).isEqualTo(RunOutcome.State.FINISHED);
        assertThat(files())
                .isEqualTo(
                        Map.of(
                                "bank_20261123_7.txt",
                                """
                        H20261123
                        L001000170008125
                        L002000090000400
                        L003000170001000
                        L004000030000075
                        T0004000009600
                        """));
        assertThat(outcome.tally().added()).isEqualTo(5);
        assertThat(outcome.tally().unchanged()).isEqualTo(2);
        Layout layout = Definitions.layout(FIXED);
        Reading back = Reading.of(layout, files().get("bank_20261123_7.txt").getBytes(StandardCharsets.ISO_8859_1));
        assertThat(back.findings).isEmpty();
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "b_{number}.txt    | 'per':'document'            | b_1.txt:2 b_2.txt:1 b_3.txt:1",
                "b_{number:3}.txt  | 'per':'records','records':2 | b_001.txt:2 b_002.txt:2",
                "b_{farm}.txt      | 'per':'group','by':'farm'   | b_17.txt:3 b_3.txt:1",
                "{file}-{job}.txt  | 'per':'run'                 | rounds-tours.txt:4"
            })
    void a_file_is_made_for_a_run_a_document_a_group_or_so_many_records(String name, String per, String expected)
            throws Exception {
        run(bank(name, "," + per.replace('\'', '"'), "parts"), ROUND_LINES);
        String found = files().entrySet().stream()
                .map(e -> e.getKey() + ":"
                        + e.getValue().lines().filter(l -> l.startsWith("L")).count())
                .collect(Collectors.joining(" "));
        assertThat(found).isEqualTo(expected);
        assertThat(files().values()).allMatch(t -> t.startsWith("H2026") && t.contains("\nT000"));
    }

    @ParameterizedTest
    @ValueSource(booleans = {false, true})
    void json_nests_children_in_their_parents(boolean indented) throws Exception {
        run(toursOf(asJson(false), indented ? ",\"indented\":true" : "", "whole"), ROUND_LINES);
        String text = files().get("tours.xml");
        if (indented) {
            assertThat(text)
                    .startsWith(
                            """
                            {
                              "tours": [
                                {
                                  "no": 1,
                                  "by": {
                                    "tanker": "LK 12"
                                  },
                                  "calls": [
                                    {
                                      "farm": 17,
                                      "chilled": true,
                                      "milk": {
                                        "litres": 812.5
                                      }
                                    },
                            """);
        } else {
            assertThat(text)
                    .isEqualTo(
                            """
                            {
                            "tours":[
                            {"no":1,"by":{"tanker":"LK 12"},"calls":[{"farm":17,"chilled":true,"milk":{"litres":812.5}},{"farm":9,"chilled":false,"milk":{"litres":40.0}}]},
                            {"no":2,"by":{"tanker":"Ä & <Co>"},"calls":[{"farm":17,"chilled":true,"milk":{"litres":100.0}}]},
                            {"no":3,"by":{"tanker":"LK 12"},"calls":[{"farm":3,"chilled":null,"milk":{"litres":7.5}}]}
                            ]
                            }
                            """);
        }
        Reading back = Reading.of(Definitions.layout(asJson(false)), text.getBytes(StandardCharsets.UTF_8));
        areTheTours(back);
    }

    /** What the rounds come to as tours with their calls, in whatever format they were written. */
    private static void areTheTours(Reading back) {
        assertThat(back.findings).isEmpty();
        assertThat(back.records)
                .containsExactly(
                        List.of("tour", "1", "LK 12"),
                        List.of("call", "17", "true", "812.5"),
                        List.of("call", "9", "false", "40.0"),
                        List.of("tour", "2", "Ä & <Co>"),
                        List.of("call", "17", "true", "100.0"),
                        List.of("tour", "3", "LK 12"),
                        java.util.Arrays.asList("call", "3", null, "7.5"));
    }

    @ParameterizedTest
    @ValueSource(booleans = {false, true})
    void xml_nests_children_in_their_parents(boolean indented) throws Exception {
        run(tours("", indented ? ",\"indented\":true" : "", "whole"), ROUND_LINES);
        String text = files().get("tours.xml");
        if (indented) {
            assertThat(text)
                    .contains(
                            """
                              <t:tour no="1">
                                <t:tanker>LK 12</t:tanker>
                                <t:call farm="17" chilled="true">812.5</t:call>
                                <t:call farm="9" chilled="false">40.0</t:call>
                              </t:tour>
                            """);
        }
        Reading back = Reading.of(Definitions.layout(XML.formatted("")), text.getBytes(StandardCharsets.UTF_8));
        areTheTours(back);
    }

    /** Broken off at each commit, with what a crash may leave behind the mark: half a record, a file just begun, a name due. */
    @Holds(
            value = Capability.RESTART_WRITING,
            formats = {"delimited", "fixed-length", "json", "workbook", "xml"})
    @ParameterizedTest
    @CsvSource({
        "bank, run, 1",
        "bank, document, 2",
        "bank, records, 3",
        "bank, group, 4",
        "list, run, 7",
        "list, records, 8",
        "list, group, 9",
        "tours, run, 5",
        "tours, group, 6",
        "json, run, 10",
        "json, group, 11",
        "json lines, run, 12",
        "workbook, run, 13",
        "workbook, group, 14",
        "workbook, records, 15"
    })
    void the_files_are_the_same_however_often_the_run_is_broken_off(String kind, String per, long seed)
            throws Exception {
        Random random = new Random(seed);
        StringBuilder lines = new StringBuilder();
        for (int r = 1; r <= 120; r++) {
            lines.append("R;").append(r).append(";LK ").append(r % 7).append('\n');
            for (int s = random.nextInt(4); s >= 0; s--) {
                lines.append("S;")
                        .append(1 + random.nextInt(220))
                        .append(';')
                        .append(random.nextInt(9_999))
                        .append(";y\n");
            }
        }
        String by = kind.equals("bank") || kind.equals("list") ? "farm" : "tanker";
        Job tours = toursOf(
                kind.equals("tours")
                        ? XML.formatted("")
                        : kind.equals("workbook") ? WORKBOOK : asJson(kind.equals("json lines")),
                ",\"per\":\"" + per + "\",\"by\":\"" + by + "\",\"records\":7",
                "parts");
        String more = ",\"per\":\"" + per + "\",\"by\":\"" + by + "\",\"records\":7";
        String name =
                (per.equals("group") ? "x_{" + by + "}" : "x_{number}") + (kind.equals("workbook") ? ".xlsx" : ".txt");
        Job job = kind.equals("bank")
                ? bank(name, more, "parts")
                : kind.equals("list")
                        ? list(name, more, "parts")
                        : job(
                                "parts",
                                Definitions.write(tours.deliveries().get(0)).replace("tours.xml", name),
                                Definitions.write(tours.deliveries().get(1)).replace("tours.xml", name));
        run(job, lines.toString(), 1_000_000, RunListener.NONE, new StopSignal());
        Map<String, String> whole = files();
        assertThat(whole).isNotEmpty().allSatisfy((n, text) -> assertThat(n).startsWith("x_"));
        String refused = refusals();
        FileTarget.takeBack("bank", out(), "run-7", folder.resolve("journal"));
        Files.delete(folder.resolve("journal"));
        assertThat(files()).isEmpty();

        RunOutcome outcome = null;
        int starts = 0;
        while (outcome == null || outcome.state() != RunOutcome.State.FINISHED) {
            StopSignal stop = new StopSignal();
            outcome = run(job, lines.toString(), 20, stopAtCommit(stop), stop);
            assertThat(outcome.state()).as(outcome.message()).isIn(RunOutcome.State.STOPPED, RunOutcome.State.FINISHED);
            if (outcome.state() == RunOutcome.State.STOPPED) {
                leaveRubbish(random, starts + 1);
            }
            starts++;
        }
        assertThat(starts).isGreaterThan(4);
        assertThat(files()).isEqualTo(whole);
        assertThat(refusals()).isEqualTo(refused);
    }

    /** A workbook that cannot get its name yet is composed again when it can, and is the same. */
    @Test
    void a_workbook_whose_name_is_taken_gets_it_later() throws Exception {
        Job job = toursOf(WORKBOOK, "", "parts");
        Job named = job(
                "parts",
                Definitions.write(job.deliveries().get(0)).replace("tours.xml", "tours.xlsx"),
                Definitions.write(job.deliveries().get(1)).replace("tours.xml", "tours.xlsx"));
        run(named, ROUND_LINES);
        Reading back = Reading.of(Definitions.layout(WORKBOOK), Files.readAllBytes(out().resolve("tours.xlsx")));
        assertThat(back.findings).isEmpty();
        assertThat(back.records)
                .containsExactly(
                        List.of("tour", "1", "LK 12"),
                        List.of("tour", "2", "Ä & <Co>"),
                        List.of("tour", "3", "LK 12"),
                        List.of("call", "17", "true", "812.5"),
                        List.of("call", "9", "false", "40.0"),
                        List.of("call", "17", "true", "100.0"),
                        java.util.Arrays.asList("call", "3", null, "7.5"));
        Map<String, String> whole = files();
        FileTarget.takeBack("tours", out(), "run-7", folder.resolve("journal"));
        Files.delete(folder.resolve("journal"));
        assertThat(files()).isEmpty();

        Path name = out().resolve("tours.xlsx");
        RunListener inTheWay = new RunListener() {
            @Override
            public void committed(Mark mark) {
                try {
                    Files.createDirectories(name);
                } catch (IOException e) {
                    throw new java.io.UncheckedIOException(e);
                }
            }
        };
        RunOutcome taken = run(named, ROUND_LINES, 1, inTheWay, new StopSignal());
        assertThat(taken.code()).isEqualTo("FIL-11");
        Files.delete(name);
        RunOutcome outcome = run(named, ROUND_LINES, 1, RunListener.NONE, new StopSignal());
        assertThat(outcome.state()).as(outcome.message()).isEqualTo(RunOutcome.State.FINISHED);
        assertThat(files()).isEqualTo(whole);
    }

    private static RunListener stopAtCommit(StopSignal stop) {
        return new RunListener() {
            @Override
            public void committed(Mark mark) {
                stop.request();
            }
        };
    }

    private void leaveRubbish(Random random, int starts) throws IOException {
        for (WrittenFile file : FileTarget.writtenBy(folder.resolve("journal"))) {
            Path part = out().resolve(".run-7." + starts + "." + file.number() + ".part");
            if (!file.complete()) {
                Files.writeString(part, "half a rec", StandardOpenOption.APPEND);
            } else if (random.nextInt(3) == 0 && !file.name().endsWith(".xlsx")) {
                // The application died before the file got its name.
                Files.move(out().resolve(file.name()), part);
            }
        }
        Files.writeString(out().resolve(".run-7." + starts + ".4711.part"), "just begun");
        Files.writeString(out().resolve(".run-7." + starts + ".1.part.copy"), "half a copy");
        Files.writeString(folder.resolve("journal.written"), "{\"number\":", StandardOpenOption.APPEND);
    }

    /** What was committed stays when the end of the file does not fit, and a restart needs to write that alone. */
    @Test
    void a_group_that_does_not_fit_fails_the_end_of_the_file_and_nothing_before_it() throws Exception {
        StringBuilder lines = new StringBuilder();
        for (int r = 1; r <= 200; r++) {
            lines.append("R;").append(r).append(";LK\nS;17;99.0;y\n");
        }
        RunOutcome outcome = run(withSum(4), lines.toString(), 20, RunListener.NONE, new StopSignal());
        assertThat(outcome.code()).as("%s", outcome).isEqualTo("SUM-01");
        assertThat(outcome.mark().commits()).isPositive();
        assertThat(FileTarget.writtenBy(folder.resolve("journal")))
                .singleElement()
                .satisfies(w -> assertThat(w.records()).isPositive());
        outcome = run(withSum(9), lines.toString(), 20, RunListener.NONE, new StopSignal());
        assertThat(outcome.state()).as("%s", outcome).isEqualTo(RunOutcome.State.FINISHED);
        assertThat(files().keySet()).containsExactly("sums.txt");
        assertThat(files().get("sums.txt").lines()).hasSize(201).last().isEqualTo("S000198000");
    }

    private static Job withSum(int length) {
        String layout =
                """
                {"name":"sums","format":{"kind":"fixed-length"},"recordTypes":[
                 {"name":"line","when":{"by":"tag","start":1,"values":["L"]},"fields":[{"name":"farm","start":2,"length":3,"type":{"is":"integer"}}]},
                 {"name":"sum","when":{"by":"tag","start":1,"values":["S"]},"fields":[{"name":"litres","start":2,"length":%d,
                  "type":{"is":"decimal","precision":9,"scale":1,"form":{"sign":"trailing","implied":true}}}]}]}
                """
                        .formatted(length);
        String file = file("sums.txt", layout, "");
        return job(
                "parts",
                delivery("stop", file, "line", "each", field("farm", "farm")),
                "{\"of\":\"stop\",\"summary\":{\"totals\":[{\"name\":\"all\",\"take\":\"sum\",\"of\":\"litres\"}]},"
                        + delivery("stop", file, "sum", "each", field("litres", "all"))
                                .substring("{\"of\":\"stop\",".length()));
    }

    /** A clock that was set back in between gives a file that was begun no second name. */
    @Test
    void a_file_that_was_begun_keeps_its_name_whatever_the_day() throws Exception {
        Job job = bank("b_{date}_{time}.txt", "", "parts");
        StringBuilder lines = new StringBuilder();
        for (int r = 1; r <= 60; r++) {
            lines.append("R;").append(r).append(";LK\nS;17;1;y\n");
        }
        StopSignal stop = new StopSignal();
        assertThat(run(job, lines.toString(), 20, stopAtCommit(stop), stop).state())
                .isEqualTo(RunOutcome.State.STOPPED);
        today = LocalDate.of(2026, 11, 22);
        assertThat(run(job, lines.toString()).state()).isEqualTo(RunOutcome.State.FINISHED);
        assertThat(files().keySet()).containsExactly("b_2026-11-23_000000.txt");
        assertThat(files().get("b_2026-11-23_000000.txt").lines()).hasSize(62);
    }

    @Test
    void no_room_is_left_for_a_file() throws Exception {
        Files.createDirectories(out());
        try (SmallDisk small = SmallDisk.at(out(), "8k", ProcessHandle.current().pid(), 12_000)) {
            StringBuilder lines = new StringBuilder();
            for (int r = 1; r <= 900; r++) {
                lines.append("R;").append(r).append(";LK\nS;17;1;y\n");
            }
            RunOutcome outcome = run(bank("b.txt", "", "parts"), lines.toString());
            assertThat(outcome.state()).isEqualTo(RunOutcome.State.FAILED);
            assertThat(outcome.code()).isEqualTo("FIL-09");
            assertThat(outcome.message()).containsAnyOf("No space left", "File too large");
            assertThat(outcome.mayPass()).isTrue();
            small.makeRoom();
            outcome = run(bank("b.txt", "", "parts"), lines.toString());
            assertThat(outcome.state()).as("%s", outcome).isEqualTo(RunOutcome.State.FINISHED);
            assertThat(files().get("b.txt").lines()).hasSize(902);
        }
    }

    @Test
    void a_document_that_does_not_fit_the_layout_is_refused_whole_and_leaves_nothing() throws Exception {
        RunOutcome outcome = run(
                bank("b_{number}.txt", ",\"per\":\"document\"", "parts"),
                "R;1;a\nS;17;1;y\nS;215;2;y\nR;2;a\nS;17;1234567.8;y\nR;3;a\nS;3;1;y\n");
        assertThat(outcome.tally().rejected()).isEqualTo(5);
        assertThat(files()).isEqualTo(Map.of("b_1.txt", "H20261123\nL001000030000010\nT0001000000010\n"));
        assertThat(refusals())
                .contains(
                        "line 3 → farm: ",
                        "The layout bank cannot hold it: \"215\" where the layout asks for at most 214")
                .contains("line 5 → litres: ", "cannot hold it: 1234567.8 does not fit into 7 places");
    }

    @Test
    void a_file_of_the_same_name_stands_in_the_way_unless_it_may_give_way() throws Exception {
        Files.createDirectories(out());
        Files.writeString(out().resolve("b.txt"), "an older one");
        RunOutcome outcome = run(bank("b.txt", "", "parts"), ROUND_LINES);
        assertThat(outcome.state()).isEqualTo(RunOutcome.State.FAILED);
        assertThat(outcome.code()).isEqualTo("FIL-11");
        assertThat(files()).isEqualTo(Map.of("b.txt", "an older one"));
        outcome = run(bank("b.txt", ",\"replace\":true", "parts"), ROUND_LINES);
        assertThat(outcome.state()).isEqualTo(RunOutcome.State.FINISHED);
        assertThat(files().get("b.txt")).startsWith("H20261123");
    }

    @Test
    void xml_that_breaches_its_schema_does_not_get_its_name() throws Exception {
        String xsd =
                "<xs:schema xmlns:xs='http://www.w3.org/2001/XMLSchema' targetNamespace='urn:larkfell:tour' xmlns='urn:larkfell:tour'"
                        + " elementFormDefault='qualified'><xs:element name='tours'><xs:complexType><xs:sequence><xs:element name='tour'"
                        + " maxOccurs='2'><xs:complexType><xs:sequence><xs:any maxOccurs='unbounded' processContents='skip'/></xs:sequence>"
                        + "<xs:attribute name='no'/></xs:complexType></xs:element></xs:sequence></xs:complexType></xs:element></xs:schema>";
        Job job = tours(",\"schema\":[{\"name\":\"t.xsd\",\"text\":\"" + xsd + "\"}]", "", "parts");
        RunOutcome outcome = run(job, ROUND_LINES);
        assertThat(outcome.code()).isEqualTo("FIL-14");
        assertThat(outcome.message()).contains("tours.xml would not be valid").contains("line 1");
        assertThat(files().keySet()).noneMatch(n -> n.equals("tours.xml"));
        outcome = run(job, ROUND_LINES.substring(0, ROUND_LINES.indexOf("R;3")));
        assertThat(outcome.state()).as(outcome.message()).isEqualTo(RunOutcome.State.FINISHED);
        assertThat(files().keySet()).containsExactly("tours.xml");
    }

    @Test
    void what_a_run_wrote_is_taken_back_unless_it_was_changed() throws Exception {
        run(bank("b_{number}.txt", ",\"per\":\"document\"", "parts"), ROUND_LINES);
        Files.writeString(out().resolve("b_2.txt"), "mine");
        Files.delete(out().resolve("b_3.txt"));
        TakenBack taken = FileTarget.takeBack("bank", out(), "run-7", folder.resolve("journal"));
        assertThat(taken).isEqualTo(new TakenBack("bank", 1, 1, 1, List.of("b_2.txt (changed)", "b_3.txt (gone)")));
        assertThat(files()).isEqualTo(Map.of("b_2.txt", "mine"));
    }

    @ParameterizedTest
    @CsvSource({
        "b_{date:yyyyMM}.txt, b_{date:yyyyMM}_again_{run}.txt",
        "b, b_again_{run}",
        "b.{file}, b.{file}_again_{run}",
        "b.tar.gz, b.tar_again_{run}.gz"
    })
    void files_of_rejects_sent_again_stand_beside_the_first_ones(String name, String again) {
        FileDelivery first = (FileDelivery)
                bank(name, ",\"replace\":true", "parts").deliveries().get(1).to();
        assertThat(first.again().file().name()).isEqualTo(again);
        assertThat(first.again().file().replace()).isFalse();
        assertThat(first.again().recordType()).isEqualTo(first.recordType());
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "b.txt            | ,'per':'document'            | JOB-38 would be called b.txt",
                "b_{nummer}.txt   |                              | JOB-38 takes nummer",
                "b_{date:XX}.txt  |                              | JOB-38 XX",
                "b_{number.txt    |                              | JOB-38 has no other one",
                "b_{run}.txt      | ,'per':'group'               | JOB-40 by which target field",
                "b_{number}.txt   | ,'per':'records'             | JOB-40 how many records",
                "b.txt            |                              | JOB-39 Each run writes b.txt",
                "b_{run}.txt      |                              | "
            })
    void what_keeps_a_job_from_writing_its_files_is_said_before_it_runs(String name, String more, String expected)
            throws Exception {
        Job job = bank(name, more == null ? "" : more.replace('\'', '"'), "parts");
        List<Optional<TableDescription>> tables = new ArrayList<>();
        for (Delivery d : job.deliveries()) {
            tables.add(Optional.of(FileDescription.of((FileDelivery) d.to())));
        }
        RunFacts facts = new RunFacts(7, "rounds.txt", LocalDate.of(2026, 11, 23), Map.of());
        List<Shortcoming> found = Readiness.check(job, ROUNDS, ShapingContext.of(facts), tables);
        String words = found.stream().map(s -> s.code() + " " + s.message()).collect(Collectors.joining("\n"));
        if (expected == null) {
            assertThat(words).doesNotContain("JOB-3", "JOB-4");
        } else {
            assertThat(words)
                    .contains(expected.strip().substring(0, 6))
                    .contains(expected.strip().substring(7));
        }
    }

    private static Batch rounds(int from, int to) {
        Batch batch = new Batch(2);
        for (int r = from; r < to; r++) {
            TestRows.add(batch.rows(0), "2026-11-23");
            batch.made(0);
            TestRows.add(batch.rows(1), String.valueOf(r), "10");
            batch.made(1);
            batch.endDocument(r);
        }
        return batch;
    }

    private FileTarget target(String key) {
        Leg leg =
                bank("b_{number}_" + key.length() + ".txt", "", "parts").legs().get(0);
        FileName.Facts names = new FileName.Facts("tours", 7, "rounds.txt", today.atStartOfDay());
        return new FileTarget(out(), new FilesSupport(null, leg).loads(), key, folder.resolve(key), names);
    }

    private static Mark mark(long commits, boolean complete) {
        return new Mark(new Position(commits, 1, commits), Tally.ZERO, Shares.NONE, commits, 0, "f", complete);
    }

    /** Parts stay private; whoever is to take a file may read it once it has its name. */
    @Test
    void who_may_read_a_delivered_file_is_said_by_a_setting() throws Exception {
        Leg leg = bank("b_{number}.txt", "", "parts").legs().get(0);
        FileName.Facts names = new FileName.Facts("tours", 7, "rounds.txt", today.atStartOfDay());
        Set<PosixFilePermission> mode = PosixFilePermissions.fromString("rw-r--r-x");
        try (FileTarget target = new FileTarget(
                out(), new FilesSupport(null, leg).loads(), "run-7", folder.resolve("run-7"), names, mode)) {
            target.takeUp(TakeUp.ALONE);
            try (LoadConnection connection = target.connect()) {
                connection.load(rounds(1, 3));
                connection.commit(mark(1, true));
            }
        }
        for (String name : files().keySet()) {
            assertThat(Files.getPosixFilePermissions(out().resolve(name)))
                    .as(name)
                    .isEqualTo(mode);
        }
        assertThat(files()).isNotEmpty();
    }

    /** The key of the second is that of the first with a number, and both write into one folder. */
    @Test
    void two_deliveries_of_a_run_leave_the_parts_of_each_other_alone() throws Exception {
        try (FileTarget second = target("run-7-1")) {
            second.takeUp(TakeUp.ALONE);
            try (LoadConnection connection = second.connect()) {
                connection.load(rounds(1, 5));
                connection.commit(mark(1, false));
                try (FileTarget first = target("run-7")) {
                    first.takeUp(TakeUp.ALONE);
                    try (LoadConnection other = first.connect()) {
                        other.load(rounds(1, 3));
                        other.commit(mark(1, true));
                    }
                }
                connection.load(rounds(5, 7));
                connection.commit(mark(2, true));
            }
        }
        assertThat(files().entrySet().stream()
                        .map(e -> e.getKey() + ":"
                                + e.getValue()
                                        .lines()
                                        .filter(l -> l.startsWith("L"))
                                        .count()))
                .containsExactly("b_1_5.txt:2", "b_1_7.txt:6");
    }

    /** The first is stopped before or after it has written down how far it is, and wakes when the second has gone on. */
    @ParameterizedTest
    @ValueSource(ints = {0, 1, 2})
    void a_writer_that_was_asleep_adds_nothing_behind_the_back_of_its_successor(int committed) throws Exception {
        try (FileTarget asleep = target("run-7")) {
            asleep.takeUp(TakeUp.ofOwner(1));
            try (LoadConnection connection = asleep.connect()) {
                for (int c = 1; c <= committed; c++) {
                    connection.load(rounds(c * 10, c * 10 + 3));
                    connection.commit(mark(c, false));
                }
                connection.load(rounds(1, 9));
                try (FileTarget successor = target("run-7")) {
                    Optional<Mark> mark = successor.takeUp(TakeUp.ofOwner(2));
                    assertThat(mark.map(Mark::commits).orElse(0L)).isEqualTo(committed);
                    try (LoadConnection next = successor.connect()) {
                        next.load(rounds(50, 52));
                        next.commit(mark(committed + 1, false));
                        assertThat(catchThrowableOfType(
                                                TargetException.class,
                                                () -> connection.commit(mark(committed + 1, true)))
                                        .kind())
                                .isEqualTo(TargetException.Kind.FENCED);
                        assertThat(catchThrowableOfType(TargetException.class, () -> connection.load(rounds(1, 9)))
                                        .kind())
                                .isEqualTo(TargetException.Kind.FENCED);
                        next.load(rounds(52, 53));
                        next.commit(mark(committed + 2, true));
                    }
                }
            }
            assertThat(catchThrowableOfType(TargetException.class, () -> asleep.takeUp(TakeUp.ofOwner(1)))
                            .kind())
                    .isEqualTo(TargetException.Kind.FENCED);
        }
        assertThat(files().keySet()).containsExactly("b_1_5.txt");
        assertThat(files().get("b_1_5.txt").lines().filter(l -> l.startsWith("L")))
                .hasSize(committed * 3 + 3);
    }

    @Test
    void a_second_command_is_told_that_the_first_is_still_at_it() throws Exception {
        try (FileTarget first = target("run-7")) {
            first.takeUp(TakeUp.ALONE);
            try (FileTarget second = target("run-7")) {
                assertThat(catchThrowableOfType(TargetException.class, () -> second.takeUp(TakeUp.ALONE))
                                .kind())
                        .isEqualTo(TargetException.Kind.HELD);
            }
        }
    }
}
