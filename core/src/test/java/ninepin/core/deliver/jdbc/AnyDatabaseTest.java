package ninepin.core.deliver.jdbc;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.util.List;
import java.util.stream.Stream;
import ninepin.core.deliver.DatabaseAddress;
import ninepin.core.deliver.DatabaseKind;
import ninepin.core.deliver.JdbcDriver;
import ninepin.core.deliver.LoadConnection;
import ninepin.core.deliver.Mark;
import ninepin.core.deliver.TableDelivery;
import ninepin.core.deliver.TableDescription;
import ninepin.core.deliver.TableDescription.Column;
import ninepin.core.deliver.TableDescription.Family;
import ninepin.core.deliver.TableLoad;
import ninepin.core.deliver.TakeUp;
import ninepin.core.deliver.TargetException;
import ninepin.core.deliver.database.Catalog;
import ninepin.core.deliver.database.DatabaseSequences;
import ninepin.core.deliver.database.DatabaseTarget;
import ninepin.core.deliver.database.Dialect;
import ninepin.core.deliver.database.TableCopy;
import ninepin.core.layout.DefinitionException;
import ninepin.core.lookup.LookUp;
import ninepin.core.testing.DriverDatabase;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;

/** Databases of which no more is known than their drivers tell; what runs do with them stands with the other databases. */
class AnyDatabaseTest {

    @TempDir
    Path folder;

    static Stream<Arguments> databases() {
        return Stream.of(Arguments.of("h2", DriverDatabase.h2()), Arguments.of("sqlite", DriverDatabase.sqlite()));
    }

    private static DatabaseAddress database(DriverDatabase server, String name) {
        DatabaseAddress address = server.database(name);
        server.execute(
                name,
                "CREATE TABLE farm (farm_no INTEGER PRIMARY KEY, name VARCHAR(40) NOT NULL UNIQUE)",
                "CREATE TABLE delivery (id BIGINT NOT NULL, farm_no INTEGER REFERENCES farm (farm_no), litres DECIMAL(9,2),"
                        + " taken DATE, at_ TIMESTAMP, chilled BOOLEAN, remark VARCHAR(20) DEFAULT 'none', PRIMARY KEY (id))",
                "CREATE VIEW big AS SELECT * FROM delivery WHERE litres > 100");
        return address;
    }

    @ParameterizedTest(name = "{0}", autoCloseArguments = false)
    @MethodSource("databases")
    void tables_are_described_by_the_catalogue(String name, DriverDatabase server) throws Exception {
        DatabaseAddress address = database(server, "described");
        Dialect dialect = Dialect.of(address);
        try (Connection c = dialect.connect(address, Dialect.Use.QUESTIONS)) {
            Catalog catalog = dialect.catalog(c);
            assertThat(catalog.tables())
                    .extracting(t -> t.name().toLowerCase() + (t.view() ? " view" : ""))
                    .containsExactlyInAnyOrder("farm", "delivery", "big view");
            TableDescription table = catalog.describe("Delivery").orElseThrow();
            assertThat(table.transactional()).isTrue();
            assertThat(table.columns())
                    .extracting(Column::family)
                    .containsExactly(
                            Family.WHOLE,
                            Family.WHOLE,
                            Family.EXACT,
                            Family.DATE,
                            Family.TIMESTAMP,
                            Family.BOOLEAN_BIT,
                            Family.TEXT);
            assertThat(table.uniqueKeys()).first().asString().isEqualToIgnoringCase("[id]");
            assertThat(table.column("remark").orElseThrow().length()).isEqualTo(20);
            assertThat(table.column("remark").orElseThrow().hasDefault()).isTrue();
            assertThat(table.column("ID").orElseThrow().needsRule()).isTrue();
            assertThat(table.foreignKeys()).hasSize(1);
            assertThat(table.foreignKeys().get(0).table()).isEqualToIgnoringCase("farm");
            assertThat(catalog.describe("big").orElseThrow().view()).isTrue();
            assertThat(catalog.describe("farms")).isEmpty();
            assertThat(catalog.describe("far_")).as("a name is no pattern").isEmpty();
        }
    }

    private static DatabaseTarget target(DatabaseAddress address, String run) {
        return new DatabaseTarget(
                address,
                List.of(new TableLoad(
                        new TableDelivery("c", "farm", TableDelivery.Mode.ADD, List.of()), List.of("farm_no", "name"))),
                run);
    }

    /** Nothing shows who is alive there; the epoch alone keeps two from both delivering. */
    @ParameterizedTest(name = "{0}", autoCloseArguments = false)
    @MethodSource("databases")
    void whoever_was_overtaken_commits_nothing(String name, DriverDatabase server) throws Exception {
        DatabaseAddress address = database(server, "overtaken");
        try (DatabaseTarget first = target(address, "run-1");
                DatabaseTarget second = target(address, "run-1")) {
            assertThat(first.takeUp(TakeUp.ALONE)).isEmpty();
            assertThat(second.takeUp(TakeUp.ALONE)).isEmpty();
            Mark none = Mark.none("f");
            Mark mark = new Mark(none.position(), none.tally(), none.shares(), 1, 0, "f", false);
            try (LoadConnection connection = first.connect()) {
                assertThatThrownBy(() -> connection.commit(mark))
                        .isInstanceOfSatisfying(TargetException.class, e -> assertThat(e.kind())
                                .isEqualTo(TargetException.Kind.FENCED));
                connection.rollback();
            }
            try (LoadConnection connection = second.connect()) {
                connection.commit(mark);
            }
            assertThat(second.look().orElseThrow().commits()).isEqualTo(1);
        }
    }

    @ParameterizedTest(name = "{0}", autoCloseArguments = false)
    @MethodSource("databases")
    void sequences_give_no_number_twice(String name, DriverDatabase server) {
        DatabaseAddress address = server.database("sequences");
        try (DatabaseSequences first = new DatabaseSequences(address);
                DatabaseSequences second = new DatabaseSequences(address)) {
            assertThat(List.of(first.draw("slip", 5), first.draw("slip", 5), second.draw("slip", 5)))
                    .containsExactly(5L, 6L, 1005L);
        }
        try (DatabaseSequences third = new DatabaseSequences(address)) {
            assertThat(third.draw("slip", 5)).isEqualTo(1006L);
        }
    }

    @ParameterizedTest(name = "{0}", autoCloseArguments = false)
    @MethodSource("databases")
    void a_look_up_reads_a_table(String name, DriverDatabase server) throws Exception {
        DatabaseAddress address = database(server, "looked_into");
        server.execute("looked_into", "INSERT INTO farm VALUES (7, 'Brook'), (8, 'Hill; \"B\"')");
        LookUp lookUp = new LookUp(
                "farms",
                null,
                new LookUp.InTable("c", "farm"),
                List.of(new LookUp.Key("farm_no", "farm_no")),
                List.of("name"),
                null);
        Path file = folder.resolve("rows");
        TableCopy.write(address, lookUp, file);
        assertThat(Files.readAllLines(file)).hasSize(3).anyMatch(l -> l.contains("Brook"));
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "''                                                   | is missing; it says address=jdbc:",
                "title=Nothing                                        | does not begin with jdbc:",
                "address=http://somewhere                             | does not begin with jdbc:",
                "address=jdbc:x:{database} ~port=many                 | \"many\" is no number",
                "address=jdbc:x:{database} ~class=java.lang.String    | is no driver",
                "address=jdbc:x:{database} ~quote=<<                  | is one character"
            })
    void what_is_wrong_with_a_driver_is_said_and_the_others_work(String settings, String said) throws IOException {
        Path h2 = DriverDatabase.driversFolder().resolve("h2");
        for (String name : List.of("good", "bad")) {
            Path into = Files.createDirectories(folder.resolve(name));
            try (Stream<Path> files = Files.list(h2)) {
                for (Path file : files.toList()) {
                    Files.copy(file, into.resolve(file.getFileName()));
                }
            }
        }
        Path bad = folder.resolve("bad/driver.properties");
        Files.writeString(bad, settings.replace(" ~", "\n"));
        if (settings.isEmpty()) {
            Files.delete(bad);
        }
        Drivers drivers = Drivers.in(folder);
        assertThat(drivers.all()).extracting(JdbcDriver::name).containsExactly("good");
        assertThat(drivers.troubles()).hasSize(1);
        assertThat(drivers.troubles().get(0))
                .startsWith("The driver bad cannot be used")
                .contains(said);
    }

    @Test
    void without_a_folder_there_are_no_drivers() {
        assertThat(Drivers.in(folder.resolve("none")).all()).isEmpty();
        assertThat(Drivers.in(folder.resolve("none")).named("h2")).isEmpty();
    }

    /** What a person writes stands in the operator's address only where it can do no harm. */
    @ParameterizedTest
    @CsvSource({"x;INIT=RUNSCRIPT", "../../etc/x", "a b", "x?y", "'{host}'", "''"})
    void nothing_but_a_name_gets_into_the_address(String written) {
        JdbcDriver driver = DriverDatabase.h2().address("x").driver();
        assertThatThrownBy(() -> new DatabaseAddress(driver, "localhost", 0, written, "", ""))
                .isInstanceOf(IllegalArgumentException.class);
        assertThatThrownBy(() -> new DatabaseAddress(driver, written, 0, "x", "", ""))
                .isInstanceOf(IllegalArgumentException.class);
    }

    @Test
    void a_driver_goes_with_another_kind_of_database_and_with_no_other() {
        assertThatThrownBy(() -> new DatabaseAddress(DatabaseKind.OTHER, "localhost", 1, "x", "", "", null))
                .isInstanceOf(IllegalArgumentException.class);
        assertThatThrownBy(() -> DatabaseKind.named("other")).isInstanceOf(DefinitionException.class);
    }
}
