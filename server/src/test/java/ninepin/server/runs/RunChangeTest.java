package ninepin.server.runs;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.time.LocalDate;
import java.util.EnumMap;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import ninepin.core.deliver.DatabaseAddress;
import ninepin.core.deliver.Tally;
import ninepin.core.testing.MariaDbServer;
import ninepin.server.runs.RunMapper.NewRun;
import org.apache.ibatis.datasource.pooled.PooledDataSource;
import org.apache.ibatis.mapping.Environment;
import org.apache.ibatis.session.Configuration;
import org.apache.ibatis.session.SqlSession;
import org.apache.ibatis.session.SqlSessionFactory;
import org.apache.ibatis.session.SqlSessionFactoryBuilder;
import org.apache.ibatis.transaction.jdbc.JdbcTransactionFactory;
import org.flywaydb.core.Flyway;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.MethodSource;

/** The table of states and changes of runs, as people read it, as the code has it, and as the database keeps it. */
class RunChangeTest {

    private static final Path PAGE = Path.of("../docs/decisions/11-runs-and-their-owners.md");

    private static MariaDbServer server;
    private static SqlSessionFactory sessions;
    private static long job;

    @BeforeAll
    static void tables() {
        server = MariaDbServer.shared();
        DatabaseAddress address = server.database("run_states");
        String url = "jdbc:mariadb://127.0.0.1:" + address.port() + "/run_states";
        Flyway.configure().dataSource(url, "root", "").load().migrate();
        Environment environment = new Environment(
                "test", new JdbcTransactionFactory(), new PooledDataSource("org.mariadb.jdbc.Driver", url, "root", ""));
        Configuration configuration = new Configuration(environment);
        configuration.setMapUnderscoreToCamelCase(true);
        configuration.setArgNameBasedConstructorAutoMapping(true);
        configuration.addMapper(RunMapper.class);
        sessions = new SqlSessionFactoryBuilder().build(configuration);
        server.execute(
                "run_states",
                "INSERT INTO job (name, draft, draft_layout, revision, updated_at, updated_by)"
                        + " VALUES ('stock', '{}', '{}', 1, NOW(), 'test')");
        job = Long.parseLong(server.rows("run_states", "SELECT id FROM job").get(0));
    }

    /** What the page says: for each change the states it comes from and the one that follows. */
    private static Map<RunChange, Map.Entry<Set<RunState>, RunState>> page() throws IOException {
        Map<RunChange, Map.Entry<Set<RunState>, RunState>> table = new EnumMap<>(RunChange.class);
        for (String line : Files.readAllLines(PAGE)) {
            String[] cells = line.split("\\|");
            if (cells.length == 5 && cells[1].strip().matches("[A-Z_]+")) {
                Set<RunState> from = Stream.of(cells[2].split(","))
                        .map(s -> RunState.valueOf(s.strip()))
                        .collect(Collectors.toSet());
                table.put(RunChange.valueOf(cells[1].strip()), Map.entry(from, RunState.valueOf(cells[3].strip())));
            }
        }
        return table;
    }

    @Test
    void the_table_that_people_read_is_the_one_that_the_code_has() throws IOException {
        assertThat(page().keySet()).containsExactlyInAnyOrder(RunChange.values());
        page().forEach((change, row) -> {
            assertThat(change.from()).as("%s from", change).isEqualTo(row.getKey());
            assertThat(change.to()).as("%s to", change).isEqualTo(row.getValue());
        });
    }

    @ParameterizedTest
    @EnumSource
    void every_state_has_a_way_out_or_is_an_end(RunState state) {
        Set<RunState> ends = EnumSet.of(RunState.REFUSED);
        boolean leaves = Stream.of(RunChange.values()).anyMatch(c -> c.from().contains(state));
        assertThat(leaves || ends.contains(state)).isTrue();
    }

    static Stream<Arguments> pairs() {
        return Stream.of(RunState.values())
                .flatMap(s -> Stream.of(RunChange.values()).map(c -> Arguments.of(s, c)));
    }

    @ParameterizedTest(name = "{0} × {1}")
    @MethodSource("pairs")
    void a_change_is_made_from_the_states_of_the_table_and_refused_from_all_others(RunState state, RunChange change)
            throws IOException {
        Map.Entry<Set<RunState>, RunState> row = page().get(change);
        try (SqlSession session = sessions.openSession(true)) {
            RunMapper mapper = session.getMapper(RunMapper.class);
            long id = run(mapper, state);
            int changed = apply(mapper, id, change);
            boolean allowed = row.getKey().contains(state);
            assertThat(changed).isEqualTo(allowed ? 1 : 0);
            assertThat(mapper.find(id).orElseThrow().state()).isEqualTo(allowed ? row.getValue() : state);
        }
    }

    private static long run(RunMapper mapper, RunState state) {
        NewRun run = new NewRun();
        run.runKey = "k" + System.nanoTime();
        run.jobId = job;
        run.version = 1;
        run.state = state;
        run.startedBy = "test";
        run.fileName = "stock.csv";
        run.filePath = "/in/stock.csv";
        run.fileHome = "/in";
        run.asked = "{}";
        run.today = LocalDate.EPOCH;
        run.createdAt = Instant.EPOCH;
        mapper.add(run);
        return run.id;
    }

    /** By the statement that the application makes the change with. */
    private static int apply(RunMapper mapper, long id, RunChange change) {
        Instant at = Instant.EPOCH;
        return switch (change) {
            case TAKE_UP -> mapper.takeUp(id, 0, "here", 30, at, change);
            case PAUSE -> mapper.pause(id, 0, change, "DBS-01", "away", true, 5, 300, 1);
            case RESTART -> mapper.requeue(id, 1, null, Tally.ZERO, change);
            case TAKE_BACK -> mapper.takeBack(id, change);
            case TAKEN_AWAY -> mapper.takenBack(id, "gone");
            default -> mapper.end(id, 0, change, at, null, null, null, 1);
        };
    }

    /** Two of many processes at once: one has it, and only that one can end it. */
    @Test
    void a_run_is_taken_up_by_one_process_and_ended_by_none_that_had_it_before() throws Exception {
        long id;
        try (SqlSession session = sessions.openSession(true)) {
            id = run(session.getMapper(RunMapper.class), RunState.WAITING);
        }
        CountDownLatch together = new CountDownLatch(1);
        ExecutorService threads = Executors.newFixedThreadPool(8);
        try {
            List<Future<Integer>> taken = IntStream.range(0, 8)
                    .mapToObj(i -> threads.submit(() -> {
                        together.await();
                        try (SqlSession session = sessions.openSession(true)) {
                            return session.getMapper(RunMapper.class)
                                    .takeUp(id, 0, "process " + i, 30, Instant.EPOCH, RunChange.TAKE_UP);
                        }
                    }))
                    .toList();
            together.countDown();
            int had = 0;
            for (Future<Integer> one : taken) {
                had += one.get();
            }
            assertThat(had).isEqualTo(1);
        } finally {
            threads.shutdown();
        }
        try (SqlSession session = sessions.openSession(true)) {
            RunMapper mapper = session.getMapper(RunMapper.class);
            assertThat(mapper.end(id, 1, RunChange.RECOVER, Instant.EPOCH, null, null, null, 1))
                    .isEqualTo(1);
            assertThat(mapper.takeUp(id, 1, "next", 30, Instant.EPOCH, RunChange.TAKE_UP))
                    .isEqualTo(1);
            assertThat(mapper.end(id, 1, RunChange.FINISH, Instant.EPOCH, null, null, null, 1))
                    .as("by the process that had it before")
                    .isZero();
            assertThat(mapper.account(id, 1, 10, 5, Tally.ZERO, 0, null))
                    .as("the account of the process that had it before")
                    .isZero();
            assertThat(mapper.account(id, 2, 10, 5, Tally.ZERO, 0, null)).isEqualTo(1);
            assertThat(mapper.account(id, 2, 8, 4, Tally.ZERO, 0, null))
                    .as("an older account of the process that has it")
                    .isZero();
        }
    }

    /** The waits grow, and begin anew when the run got on. */
    @Test
    void a_run_that_waits_for_its_surroundings_waits_longer_each_time() {
        try (SqlSession session = sessions.openSession(true)) {
            RunMapper mapper = session.getMapper(RunMapper.class);
            long id = run(mapper, RunState.RUNNING);
            int[] seconds = {5, 10, 20, 40, 80, 160, 300, 300, 5};
            for (int i = 0; i < seconds.length; i++) {
                boolean anew = i == 0 || i == seconds.length - 1;
                mapper.pause(id, 0, RunChange.PAUSE, "DBS-01", "away", anew, 5, 300, 1);
                String left =
                        "SELECT ROUND(TIMESTAMPDIFF(MICROSECOND, NOW(3), resume_at) / 1000000) FROM run WHERE id = "
                                + id;
                assertThat(Long.parseLong(server.rows("run_states", left).get(0)))
                        .as("wait %d", i + 1)
                        .isBetween(seconds[i] - 2L, seconds[i] + 0L);
                server.execute("run_states", "UPDATE run SET state = 'RUNNING' WHERE id = " + id);
            }
        }
    }
}
