package ninepin.doors.query;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import ninepin.core.deliver.DatabaseAddress;
import ninepin.core.deliver.TargetException;
import ninepin.core.deliver.database.HostedSql;
import ninepin.core.job.Definitions;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.Layout;
import ninepin.core.testing.DriverDatabase;
import ninepin.core.testing.MariaDbServer;
import ninepin.core.testing.PostgreSqlServer;
import ninepin.core.testing.Reading;
import ninepin.core.testing.TestDatabase;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

/** What a query gives stands in a file as the layout says, in order, from a key on; what cannot stand there is said. */
class QueryCopyTest {

    private static final String NAME = "query_copy";

    @TempDir
    Path folder;

    static Stream<Arguments> databases() {
        return Stream.of(
                Arguments.of("mariadb", MariaDbServer.shared()), Arguments.of("postgresql", PostgreSqlServer.shared()));
    }

    /** With one of which no more is known than its driver tells. */
    static Stream<Arguments> allDatabases() {
        return Stream.concat(databases(), Stream.of(Arguments.of("h2", DriverDatabase.h2())));
    }

    private static DatabaseAddress database(TestDatabase server) {
        DatabaseAddress address = server.database(NAME);
        server.execute(
                NAME,
                "CREATE TABLE item (no BIGINT PRIMARY KEY, farm VARCHAR(40), litres DECIMAL(9,2), day_ DATE, at_ TIMESTAMP NULL,"
                        + " chilled BOOLEAN, price DOUBLE PRECISION)",
                "INSERT INTO item VALUES (9007199254740993, 'Äcker; \"A\"', 12.50, '2026-11-01', '2026-11-01 10:20:30', TRUE, 0.1),"
                        + " (2, NULL, -0.05, NULL, NULL, FALSE, 1), (10, 'O''Hara', 7, '2026-02-28', NULL, NULL, 2)");
        return address;
    }

    private static QueryCopy copy(DatabaseAddress address, String sql, Map<String, String> hosts) {
        return new QueryCopy(address, HostedSql.parse("query", address.kind(), sql), hosts);
    }

    private List<List<String>> read(Layout layout) throws Exception {
        Reading reading = Reading.of(layout, Files.readAllBytes(folder.resolve("rows")));
        assertThat(reading.findings).isEmpty();
        return reading.records.stream().map(r -> r.subList(1, r.size())).toList();
    }

    @ParameterizedTest(name = "{0}", autoCloseArguments = false)
    @MethodSource("allDatabases")
    void rows_are_written_by_the_layout_of_the_columns(String name, TestDatabase server) throws Exception {
        QueryCopy copy = copy(
                database(server),
                "SELECT no, farm, litres, day_, at_, day_ = :day AS that_day FROM item WHERE no > 1",
                Map.of("day", "2026-11-01"));
        Layout layout =
                Definitions.layout(Definitions.write(copy.layout("items")).replace("\"that_day\"", "\"that_day\""));
        QueryCopy.Copied copied = copy.write(layout, "no", null, null, 0, folder.resolve("rows"));
        assertThat(copied).isEqualTo(new QueryCopy.Copied(3, "9007199254740993"));
        String yes = name.equals("mariadb") ? "1" : "true";
        String no = name.equals("mariadb") ? "0" : "false";
        assertThat(read(layout))
                .containsExactly(
                        java.util.Arrays.asList("2", null, "-0.05", null, null, null),
                        java.util.Arrays.asList("10", "O'Hara", "7.00", "2026-02-28", null, no),
                        java.util.Arrays.asList(
                                "9007199254740993", "Äcker; \"A\"", "12.50", "2026-11-01", "2026-11-01T10:20:30", yes));
        // Behind a key, which is compared as the number that it is, not nearly.
        assertThat(copy.write(layout, "no", "9007199254740992", null, 0, folder.resolve("rows"))
                        .rows())
                .isEqualTo(1);
        assertThat(copy.write(layout, "no", copied.lastKey(), null, 0, folder.resolve("rows")))
                .isEqualTo(new QueryCopy.Copied(0, null));
        assertThat(copy.write(layout, null, null, null, 2, folder.resolve("rows"))
                        .rows())
                .isEqualTo(2);
    }

    @ParameterizedTest(name = "{0}", autoCloseArguments = false)
    @MethodSource("databases")
    void what_no_layout_or_no_query_can_hold_is_said(String name, TestDatabase server) throws Exception {
        DatabaseAddress address = database(server);
        assertThatThrownBy(() ->
                        copy(address, "SELECT no, price FROM item", Map.of()).layout("x"))
                .isInstanceOf(DefinitionException.class)
                .hasMessageContaining("price")
                .hasMessageContaining("CAST(price AS DECIMAL");
        assertThatThrownBy(
                        () -> copy(address, "SELECT nope FROM item", Map.of()).layout("x"))
                .isInstanceOf(TargetException.class)
                .hasMessageContaining("nope");
        QueryCopy copy = copy(address, "SELECT no, farm FROM item", Map.of());
        Layout other =
                copy(address, "SELECT no AS number, farm FROM item", Map.of()).layout("x");
        assertThatThrownBy(() -> copy.write(other, null, null, null, 0, folder.resolve("rows")))
                .hasMessageContaining("no column number; it gives no, farm");
        Layout narrow = Definitions.layout(
                """
                {"name":"x","format":{"kind":"fixed-length"},"recordTypes":[{"name":"row","fields":[
                 {"name":"no","start":1,"length":4,"type":{"is":"integer"}}]}]}
                """);
        assertThatThrownBy(() -> copy.write(narrow, "no", null, null, 0, folder.resolve("rows")))
                .hasMessageContaining("row 3")
                .hasMessageContaining("does not fit into 4 places");
        // Asking cannot change anything.
        assertThatThrownBy(() -> copy(address, "DELETE FROM item", Map.of()).columns())
                .isInstanceOf(TargetException.class);
        assertThat(server.rows(NAME, "SELECT COUNT(*) FROM item")).containsExactly("3");
    }
}
