package ninepin.core.ready;

import static org.assertj.core.api.Assertions.assertThat;

import java.sql.Connection;
import java.sql.SQLException;
import ninepin.core.deliver.DatabaseAddress;
import ninepin.core.deliver.TableDescription;
import ninepin.core.deliver.TargetException;
import ninepin.core.deliver.database.Dialect;
import ninepin.core.testing.MariaDbServer;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What is said of a table that somebody has changed. */
class TargetChangesTest {

    private static TableDescription now(DatabaseAddress address) throws TargetException, SQLException {
        Dialect dialect = Dialect.of(address);
        try (Connection c = dialect.connect(address, Dialect.Use.STATEMENTS)) {
            return dialect.catalog(c).describe("farm").orElseThrow();
        }
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "DROP COLUMN village                          | village is gone",
                "MODIFY name VARCHAR(20) NOT NULL             | name is varchar(20), before varchar(60); name must have a value now",
                "MODIFY farm INT NOT NULL DEFAULT 7           | farm has a default now",
                "ADD COLUMN organic BOOLEAN NOT NULL          | organic is new (tinyint(1), must have a value)",
                "ADD UNIQUE (name)                            | unique are now farm; name, before farm",
                "DROP PRIMARY KEY                             | unique are now no columns, before farm",
                "ADD COLUMN id INT GENERATED ALWAYS AS (farm) | id is new (int(11))",
                "COMMENT 'only words'                         | ''"
            })
    void each_change_is_said(String change, String expected) throws Exception {
        MariaDbServer server = MariaDbServer.shared();
        DatabaseAddress address = server.database("target_changes");
        server.execute(
                "target_changes", "CREATE TABLE farm (farm INT PRIMARY KEY, name VARCHAR(60), village VARCHAR(40))");
        TableDescription before = now(address);
        server.execute("target_changes", "ALTER TABLE farm " + change);
        assertThat(String.join("; ", TargetChanges.between(before, now(address))))
                .isEqualTo(expected);
    }
}
