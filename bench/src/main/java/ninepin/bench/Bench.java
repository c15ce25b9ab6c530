package ninepin.bench;

import com.sun.management.OperatingSystemMXBean;
import de.siegmar.fastcsv.reader.CsvReader;
import de.siegmar.fastcsv.reader.CsvRecord;
import java.io.IOException;
import java.lang.management.ManagementFactory;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.time.LocalDate;
import java.util.Arrays;
import java.util.Locale;
import java.util.Map;
import java.util.concurrent.Callable;
import ninepin.core.deliver.DatabaseAddress;
import ninepin.core.deliver.Tally;
import ninepin.core.deliver.database.DatabaseTarget;
import ninepin.core.destination.tables.TablesSupport;
import ninepin.core.job.Job;
import ninepin.core.run.Run;
import ninepin.core.run.RunListener;
import ninepin.core.run.RunOutcome;
import ninepin.core.run.StopSignal;
import ninepin.core.shape.RunFacts;
import ninepin.core.shape.ShapingContext;
import ninepin.core.testing.MariaDbServer;
import ninepin.core.testing.PostgreSqlServer;

/**
 * Prints a JSON line for each measure: the medians of ours and of the yardstick in seconds, and their ratio; and the ratio of the
 * processor time that this process took for them, which for measures with a database leaves out what that took.
 */
public final class Bench {

    /** A reading takes a fraction of a second, in which not everything is compiled. */
    private static final int READING_WARM_UP = 12;

    private static final OperatingSystemMXBean PROCESS =
            (OperatingSystemMXBean) ManagementFactory.getOperatingSystemMXBean();

    private final int rows;
    private final int pairs;
    private final Path folder;
    private final Path delimited;
    private final Path plain;

    private final String only;

    private Bench(int rows, int pairs, String only) throws IOException {
        this.rows = rows;
        this.pairs = pairs;
        this.only = only;
        this.folder = Files.createTempDirectory("ninepin-bench");
        this.delimited = folder.resolve("rows.csv");
        this.plain = folder.resolve("rows.txt");
    }

    /** Takes the number of rows (one million), of paired runs (seven) and a word of the measures wanted (all). */
    public static void main(String[] args) throws Exception {
        int rows = args.length > 0 ? Integer.parseInt(args[0]) : 1_000_000;
        int pairs = args.length > 1 ? Integer.parseInt(args[1]) : 7;
        new Bench(rows, pairs, args.length > 2 ? args[2] : "").run();
        System.exit(0);
    }

    private void run() throws Exception {
        EightFields.write(delimited, plain, rows);
        measure(
                "delimited read, typed and checked, against FastCSV as strings",
                READING_WARM_UP,
                () -> OtherKinds.check(delimited, EightFields.layout(), rows),
                this::fastCsv);
        Path fixed = folder.resolve("collections.dat");
        Path xml = folder.resolve("register.xml");
        long lines = OtherKinds.writeFixed(fixed, rows);
        long elements = OtherKinds.writeXml(xml, Math.max(1, rows / 5));
        measure(
                "fixed-length read, typed and checked, against BufferedReader.readLine",
                READING_WARM_UP,
                () -> OtherKinds.check(fixed, OtherKinds.layout("tanker-collections"), lines),
                () -> OtherKinds.lines(fixed));
        measure(
                "XML read, typed and checked, against a bare Woodstox cursor",
                READING_WARM_UP,
                () -> OtherKinds.check(xml, OtherKinds.layout("farm-register"), elements),
                () -> OtherKinds.cursor(xml));
        Path json = folder.resolve("rows.jsonl");
        JsonLines.write(delimited, json);
        measure(
                "JSON Lines read, typed and checked, against a bare Jackson parser",
                READING_WARM_UP,
                () -> OtherKinds.check(json, JsonLines.layout(), rows),
                () -> JsonLines.tokens(json));
        if ("workbook read, typed and checked, against a bare reader".contains(only)) {
            workbooks();
        }
        Files.delete(fixed);
        Files.delete(xml);
        Files.delete(json);
        try (MariaDbServer server = MariaDbServer.start()) {
            DatabaseAddress database = server.database("bench");
            measure(
                    "delimited file to table, against LOAD DATA LOCAL INFILE",
                    () -> load(server, database, EightFields.job(), EightFields.TABLE),
                    () -> loadData(server, plain, EightFields.TABLE));
            Path shaped = folder.resolve("shaped.txt");
            TwelveRules.write(delimited, shaped);
            measure(
                    "delimited file to table by twelve rules, six of them formulas, against LOAD DATA of the rows",
                    () -> load(server, database, TwelveRules.job(), TwelveRules.TABLE),
                    () -> loadData(server, shaped, TwelveRules.TABLE));
            measure(
                    "shaping by twelve rules, six of them formulas, as a share of file to table",
                    () -> TwelveRules.read(delimited, true, rows) - TwelveRules.read(delimited, false, rows),
                    () -> load(server, database, TwelveRules.job(), TwelveRules.TABLE));
            Files.delete(shaped);
            others(server, database);
        } finally {
            Files.deleteIfExists(delimited);
            Files.deleteIfExists(plain);
        }
    }

    /** A sheet has no more rows than a million. */
    private void workbooks() throws Exception {
        Path workbook = folder.resolve("rows.xlsx");
        Path texts = folder.resolve("texts");
        Path source = delimited;
        int own = Math.min(rows, 1_000_000);
        if (own < rows) {
            source = folder.resolve("fewer.csv");
            EightFields.write(source, folder.resolve("fewer.txt"), own);
        }
        Workbooks.write(source, workbook);
        measure(
                "workbook read, typed and checked, against a bare reader",
                2,
                () -> Workbooks.check(workbook, Workbooks.layout(), texts, own),
                () -> Workbooks.cells(workbook));
        Files.delete(workbook);
    }

    private void others(MariaDbServer server, DatabaseAddress database) throws Exception {
        Databases databases = new Databases(folder, rows);
        measure(
                "delimited file added or changed by key, half of it there, against INSERT … SELECT … ON DUPLICATE KEY UPDATE"
                        + " from a staging table",
                () -> databases.addOrChange(server, database, delimited),
                () -> databases.insertSelect(server, plain));
        Path tours = folder.resolve("tours.txt");
        Path parents = folder.resolve("parents.txt");
        Path children = folder.resolve("children.txt");
        long records = databases.writeTours(tours, parents, children);
        measure(
                "parents and children by keys of the database, against two LOAD DATA with keys known beforehand",
                () -> databases.tours(server, database, tours, records),
                () -> databases.twoStatements(server, parents, children));
        measure(
                "restart at 90 %, against a tenth of the whole load",
                () -> databases.restart(server, database, delimited),
                () -> load(server, database, EightFields.job(), EightFields.TABLE) / 10);
        if ("growth".contains(only)) {
            Path large = folder.resolve("large.csv");
            EightFields.write(large, folder.resolve("large.txt"), rows * 10);
            Files.delete(folder.resolve("large.txt"));
            Databases ten = new Databases(folder, rows * 10);
            new Bench(rows, 1, only)
                    .measure(
                            "growth: a row of ten times as many, against a row",
                            0,
                            () -> {
                                server.execute(
                                        "bench", "DROP TABLE IF EXISTS ours", "CREATE TABLE ours " + EightFields.TABLE);
                                return ten.run(database, EightFields.job(), EightFields.layout(), large, rows * 10L)
                                        / 10;
                            },
                            () -> load(server, database, EightFields.job(), EightFields.TABLE));
            Files.delete(large);
        }
        try (PostgreSqlServer postgres = PostgreSqlServer.start()) {
            DatabaseAddress other = postgres.database("bench");
            String columns = EightFields.TABLE.replace(" ENGINE=InnoDB", "");
            measure(
                    "delimited file to PostgreSQL, against COPY",
                    () -> {
                        postgres.execute("bench", "DROP TABLE IF EXISTS ours", "CREATE TABLE ours " + columns);
                        return databases.run(other, EightFields.job(), EightFields.layout(), delimited, rows);
                    },
                    () -> databases.copy(postgres, plain, columns));
        }
    }

    private void measure(String name, Callable<Long> ours, Callable<Long> yardstick) throws Exception {
        measure(name, 2, ours, yardstick);
    }

    /** Runs the two in turn, at first unmeasured so that both are compiled, and prints the medians. */
    private void measure(String name, int unmeasured, Callable<Long> ours, Callable<Long> yardstick) throws Exception {
        if (!name.contains(only)) {
            return;
        }
        double[] a = new double[pairs];
        double[] b = new double[pairs];
        double[] ratio = new double[pairs];
        double[] processor = new double[pairs];
        for (int i = -unmeasured; i < pairs; i++) {
            long before = PROCESS.getProcessCpuTime();
            double first = ours.call() / 1e9;
            long between = PROCESS.getProcessCpuTime();
            double second = yardstick.call() / 1e9;
            long after = PROCESS.getProcessCpuTime();
            if (i >= 0) {
                processor[i] = (between - before) / (double) Math.max(1, after - between);
                a[i] = first;
                b[i] = second;
                ratio[i] = first / second;
            }
        }
        System.out.printf(
                Locale.ROOT,
                "{\"measure\":\"%s\",\"rows\":%d,\"runs\":%d,\"ours\":%.3f,\"yardstick\":%.3f,\"ratio\":%.3f,"
                        + "\"ratioMin\":%.3f,\"ratioMax\":%.3f,\"processorRatio\":%.3f}%n",
                name,
                rows,
                pairs,
                median(a),
                median(b),
                median(ratio),
                Arrays.stream(ratio).min().orElse(0),
                Arrays.stream(ratio).max().orElse(0),
                median(processor));
    }

    private static double median(double[] values) {
        double[] sorted = values.clone();
        Arrays.sort(sorted);
        return sorted[sorted.length / 2];
    }

    private long fastCsv() throws IOException {
        long begun = System.nanoTime();
        long fields = 0;
        try (CsvReader<CsvRecord> reader =
                CsvReader.builder().fieldSeparator(';').ofCsvRecord(delimited, StandardCharsets.UTF_8)) {
            for (CsvRecord record : reader) {
                fields += record.getFieldCount();
            }
        }
        require(fields == (rows + 1) * 8L, "every field is read");
        return System.nanoTime() - begun;
    }

    private long load(MariaDbServer server, DatabaseAddress database, Job job, String columns) {
        String table = TablesSupport.loadsOf(job).get(0).delivery().table();
        server.execute("bench", "DROP TABLE IF EXISTS " + table, "CREATE TABLE " + table + " " + columns);
        RunFacts facts = new RunFacts(1, "rows.csv", LocalDate.EPOCH, Map.of());
        long begun = System.nanoTime();
        try (DatabaseTarget target = new DatabaseTarget(database, TablesSupport.loadsOf(job), "bench-" + begun)) {
            RunOutcome outcome = new Run(
                            job.plan(EightFields.layout(), ShapingContext.of(facts), Tally.ZERO),
                            delimited,
                            folder.resolve("j" + begun),
                            target,
                            RunListener.NONE,
                            new StopSignal())
                    .execute();
            require(outcome.tally().delivered() == rows, "all rows are delivered: " + outcome);
        }
        return System.nanoTime() - begun;
    }

    private long loadData(MariaDbServer server, Path from, String columns) throws SQLException {
        server.execute("bench", "DROP TABLE IF EXISTS theirs", "CREATE TABLE theirs " + columns);
        long begun = System.nanoTime();
        try (Connection c = server.connect("bench");
                var s = c.createStatement()) {
            int loaded =
                    s.executeUpdate("LOAD DATA LOCAL INFILE '" + from + "' INTO TABLE theirs CHARACTER SET utf8mb4");
            require(loaded == rows, "all rows are loaded, not " + loaded);
        }
        return System.nanoTime() - begun;
    }

    private static void require(boolean holds, String what) {
        if (!holds) {
            throw new IllegalStateException("A measure is not valid: " + what);
        }
    }
}
