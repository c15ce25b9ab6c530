package ninepin.core.run;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import ninepin.core.deliver.RowCounts;
import ninepin.core.deliver.Shares;
import ninepin.core.deliver.TableDelivery.Mode;
import ninepin.core.deliver.TakeUp;
import ninepin.core.deliver.Tally;
import ninepin.core.deliver.Target;
import ninepin.core.deliver.database.DatabaseTarget;
import ninepin.core.deliver.database.OwnStatements;
import ninepin.core.deliver.database.StagedTarget;
import ninepin.core.destination.tables.TablesSupport;
import ninepin.core.job.Definitions;
import ninepin.core.job.Job;
import ninepin.core.job.Leg;
import ninepin.core.layout.Layout;
import ninepin.core.shape.RunFacts;
import ninepin.core.shape.ShapingContext;
import ninepin.core.testing.MariaDbServer;
import ninepin.core.testing.PostgreSqlServer;
import ninepin.core.testing.TestDatabase;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

/** What each delivery is said to have done is what happened to its table: any modes side by side, in parts and staged. */
class DeliveryAccountsTest {

    private static final int SEEDS = 8;

    /** Records of four kinds: for the first table, for the second, for the second and third, and for none. */
    private static final Layout LAYOUT = Definitions.layout(
            """
            {"name":"slips","format":{"kind":"delimited","delimiter":";","header":false},"recordTypes":[%s]}
            """
                    .formatted(Stream.of("a", "b", "c", "n")
                            .map(t -> "{\"name\":\"" + t + "\",\"when\":{\"by\":\"tag\",\"column\":1,\"values\":[\"" + t
                                    + "\"]},\"fields\":[{\"name\":\"k\",\"column\":2,\"type\":{\"is\":\"integer\"}},"
                                    + "{\"name\":\"v\",\"column\":3,\"type\":{\"is\":\"text\",\"length\":20}}]}")
                            .collect(Collectors.joining(","))));

    /** For each delivery the kind of record it is made of, and its table. */
    private static final List<Map.Entry<String, String>> DELIVERIES = List.of(
            Map.entry("a", "first"), Map.entry("b", "second"), Map.entry("c", "second"), Map.entry("c", "third"));

    @TempDir
    Path folder;

    static Stream<Arguments> databases() {
        return Stream.of(
                Arguments.of("mariadb", MariaDbServer.shared(), false),
                Arguments.of("mariadb", MariaDbServer.shared(), true),
                Arguments.of("postgresql", PostgreSqlServer.shared(), false),
                Arguments.of("postgresql", PostgreSqlServer.shared(), true));
    }

    private static Job job(Map<String, Mode> modes) {
        String deliveries = DELIVERIES.stream()
                .map(d -> {
                    Mode mode = modes.get(d.getValue());
                    String key = mode.byKey() ? ",\"key\":[\"k\"]" : "";
                    return "{\"of\":\"" + d.getKey() + "\",\"to\":{\"connection\":\"c\",\"table\":\"" + d.getValue()
                            + "\",\"mode\":\"" + mode + "\"" + key
                            + "},\"shaping\":[{\"target\":\"k\",\"take\":{\"from\":\"field\",\"field\":\"k\"}},"
                            + "{\"target\":\"v\",\"take\":{\"from\":\"field\",\"field\":\"v\"}}]}";
                })
                .collect(Collectors.joining(","));
        return Definitions.job("{\"name\":\"slips\",\"layout\":\"slips\",\"deliveries\":[" + deliveries + "]}");
    }

    private static Map<String, Mode> modes(Random random, boolean staged) {
        List<Mode> usual = List.of(Mode.ADD, Mode.ADD_OR_CHANGE, Mode.ADD_MISSING, Mode.CHANGE, Mode.REMOVE);
        // What is changed where it is missing is refused when staged rows are moved, which is another promise.
        List<Mode> some = staged ? List.of(Mode.ADD, Mode.ADD_OR_CHANGE, Mode.ADD_MISSING, Mode.REMOVE) : usual;
        Map<String, Mode> modes = new HashMap<>();
        for (String table : List.of("first", "second", "third")) {
            modes.put(table, some.get(random.nextInt(some.size())));
        }
        return modes;
    }

    private static String lines(Random random, boolean staged) {
        Set<String> taken = new HashSet<>();
        StringBuilder lines = new StringBuilder();
        for (int n = 0; n < 120; n++) {
            String type = "abcn".substring(random.nextInt(4)).substring(0, 1);
            int key = random.nextInt(60);
            // Staged rows with a key twice are refused all together, which is another promise.
            String at = (type.equals("c") ? "b" : type) + key;
            if (staged && !taken.add(at)) {
                continue;
            }
            String value = random.nextInt(15) == 0 ? "far too long for the column" : "v" + random.nextInt(3);
            boolean bad = random.nextInt(20) == 0;
            lines.append(type)
                    .append(';')
                    .append(bad ? "x" : String.valueOf(key))
                    .append(';')
                    .append(staged ? "v" + random.nextInt(3) : value.length() > 20 ? value.substring(0, 20) : value)
                    .append('\n');
        }
        return lines.toString();
    }

    private long rows(RunFixture f, String table) {
        return Long.parseLong(f.rows("SELECT COUNT(*) FROM " + table).get(0));
    }

    @ParameterizedTest(name = "{0}, staged {2}", autoCloseArguments = false)
    @MethodSource("databases")
    void the_rows_of_each_delivery_are_what_happened_to_its_table(String name, TestDatabase server, boolean staged)
            throws IOException {
        for (int seed = 0; seed < SEEDS; seed++) {
            Random random = new Random(seed);
            Map<String, Mode> modes = modes(random, staged);
            String database = "accounts_" + seed;
            RunFixture f = new RunFixture(
                    server, Files.createDirectories(folder.resolve(name + staged + seed)), database, job(modes));
            Map<String, Long> before = new HashMap<>();
            for (String table : List.of("first", "second", "third")) {
                f.server.execute(database, "CREATE TABLE " + table + " (k INT PRIMARY KEY, v VARCHAR(12))");
                for (int k : random.ints(0, 60)
                        .distinct()
                        .limit(staged && modes.get(table) == Mode.ADD ? 0 : 20)
                        .toArray()) {
                    f.server.execute(database, "INSERT INTO " + table + " VALUES (" + k + ", 'v0')");
                }
                before.put(table, rows(f, table));
            }
            Files.writeString(f.file, lines(random, staged), StandardCharsets.UTF_8);

            RunOutcome outcome = run(f, staged);

            String as = name + ", seed " + seed + ", " + modes + ", staged " + staged + ": " + outcome;
            assertThat(outcome.state()).as(as).isEqualTo(RunOutcome.State.FINISHED);
            Map<Integer, Shares.DeliveryShare> deliveries =
                    outcome.mark().shares().deliveries();
            RowCounts sum = RowCounts.NONE;
            for (Shares.DeliveryShare delivery : deliveries.values()) {
                sum = sum.plus(delivery.rows());
            }
            Tally tally = outcome.tally();
            assertThat(sum).as(as).isEqualTo(tally.allRows());
            assertThat(deliveries.keySet()).as(as).containsExactly(0, 1, 2, 3);
            for (String table : List.of("first", "second", "third")) {
                RowCounts of = IntStream.range(0, DELIVERIES.size())
                        .filter(d -> DELIVERIES.get(d).getValue().equals(table))
                        .mapToObj(d -> deliveries.get(d).rows())
                        .reduce(RowCounts.NONE, RowCounts::plus);
                assertThat(of.added() - of.removed())
                        .as("%s in %s", as, table)
                        .isEqualTo(rows(f, table) - before.get(table));
            }
            // A record of the third kind stands in two deliveries, and counts once.
            assertThat(deliveries.get(2).records())
                    .as(as)
                    .isEqualTo(deliveries.get(3).records());
            assertThat(tally.delivered())
                    .as(as)
                    .isEqualTo(deliveries.get(0).records()
                            + deliveries.get(1).records()
                            + deliveries.get(2).records());
            long refused = deliveries.values().stream()
                    .mapToLong(Shares.DeliveryShare::refused)
                    .sum();
            long byTarget = f.journal().stream().filter(JournalEntry::byTarget).count();
            assertThat(refused).as(as).isEqualTo(byTarget);
            assertThat(tally.rejected())
                    .as(as)
                    .isEqualTo(
                            f.journal().stream().filter(JournalEntry::rejected).count());
        }
    }

    private static RunOutcome run(RunFixture f, boolean staged) {
        RunFacts facts = new RunFacts(7, "slips.csv", LocalDate.of(2026, 11, 23), Map.of());
        Leg leg = f.job.legs().get(0);
        RunPlan plan =
                f.job.plan(LAYOUT, ShapingContext.of(facts), Tally.ZERO, leg).withChunkRows(25);
        StopSignal stop = new StopSignal();
        try (Target target = staged
                ? new StagedTarget(
                        f.database,
                        new TablesSupport(f.job, leg).loads(),
                        "accounts-7",
                        OwnStatements.NONE,
                        stop::requested)
                : new DatabaseTarget(
                        f.database,
                        new TablesSupport(f.job, leg).loads(),
                        "accounts-7",
                        OwnStatements.NONE,
                        stop::requested)) {
            return new Run(plan, f.file, f.journal, target, RunListener.NONE, stop, TakeUp.ALONE).execute();
        }
    }
}
