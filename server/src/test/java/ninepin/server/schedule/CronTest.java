package ninepin.server.schedule;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ninepin.core.layout.DefinitionException;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class CronTest {

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "0 19 * * *      | 0 0 19 * * ?         | daily at 19:00",
                "30 6 * * 1-5    | 0 30 6 ? * MON-FRI   | Monday to Friday at 06:30",
                "0 2 1 * *       | 0 0 2 1 * ?          | monthly on day 1 at 02:00",
                "5 4 * * 0       | 0 5 4 ? * SUN        | SUN at 04:05",
                "5 4 * * 7       | 0 5 4 ? * SUN        | SUN at 04:05",
                "*/10 8-17 * * * | 0 */10 8-17 * * ?    | at */10 8-17 * * *",
                "0 12 * * 1,3,5  | 0 0 12 ? * MON,WED,FRI | MON,WED,FRI at 12:00",
            })
    void five_fields_become_quartz_and_words(String cron, String quartz, String words) {
        assertThat(Cron.toQuartz(cron)).isEqualTo(quartz);
        assertThat(Cron.words(cron)).isEqualTo(words);
    }

    @ParameterizedTest
    @ValueSource(strings = {"", "0 19 * *", "60 19 * * *", "0 19 1 * 1", "a b c d e"})
    void what_is_no_cron_expression_is_refused(String cron) {
        assertThatThrownBy(() -> Cron.toQuartz(cron)).isInstanceOf(DefinitionException.class);
    }
}
