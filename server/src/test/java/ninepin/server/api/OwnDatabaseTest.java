package ninepin.server.api;

import static org.assertj.core.api.Assertions.assertThat;

import java.sql.SQLException;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.springframework.jdbc.UncategorizedSQLException;

/** Errors of the server by number and state, and what people are told of them. */
class OwnDatabaseTest {

    @ParameterizedTest
    @CsvSource({
        "1021, HY000, Disk got full writing, is full",
        "3, HY000, Error writing file, is full",
        "1114, HY000, The table is full, is full",
        "1053, 08S01, Server shutdown in progress, does not answer",
        "0, 08000, Socket error, does not answer",
        "1205, HY000, Lock wait timeout exceeded, does not answer",
        "0, , Connection is closed, does not answer",
    })
    void what_passes_is_said_in_words(int number, String state, String message, String words) {
        Exception e = new UncategorizedSQLException("query", "SELECT 1", new SQLException(message, state, number));

        assertThat(OwnDatabase.isAway(e)).isTrue();
        assertThat(OwnDatabase.words(e)).contains(words);
    }

    @ParameterizedTest
    @CsvSource({"1064, 42000, You have an error in your SQL syntax", "1146, 42S02, Table does not exist"})
    void what_does_not_pass_is_a_fault_of_ninepin(int number, String state, String message) {
        assertThat(OwnDatabase.isAway(new SQLException(message, state, number))).isFalse();
    }
}
