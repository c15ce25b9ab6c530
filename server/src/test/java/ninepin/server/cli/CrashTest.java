package ninepin.server.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.BufferedOutputStream;
import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.LocalDate;
import java.time.YearMonth;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.TimeUnit;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import ninepin.core.bytes.FileSource;
import ninepin.core.deliver.TableDelivery.Mode;
import ninepin.core.destination.tables.TablesSupport;
import ninepin.core.format.Formats;
import ninepin.core.job.Definitions;
import ninepin.core.job.Job;
import ninepin.core.layout.Field;
import ninepin.core.layout.Json;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Place;
import ninepin.core.layout.Recognition;
import ninepin.core.layout.RecordType;
import ninepin.core.layout.Workbook;
import ninepin.core.record.Position;
import ninepin.core.record.RawRecord;
import ninepin.core.record.RecordReader;
import ninepin.core.testing.Holds;
import ninepin.core.testing.Holds.Capability;
import ninepin.core.testing.MariaDbServer;
import ninepin.core.testing.PostgreSqlServer;
import ninepin.core.testing.Quality;
import ninepin.core.testing.TestDatabase;
import ninepin.core.testing.WorkbookText;
import ninepin.server.testing.Storm;
import ninepin.standins.FarmRegister;
import ninepin.standins.SupplyVouchers;
import ninepin.standins.TankerCollections;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.api.parallel.Execution;
import org.junit.jupiter.api.parallel.ExecutionMode;

/** Kills the real process and the real database while a file is loaded; what stands in the end must not show it. */
@Execution(ExecutionMode.CONCURRENT)
class CrashTest {

    private static final String FARMS =
            "SELECT COUNT(*), SUM(CRC32(CONCAT_WS('|', f.farm, name, valley, organic, member_since, breed, cows, yield)))"
                    + " FROM farm f JOIN herd h ON h.farm = f.farm";

    private static final int LINES = 200_000 * Storm.times();

    @TempDir
    Path folder;

    @Holds(
            value = {Capability.RESTART_READING, Capability.COMMAND_LINE},
            formats = "delimited")
    @Test
    @Timeout(value = 12, unit = TimeUnit.HOURS)
    void killed_at_any_instant_and_restarted_it_ends_as_if_nothing_had_happened() throws Exception {
        storm(quality(Quality.job(Mode.ADD, null)), writeInput(LINES), Duration.ofSeconds(30));
    }

    /** Keys that are remembered from the start of the file, and counts of what was added, changed and left as it was. */
    @Test
    @Timeout(value = 12, unit = TimeUnit.HOURS)
    void so_does_a_run_that_changes_by_key_and_remembers_what_stood_before() throws Exception {
        storm(
                quality(Quality.uniqueSampleAndTest(Quality.job(Mode.ADD_OR_CHANGE, null))),
                writeInput(LINES / 4),
                Duration.ofSeconds(15));
    }

    /** COPY into PostgreSQL, and what stands there changed by key. */
    @Test
    @Timeout(value = 12, unit = TimeUnit.HOURS)
    void so_does_a_load_into_postgresql() throws Exception {
        CommandLoad.Subject subject = new CommandLoad.Subject(
                PostgreSqlServer::start,
                Quality.job(Mode.ADD_OR_CHANGE, null),
                Quality.layout(),
                List.of(
                        Quality.TABLE.replace(" ENGINE=InnoDB", ""),
                        "INSERT INTO quality_result SELECT 'S' || n, 1 + n % 214, CASE n % 2 WHEN 0 THEN 'FAT' ELSE 'PROT' END,"
                                + " 3, '2026-11-03', 'there', 7, n FROM generate_series(1, 5000) n"),
                "SELECT COUNT(*), MD5(STRING_AGG(CONCAT_WS('|', sample, farm, test, value, taken_on, remark, line), ','"
                        + " ORDER BY sample, test)) FROM quality_result");
        storm(subject, writeInput(LINES / 4), Duration.ofSeconds(15));
    }

    /** Parents and children in two tables, groups of them in a third, a trailer that is checked beforehand. */
    @Holds(
            value = {Capability.RESTART_READING, Capability.COMMAND_LINE},
            formats = "fixed-length")
    @Test
    @Timeout(value = 12, unit = TimeUnit.HOURS)
    void so_does_a_fixed_length_file_of_several_record_types() throws Exception {
        Path input = folder.resolve("collections.dat");
        try (OutputStream out = new BufferedOutputStream(Files.newOutputStream(input))) {
            new TankerCollections(3, TankerCollections.Mistake.FARM)
                    .write(7, LocalDate.of(2026, 11, 23), 1, 3_000, 20, out);
        }
        storm(
                demo(
                        "tanker-collections",
                        "SELECT COUNT(*), (SELECT GROUP_CONCAT(CONCAT_WS('|', route, day, stops, farms, litres, warmest)) FROM route_day),"
                                + " SUM(CRC32(CONCAT_WS('|', c.round_no, stop, farm, collected_at, c.litres, temperature,"
                                + " r.litres, stops, valley, tanker, driver, route))) FROM collection c JOIN round r ON r.round_no = c.round_no"),
                input,
                Duration.ofSeconds(15));
    }

    /** Records gathered into documents by a key, with aggregates, lanes' way of counting, and what is set aside. */
    @Test
    @Timeout(value = 12, unit = TimeUnit.HOURS)
    void so_do_records_that_are_gathered_into_documents() throws Exception {
        Path input = folder.resolve("supplies.txt");
        try (OutputStream out = new BufferedOutputStream(Files.newOutputStream(input))) {
            new SupplyVouchers(5, true).write(LocalDate.of(2026, 11, 23), 1, 15_000, out);
        }
        CommandLoad.Subject supplies = demo(
                "supplies-on-account",
                "SELECT COUNT(*), SUM(CRC32(CONCAT_WS('|', v.voucher_no, v.farm, farm_name, items, goods, file_line, article,"
                        + " article_group, debit, credit))) FROM voucher v JOIN voucher_line l ON l.voucher_no = v.voucher_no");
        supplies.statements().add("INSERT INTO farm (farm, name) SELECT seq, CONCAT('Farm ', seq) FROM seq_1_to_214");
        storm(supplies, input, Duration.ofSeconds(15));
    }

    /** Elements inside elements; a restart finds its way without the bytes before it being delivered again. */
    @Holds(
            value = {Capability.RESTART_READING, Capability.COMMAND_LINE},
            formats = "xml")
    @Test
    @Timeout(value = 12, unit = TimeUnit.HOURS)
    void so_does_an_xml_file() throws Exception {
        storm(demo("farm-register", FARMS), register(), Duration.ofSeconds(15));
    }

    /** The same register as objects and arrays in one document. */
    @Holds(
            value = {Capability.RESTART_READING, Capability.COMMAND_LINE},
            formats = "json")
    @Test
    @Timeout(value = 12, unit = TimeUnit.HOURS)
    void so_does_a_json_file() throws Exception {
        CommandLoad.Subject xml = demo("farm-register", FARMS);
        Path input = folder.resolve("register.json");
        writeAsJson(xml.layout(), register(), input);
        CommandLoad.Subject json = new CommandLoad.Subject(
                xml.server(), xml.job(), asJson(xml.layout()), xml.statements(), xml.checksum());
        storm(json, input, Duration.ofSeconds(15));
    }

    /** The laboratory's results on two sheets: what was transcribed before the process died is transcribed again, just the same. */
    @Holds(
            value = {Capability.RESTART_READING, Capability.COMMAND_LINE},
            formats = "workbook")
    @Test
    @Timeout(value = 12, unit = TimeUnit.HOURS)
    void so_does_a_workbook() throws Exception {
        CommandLoad.Subject lines = quality(Quality.job(Mode.ADD, null));
        Layout of = lines.layout();
        Recognition everySheet = new Recognition.Rows(null);
        Layout layout = new Layout(
                of.name(),
                of.title(),
                new Workbook(),
                List.of(new RecordType(
                        "result", everySheet, null, null, null, of.firstType().fields())));
        List<String> sheets = new ArrayList<>();
        for (int i = 0; i < LINES / 4; i++) {
            if (i % (LINES / 8) == 0) {
                sheets.add("sheet Part " + i);
                sheets.add("3: Test | Sample | Farm | Value | Taken | Remark");
            }
            String row = i % 97 == 0
                    ? "FAT | bad | 12O0 | 1"
                    : "%s | s%d | %d | %d.%d"
                            .formatted(
                                    i % 2 == 0 ? "FAT" : "PROT",
                                    i % 1009 == 0 ? i - 2 : i,
                                    1 + i % 214,
                                    3,
                                    10 + i % 90);
            sheets.add((i + 4) + ": " + row + " | {dd.mm.yyyy}46329 | Prüfung " + i);
        }
        Path input = folder.resolve("quality.xlsx");
        Files.write(input, WorkbookText.bytes(sheets));
        storm(
                new CommandLoad.Subject(lines.server(), lines.job(), layout, lines.statements(), lines.checksum()),
                input,
                Duration.ofSeconds(15));
    }

    private Path register() throws IOException {
        Path register = folder.resolve("register.xml");
        try (OutputStream out = new BufferedOutputStream(Files.newOutputStream(register))) {
            new FarmRegister(3, true).write(YearMonth.of(2026, 11), 30_000, out);
        }
        return register;
    }

    /** The layout with its farms in an array, and their herds in arrays of theirs; each field a member of its own name. */
    private static Layout asJson(Layout of) {
        List<RecordType> types = of.recordTypes().stream()
                .map(t -> new RecordType(
                        t.name(),
                        new Recognition.JsonPath(t.parent() == null ? "$.farms[*]" : "$.farms[*].herds[*]"),
                        t.parent(),
                        t.min(),
                        t.max(),
                        t.fields().stream()
                                .map(f -> new Field(f.name(), new Place.JsonPath(f.name()), f.type(), f.checks()))
                                .toList()))
                .toList();
        return new Layout(of.name(), of.title(), new Json(), types);
    }

    private static void writeAsJson(Layout of, Path from, Path to) throws IOException {
        try (FileSource source = FileSource.open(from);
                BufferedWriter out = Files.newBufferedWriter(to)) {
            RecordReader reader = Formats.open(source, of).reader(source, Position.START);
            String before = "{\"farms\":[\n";
            boolean herds = false;
            while (reader.next() == RecordReader.Item.RECORD) {
                RawRecord r = reader.record();
                boolean herd = r.type() == 1;
                String members = IntStream.range(0, r.fieldCount())
                        .filter(f -> r.valueFrom(f) >= 0)
                        .mapToObj(f -> "\""
                                + of.recordTypes().get(r.type()).fields().get(f).name() + "\":\""
                                + r.text(f, StandardCharsets.UTF_8, '"').replace("\"", "\\\"") + "\"")
                        .collect(Collectors.joining(","));
                String head = herd ? herds ? "," : ",\"herds\":[" : before;
                out.write(head + "{" + members + (herd ? "}" : ""));
                herds = herd;
                before = (herd ? "]" : "") + "},\n";
            }
            out.write((herds ? "]" : "") + "}]}\n");
        }
    }

    private static CommandLoad.Subject quality(Job job) {
        List<String> statements = new ArrayList<>(List.of(Quality.TABLE));
        if (TablesSupport.loadsOf(job).get(0).delivery().mode() == Mode.ADD_OR_CHANGE) {
            statements.add(Quality.rowsThatAreThere(LINES / 10));
        }
        return new CommandLoad.Subject(
                MariaDbServer::start,
                job,
                Quality.layout(),
                statements,
                "SELECT COUNT(*), SUM(CRC32(CONCAT_WS('|', sample, farm, test, value, taken_on, remark, line)))"
                        + " FROM quality_result");
    }

    private static CommandLoad.Subject demo(String name, String checksum) throws IOException {
        Path demo = Path.of("..", "demo");
        return new CommandLoad.Subject(
                MariaDbServer::start,
                CommandLoad.tablesOf(Definitions.job(Files.readString(demo.resolve(name + ".job.json")))),
                Definitions.layout(Files.readString(demo.resolve(name + ".layout.json"))),
                new ArrayList<>(
                        List.of(Files.readString(demo.resolve("tables.sql")).split(";\\s*\n"))),
                checksum);
    }

    private static synchronized void killDatabase(TestDatabase server) {
        server.kill();
        server.launch();
    }

    private void storm(CommandLoad.Subject subject, Path input, Duration budget) throws Exception {
        try (TestDatabase server = subject.server().get()) {
            CommandLoad calm = new CommandLoad(folder, server, "calm", subject, input);
            assertThat(calm.start().waitFor())
                    .as("exit code of the undisturbed run")
                    .isEqualTo(1);

            CommandLoad stormy = new CommandLoad(folder, server, "stormy", subject, input);
            Restarted command = new Restarted(stormy);
            new Storm(subject.job().name(), budget)
                    .event("command killed", 4, random -> command.kill())
                    .event("command frozen", 1, random -> command.freeze(random.nextInt(400)))
                    .event("database killed", 1, random -> killDatabase(server))
                    .rage(command::isThrough, 3_500);
            command.awaitEnd();

            // Killed after its last commit it has nothing left to report.
            if (command.reports()) {
                assertThat(stormy.report().get("tally")).isEqualTo(calm.report().get("tally"));
                assertThat(stormy.report().get("shares"))
                        .isEqualTo(calm.report().get("shares"));
                assertThat(stormy.report().get("findingsInAll"))
                        .isEqualTo(calm.report().get("findingsInAll"));
            }
            assertThat(stormy.journal()).isEqualTo(calm.journal());
            assertThat(stormy.checksum()).isEqualTo(calm.checksum());
            System.out.printf(
                    "crash test (%s): %d starts; %s rows%n",
                    subject.job().name(), command.starts(), stormy.checksum().split("\\|")[0]);
        }
    }

    @Test
    @Timeout(value = 12, unit = TimeUnit.HOURS)
    void a_file_much_larger_than_the_heap_runs_in_it() throws Exception {
        Path input = writeInput(1_500_000);
        try (MariaDbServer server = MariaDbServer.start()) {
            CommandLoad load = new CommandLoad(folder, server, "large", quality(Quality.job(Mode.ADD, null)), input);
            load.heap = "-Xmx40m";
            assertThat(Files.size(input)).isGreaterThan(60L << 20);
            assertThat(load.start().waitFor())
                    .as(() -> "exit code; progress: " + load.lastProgress())
                    .isEqualTo(1);
            assertThat(load.report().get("tally").get("read").asLong()).isEqualTo(1_500_000);
        }
    }

    /** Good lines, lines that a check refuses, keys that stand twice and are refused by the database. */
    private Path writeInput(int count) throws IOException {
        StringBuilder lines = new StringBuilder(Quality.HEADER);
        for (int i = 0; i < count; i++) {
            if (i % 97 == 0) {
                lines.append("bad;12O0;FAT;1;03.11.2026;\r\n");
            } else {
                lines.append(Quality.line(i % 1009 == 0 ? i - 2 : i));
            }
        }
        Path input = folder.resolve("quality.csv");
        Files.writeString(input, lines, Quality.CHARSET);
        return input;
    }
}
