package ninepin.server.schedule;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Instant;
import java.time.ZoneId;
import java.util.Arrays;
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
                "5 4 * * 0       | 0 5 4 ? * SUN        | Sunday at 04:05",
                "5 4 * * 7       | 0 5 4 ? * SUN        | Sunday at 04:05",
                "*/10 8-17 * * * | 0 */10 8-17 * * ?    | at */10 8-17 * * *",
                "0 12 * * 1,3,5  | 0 0 12 ? * MON,WED,FRI | Monday, Wednesday, Friday at 12:00",
                "0 19 1 * 1      | 0 0 19 1 * ? + 0 0 19 ? * MON | monthly on day 1 and each Monday at 19:00",
                "0 19 */9 2 1-5  | 0 0 19 */9 2 ? + 0 0 19 ? 2 MON-FRI | at 0 19 */9 2 1-5",
            })
    void five_fields_become_quartz_and_words(String cron, String quartz, String words) {
        assertThat(String.join(" + ", Cron.toQuartz(cron))).isEqualTo(quartz);
        assertThat(Cron.words(cron)).isEqualTo(words);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "0 6 1 * *   | 2026-12-01T05:00:00Z 2027-01-01T05:00:00Z",
                "30 2 * * *  | 2026-11-29T01:30:00Z 2026-11-30T01:30:00Z",
                "0 12 * * 6  | 2026-11-28T11:00:00Z 2026-12-05T11:00:00Z",
                // Either suffices; a day that is both is one time. The first of February 2027 is a Monday.
                "0 12 1 2 1  | 2027-02-01T11:00:00Z 2027-02-08T11:00:00Z",
                "0 12 3 12 5 | 2026-12-03T11:00:00Z 2026-12-04T11:00:00Z",
            })
    void the_next_times_are_told(String cron, String next) {
        assertThat(Cron.next(cron, Instant.parse("2026-11-28T10:00:00Z"), ZoneId.of("Europe/Berlin"), 2))
                .containsExactly(
                        Arrays.stream(next.split(" ")).map(Instant::parse).toArray(Instant[]::new));
    }

    @ParameterizedTest
    @ValueSource(strings = {"", "0 19 * *", "60 19 * * *", "a b c d e", "99999999999 1 * * *", "0 99999999999 1 * *"})
    void what_is_no_cron_expression_is_refused(String cron) {
        assertThatThrownBy(() -> Cron.toQuartz(cron)).isInstanceOf(DefinitionException.class);
        assertThatThrownBy(() -> Cron.next(cron, Instant.EPOCH, ZoneId.of("UTC"), 1))
                .isInstanceOf(DefinitionException.class);
        assertThat(Cron.words(cron)).isNotBlank();
    }
}
