package ninepin.bench;

import java.io.BufferedInputStream;
import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.LocalDate;
import java.util.Map;
import java.util.Random;
import ninepin.core.deliver.DatabaseAddress;
import ninepin.core.deliver.Mark;
import ninepin.core.deliver.Tally;
import ninepin.core.deliver.database.DatabaseTarget;
import ninepin.core.destination.tables.TablesSupport;
import ninepin.core.job.Definitions;
import ninepin.core.job.Job;
import ninepin.core.layout.Layout;
import ninepin.core.run.Run;
import ninepin.core.run.RunListener;
import ninepin.core.run.RunOutcome;
import ninepin.core.run.StopSignal;
import ninepin.core.shape.RunFacts;
import ninepin.core.shape.ShapingContext;
import ninepin.core.testing.TestDatabase;
import org.postgresql.PGConnection;

/** What is delivered in other ways than added to one table of MariaDB, each against what the server itself can do. */
final class Databases {

    private static final int CHILDREN = 5;
    private static final Layout TOURS = Definitions.layout(
            """
            {"name":"tours","format":{"kind":"delimited","delimiter":";","header":false},"recordTypes":[
             {"name":"tour","when":{"by":"tag","column":1,"values":["T"]},"fields":[
              {"name":"no","column":2,"type":{"is":"integer"}},{"name":"day","column":3,"type":{"is":"date","pattern":"yyyyMMdd"}}]},
             {"name":"call","parent":"tour","when":{"by":"tag","column":1,"values":["C"]},"fields":[
              {"name":"farm","column":2,"type":{"is":"integer"}},{"name":"litres","column":3,"type":{"is":"decimal","precision":9,"scale":1}},
              {"name":"remark","column":4,"type":{"is":"text","length":40}}]}]}
            """);
    private static final Job TOURS_JOB = Definitions.job(
            """
            {"name":"tours","layout":"tours","deliveries":[
             {"of":"tour","to":{"connection":"bench","table":"tour"},"shaping":[
              {"target":"no","take":{"from":"field","field":"no"}},{"target":"day","take":{"from":"field","field":"day"}}]},
             {"of":"call","to":{"connection":"bench","table":"call_"},"shaping":[
              {"target":"tour","take":{"from":"key","table":"tour"}},{"target":"farm","take":{"from":"field","field":"farm"}},
              {"target":"litres","take":{"from":"field","field":"litres"}},{"target":"remark","take":{"from":"field","field":"remark"}}]}]}
            """);

    private final Path folder;
    private final int rows;

    Databases(Path folder, int rows) {
        this.folder = folder;
        this.rows = rows;
    }

    /** Runs a job on a file and returns the nanoseconds it took. */
    long run(DatabaseAddress database, Job job, Layout layout, Path file, long expected) {
        return run(
                database,
                job,
                layout,
                file,
                "bench-" + System.nanoTime(),
                expected,
                RunListener.NONE,
                new StopSignal());
    }

    private long run(
            DatabaseAddress database,
            Job job,
            Layout layout,
            Path file,
            String key,
            long expected,
            RunListener listener,
            StopSignal stop) {
        RunFacts facts = new RunFacts(1, "rows.csv", LocalDate.EPOCH, Map.of());
        long begun = System.nanoTime();
        try (DatabaseTarget target = new DatabaseTarget(database, TablesSupport.loadsOf(job), key)) {
            RunOutcome outcome = new Run(
                            job.plan(layout, ShapingContext.of(facts), Tally.ZERO),
                            file,
                            folder.resolve(key),
                            target,
                            listener,
                            stop)
                    .execute();
            if (expected >= 0 && outcome.tally().delivered() != expected) {
                throw new IllegalStateException("A measure is not valid: all rows are delivered: " + outcome);
            }
        }
        return System.nanoTime() - begun;
    }

    /** The server's own copy of the same rows. */
    long copy(TestDatabase server, Path plain, String columns) throws SQLException, IOException {
        server.execute("bench", "DROP TABLE IF EXISTS theirs", "CREATE TABLE theirs " + columns);
        long begun = System.nanoTime();
        try (Connection c = server.connect("bench");
                InputStream in = new BufferedInputStream(Files.newInputStream(plain), 1 << 16)) {
            c.setAutoCommit(false);
            c.unwrap(PGConnection.class).getCopyAPI().copyIn("COPY theirs FROM STDIN", in, 1 << 16);
            c.commit();
        }
        return System.nanoTime() - begun;
    }

    /** Adds or changes by the primary key, half of whose rows are there. */
    long addOrChange(TestDatabase server, DatabaseAddress database, Path delimited) {
        half(server, "ours");
        Job job = Definitions.job(Definitions.write(EightFields.job())
                .replaceFirst("\"mode\" : \"add\"", "\"mode\" : \"add-or-change\", \"key\" : [\"id\"]"));
        return run(database, job, EightFields.layout(), delimited, rows);
    }

    /** The same by the server alone: its bulk statement into a staging table, and one statement from there. */
    long insertSelect(TestDatabase server, Path plain) throws SQLException {
        half(server, "theirs");
        server.execute("bench", "DROP TABLE IF EXISTS staged", "CREATE TABLE staged LIKE theirs");
        long begun = System.nanoTime();
        try (Connection c = server.connect("bench");
                Statement s = c.createStatement()) {
            s.executeUpdate("LOAD DATA LOCAL INFILE '" + plain + "' INTO TABLE staged CHARACTER SET utf8mb4");
            s.executeUpdate(
                    "INSERT INTO theirs SELECT * FROM staged ON DUPLICATE KEY UPDATE farm = VALUES(farm), sample ="
                            + " VALUES(sample), test = VALUES(test), value = VALUES(value), taken_on = VALUES(taken_on),"
                            + " temperature = VALUES(temperature), remark = VALUES(remark)");
        }
        return System.nanoTime() - begun;
    }

    private void half(TestDatabase server, String table) {
        server.execute(
                "bench",
                "DROP TABLE IF EXISTS " + table,
                "CREATE TABLE " + table + " " + EightFields.TABLE,
                "INSERT INTO " + table + " SELECT seq * 2, 1, 'x', 'FAT', 1, '2026-01-01', 1, NULL FROM seq_1_to_"
                        + rows / 2);
    }

    /** Writes parents with their children, and the rows of each as the server's statement wants them. */
    long writeTours(Path tours, Path parents, Path children) throws IOException {
        Random random = new Random(3);
        int count = Math.max(1, rows / (CHILDREN + 1));
        try (OutputStream t = out(tours);
                OutputStream p = out(parents);
                OutputStream c = out(children)) {
            for (int i = 1; i <= count; i++) {
                t.write(("T;" + (500_000 + i) + ";20261103\n").getBytes(StandardCharsets.UTF_8));
                p.write(((500_000 + i) + "\t2026-11-03\n").getBytes(StandardCharsets.UTF_8));
                for (int k = 0; k < CHILDREN; k++) {
                    int farm = 1 + random.nextInt(214);
                    String litres = random.nextInt(3_000) + "." + random.nextInt(10);
                    t.write(("C;" + farm + ";" + litres + ";gate was locked\n").getBytes(StandardCharsets.UTF_8));
                    c.write((i + "\t" + farm + "\t" + litres + "\tgate was locked\n").getBytes(StandardCharsets.UTF_8));
                }
            }
        }
        return count * (CHILDREN + 1L);
    }

    private static OutputStream out(Path path) throws IOException {
        return new BufferedOutputStream(Files.newOutputStream(path), 1 << 16);
    }

    private static void makeTours(TestDatabase server) {
        server.execute(
                "bench",
                "DROP TABLE IF EXISTS call_",
                "DROP TABLE IF EXISTS tour",
                "CREATE TABLE tour (id BIGINT PRIMARY KEY AUTO_INCREMENT, no INT NOT NULL, day DATE NOT NULL)",
                "CREATE TABLE call_ (id BIGINT PRIMARY KEY AUTO_INCREMENT, tour BIGINT NOT NULL, farm INT NOT NULL,"
                        + " litres DECIMAL(9,1), remark VARCHAR(40), FOREIGN KEY (tour) REFERENCES tour (id))");
    }

    /** Parents and children by the numbers that the database gives. */
    long tours(TestDatabase server, DatabaseAddress database, Path tours, long expected) {
        makeTours(server);
        return run(database, TOURS_JOB, TOURS, tours, expected);
    }

    /** The same rows in two statements, with the numbers known beforehand. */
    long twoStatements(TestDatabase server, Path parents, Path children) throws SQLException {
        makeTours(server);
        long begun = System.nanoTime();
        try (Connection c = server.connect("bench");
                Statement s = c.createStatement()) {
            s.executeUpdate("LOAD DATA LOCAL INFILE '" + parents + "' INTO TABLE tour (no, day)");
            s.executeUpdate("LOAD DATA LOCAL INFILE '" + children + "' INTO TABLE call_ (tour, farm, litres, remark)");
        }
        return System.nanoTime() - begun;
    }

    /** What remains of a load that was stopped at 90 %, from its restart. */
    long restart(TestDatabase server, DatabaseAddress database, Path delimited) {
        server.execute("bench", "DROP TABLE IF EXISTS ours", "CREATE TABLE ours " + EightFields.TABLE);
        String key = "restart-" + System.nanoTime();
        StopSignal stop = new StopSignal();
        run(
                database,
                EightFields.job(),
                EightFields.layout(),
                delimited,
                key,
                -1,
                new RunListener() {
                    @Override
                    public void committed(Mark mark) {
                        if (mark.position().records() >= rows * 9L / 10) {
                            stop.request();
                        }
                    }
                },
                stop);
        return run(
                database,
                EightFields.job(),
                EightFields.layout(),
                delimited,
                key,
                rows,
                RunListener.NONE,
                new StopSignal());
    }
}
