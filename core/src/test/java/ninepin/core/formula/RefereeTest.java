package ninepin.core.formula;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Random;
import java.util.TreeMap;
import ninepin.core.bytes.MemorySource;
import ninepin.core.check.RecordChecker;
import ninepin.core.format.Formats;
import ninepin.core.formula.RandomFormula.Pair;
import ninepin.core.job.Definitions;
import ninepin.core.layout.Layout;
import ninepin.core.record.Opening;
import ninepin.core.record.RecordReader;
import ninepin.core.testing.MariaDbServer;
import org.junit.jupiter.api.Test;

/**
 * Random formulas with values, evaluated here and by a real server, agree. Where the standard and the server differ the
 * formulas are written for each in its own way, in {@link RandomFormula}; and these differences are allowed, by name:
 * a division by zero, a day outside the calendar and a cast that fails are findings here and NULL there, and a number
 * of more than 38 digits is a finding here. The others are listed in {@code docs/decisions/05-formulas.md}.
 */
class RefereeTest {

    private static final int ROWS = 50;
    private static final int FORMULAS = 440;
    private static final int AT_ONCE = 40;

    static final Layout LAYOUT = Definitions.layout(
            """
            {"name":"values","format":{"kind":"delimited","delimiter":";","header":false},"recordTypes":[{"name":"row","fields":[
             {"name":"n","column":1,"type":{"is":"integer"}},{"name":"m","column":2,"type":{"is":"integer"}},
             {"name":"d","column":3,"type":{"is":"decimal","precision":8,"scale":2}},
             {"name":"e","column":4,"type":{"is":"decimal","precision":6,"scale":3}},
             {"name":"t","column":5,"type":{"is":"text","length":20}},{"name":"u","column":6,"type":{"is":"text","length":20}},
             {"name":"b","column":7,"type":{"is":"boolean","trueTokens":["1"],"falseTokens":["0"]}},
             {"name":"day","column":8,"type":{"is":"date","pattern":"yyyy-MM-dd"}},
             {"name":"later","column":9,"type":{"is":"date","pattern":"yyyy-MM-dd"}},
             {"name":"at","column":10,"type":{"is":"timestamp","pattern":"yyyy-MM-dd HH:mm:ss"}}]}]}
            """);
    private static final List<String> WORDS =
            List.of("Tarn", "Höf", "a_b", " x ", "007", "ABC-12", "🥛 milk", "banana", "Ööö", "100%", "n");

    /** Results that differ by a rule of this language, counted by its code. */
    private final Map<String, Integer> allowed = new TreeMap<>();

    private final List<String> disagreements = new ArrayList<>();

    @Test
    void formulas_agree_with_the_server() throws Exception {
        long seed = new Random().nextLong();
        Random random = new Random(seed);
        int compared = 0;
        try (MariaDbServer server = MariaDbServer.start();
                Connection connection = connection(server)) {
            List<List<String>> rows = rows(random);
            for (List<String> row : rows) {
                compared += compare(row, random, connection, "with the seed " + seed);
                if (disagreements.size() > 20) {
                    break;
                }
            }
        }
        System.out.printf("referee: %d formulas from the seed %d; refused here %s%n", compared, seed, allowed);
        assertThat(disagreements.stream().limit(20)).isEmpty();
        assertThat(compared).isGreaterThanOrEqualTo(20_000);
    }

    private static Connection connection(MariaDbServer server) throws SQLException {
        server.database("referee");
        Connection connection = server.connect("referee");
        try (Statement s = connection.createStatement()) {
            s.execute("SET sql_mode = 'PIPES_AS_CONCAT,NO_BACKSLASH_ESCAPES,ANSI_QUOTES'");
            s.execute("SET NAMES utf8mb4 COLLATE utf8mb4_nopad_bin");
        }
        return connection;
    }

    private static List<List<String>> rows(Random random) {
        List<List<String>> rows = new ArrayList<>();
        for (int i = 0; i < ROWS; i++) {
            rows.add(List.of(
                    maybe(random, Integer.toString(random.nextInt(2000) - 1000)),
                    maybe(random, Integer.toString(random.nextInt(12) - 2)),
                    maybe(
                            random,
                            BigDecimal.valueOf(random.nextInt(200_000) - 50_000, 2)
                                    .toPlainString()),
                    maybe(random, BigDecimal.valueOf(random.nextInt(9_000), 3).toPlainString()),
                    maybe(random, WORDS.get(random.nextInt(WORDS.size()))),
                    maybe(random, WORDS.get(random.nextInt(WORDS.size()))),
                    maybe(random, Integer.toString(random.nextInt(2))),
                    maybe(
                            random,
                            LocalDate.of(2026, 1, 1)
                                    .plusDays(random.nextInt(900) - 400)
                                    .toString()),
                    maybe(
                            random,
                            LocalDate.of(2026, 3, 31)
                                    .plusMonths(random.nextInt(30))
                                    .toString()),
                    maybe(random, "2026-11-23 04:%02d:%02d".formatted(random.nextInt(60), random.nextInt(60)))));
        }
        return rows;
    }

    private static String maybe(Random random, String value) {
        return random.nextInt(9) == 0 ? "" : value;
    }

    private int compare(List<String> row, Random random, Connection connection, String seed) throws Exception {
        MemorySource source = new MemorySource((String.join(";", row) + "\n").getBytes(StandardCharsets.UTF_8));
        Opening opening = Formats.open(source, LAYOUT);
        RecordChecker checker = new RecordChecker(LAYOUT, opening, LocalDate.EPOCH);
        RecordReader reader = opening.reader(source, opening.body());
        assertThat(reader.next()).isEqualTo(RecordReader.Item.RECORD);
        assertThat(checker.check(reader.record())).isNull();
        FormulaScope scope = new FormulaScope(LAYOUT, 0, Map.of(), LocalDate.of(2026, 11, 23));
        RandomFormula maker = new RandomFormula(random);
        String from = derived(row);
        int compared = 0;
        for (int i = 0; i < FORMULAS; i += AT_ONCE) {
            List<Pair> pairs = new ArrayList<>();
            for (int k = 0; k < AT_ONCE; k++) {
                pairs.add(maker.any(1 + random.nextInt(3)));
            }
            List<String> theirs = answers(connection, pairs, from);
            for (int k = 0; k < AT_ONCE; k++) {
                if (theirs.get(k) != null && theirs.get(k).equals("out of range")) {
                    allowed.merge("out of range there", 1, Integer::sum);
                    continue;
                }
                Pair pair = pairs.get(k);
                Formula formula = Formula.of(pair.ours(), scope);
                compare(formula, pair, checker, theirs.get(k), seed + ", in " + row);
                compared++;
            }
        }
        return compared;
    }

    /** Notes where the two do not agree. */
    private void compare(Formula formula, Pair pair, RecordChecker checker, String theirs, String where) {
        String ours;
        try {
            ours = shown(formula.type(), formula.eval(new RecordContext(checker.values())), theirs);
        } catch (EvaluationException e) {
            allowed.merge(e.code(), 1, Integer::sum);
            ours = List.of("FML-01", "FML-02", "FML-05").contains(e.code()) ? theirs : e.code() + " " + e.getMessage();
        }
        if (!Objects.equals(ours, theirs)) {
            disagreements.add(
                    "%s\nthere %s\nis %s, there %s\n%s".formatted(pair.ours(), pair.theirs(), ours, theirs, where));
        }
    }

    /** A value as the server writes it; a number that is equal to the server's as that one. */
    private static String shown(SqlType type, Datum d, String theirs) {
        if (d.isNull()) {
            return null;
        }
        if (type.is(SqlType.Kind.BOOLEAN)) {
            return d.isTrue() ? "1" : "0";
        }
        boolean equal =
                type.is(SqlType.Kind.NUMERIC) && theirs != null && d.decimal().compareTo(new BigDecimal(theirs)) == 0;
        return equal ? theirs : d.written(type);
    }

    /** One row with the types that the layout has. */
    private static String derived(List<String> row) {
        String[] types = {
            "SIGNED",
            "SIGNED",
            "DECIMAL(8,2)",
            "DECIMAL(6,3)",
            "CHAR(20)",
            "CHAR(20)",
            "SIGNED",
            "DATE",
            "DATE",
            "DATETIME"
        };
        List<String> columns = new ArrayList<>();
        for (int i = 0; i < types.length; i++) {
            String value = row.get(i).isEmpty() ? "NULL" : "'" + row.get(i) + "'";
            columns.add("CAST(" + value + " AS " + types[i] + ") AS "
                    + LAYOUT.firstType().fields().get(i).name());
        }
        return " FROM (SELECT " + String.join(", ", columns) + ") AS v";
    }

    /** The server's answers; where one of several is out of its range, each is asked alone. */
    private static List<String> answers(Connection connection, List<Pair> pairs, String from) throws SQLException {
        String all = String.join(", ", pairs.stream().map(Pair::theirs).toList());
        try (Statement s = connection.createStatement();
                ResultSet r = s.executeQuery("SELECT " + all + from)) {
            r.next();
            List<String> answers = new ArrayList<>();
            for (int i = 1; i <= pairs.size(); i++) {
                answers.add(r.getString(i));
            }
            return answers;
        } catch (SQLException e) {
            if (pairs.size() > 1) {
                List<String> answers = new ArrayList<>();
                for (Pair pair : pairs) {
                    answers.addAll(answers(connection, List.of(pair), from));
                }
                return answers;
            }
            assertThat(e.getMessage()).as(pairs.get(0).theirs()).contains("out of range");
            return List.of("out of range");
        }
    }
}
