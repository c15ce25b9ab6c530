package ninepin.core.run;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ninepin.core.deliver.Tally;
import ninepin.core.layout.DefinitionException;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** When a run halts for what it has refused and noted. */
class LimitsTest {

    private static Tally tally(long read, long rejected, long notes) {
        return new Tally(read, read - rejected, read - rejected, 0, 0, rejected, 0, 0, notes);
    }

    @ParameterizedTest(name = "rejects {0}, {1} % from {2}, notes {3}: {4} read, {5} rejected, {6} noted")
    @CsvSource({
        // rejects, percent, percentFrom, notes | read, rejected, noted | what is exceeded
        ",,,, 1000, 1000, 1000,",
        "0,,,, 10, 0, 5,",
        "0,,,, 10, 1, 0, a reject",
        "1,,,, 10, 1, 0,",
        "1,,,, 10, 2, 0, more than 1 reject",
        "5,,,, 10, 6, 0, more than 5 rejects",
        ",5,,, 99, 99, 0,",
        ",5,,, 100, 5, 0,",
        ",5,,, 100, 6, 0, more than 5 % rejects",
        ",0,,, 100, 1, 0, more than 0 % rejects",
        ",100,,, 100, 100, 0,",
        ",5,10,, 9, 9, 0,",
        ",5,10,, 10, 1, 0, more than 5 % rejects",
        ",10,0,, 1, 1, 0, more than 10 % rejects",
        ",,,0, 10, 0, 1, more than 0 notes",
        ",,,1, 10, 0, 2, more than 1 note",
        ",,,1, 10, 5, 1,",
        "5,5,10,5, 10, 6, 9, more than 5 rejects",
    })
    void a_limit_is_exceeded_by_more_than_it_and_says_which(
            Long rejects, Integer percent, Long from, Long notes, long read, long rejected, long noted, String words) {
        assertThat(new Limits(rejects, percent, from, notes).exceeded(tally(read, rejected, noted), Tally.ZERO))
                .isEqualTo(words);
    }

    /** What a person has accepted by a restart counts no more, and the limit holds for what comes after it. */
    @ParameterizedTest
    @CsvSource({
        "100, 6, 200, 11,",
        "100, 6, 200, 12, more than 5 rejects",
        "100, 0, 100, 5,",
        "100, 0, 101, 6, more than 5 rejects",
    })
    void what_was_accepted_does_not_count(long read, long accepted, long readNow, long rejectedNow, String words) {
        assertThat(new Limits(5L, null).exceeded(tally(readNow, rejectedNow, 0), tally(read, accepted, 0)))
                .isEqualTo(words);
    }

    @ParameterizedTest
    @CsvSource({"-1,,,, rejects", ",-1,,, percent", ",101,,, percent", ",,-1,, percentFrom", ",,,-1, notes"})
    void limits_that_make_no_sense_are_none(Long rejects, Integer percent, Long from, Long notes, String part) {
        assertThatThrownBy(() -> new Limits(rejects, percent, from, notes))
                .isInstanceOf(DefinitionException.class)
                .hasMessageContaining("limits." + part);
    }
}
