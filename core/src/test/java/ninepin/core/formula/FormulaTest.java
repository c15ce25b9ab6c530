package ninepin.core.formula;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.time.LocalDate;
import java.util.Map;
import ninepin.core.bytes.MemorySource;
import ninepin.core.check.RecordChecker;
import ninepin.core.format.Formats;
import ninepin.core.job.Definitions;
import ninepin.core.layout.Layout;
import ninepin.core.record.Opening;
import ninepin.core.record.RecordReader;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What the server cannot say: our own rules where the standard leaves a choice, names, errors and their places. */
class FormulaTest {

    private static final Layout LAYOUT = Definitions.layout(
            """
            {"name":"rounds","format":{"kind":"delimited","delimiter":";","header":false},"recordTypes":[
             {"name":"round","when":{"by":"tag","column":1,"values":["R"]},"fields":[{"name":"driver","column":2,"type":{"is":"text","length":20}},
               {"name":"No","column":3,"type":{"is":"integer"}}]},
             {"name":"stop","parent":"round","when":{"by":"tag","column":1,"values":["C"]},"fields":[{"name":"Farm","column":2,"type":{"is":"integer"}},
               {"name":"litres","column":3,"type":{"is":"decimal","precision":8,"scale":2}},{"name":"Remark of driver","column":4,"type":{"is":"text","length":30}},
               {"name":"taken","column":5,"type":{"is":"date","pattern":"dd.MM.yyyy"}}]}]}
            """);
    private static final FormulaScope SCOPE =
            new FormulaScope(LAYOUT, 1, Map.of("cutoff", "2026-11-01", "plant", "LK"), LocalDate.of(2026, 11, 23));
    private static RecordContext row;

    @BeforeAll
    static void read() throws IOException {
        MemorySource source =
                new MemorySource("R;Edda;7\nC;38;4.5;Höf 🥛;23.11.2026\n".getBytes(StandardCharsets.UTF_8));
        Opening opening = Formats.open(source, LAYOUT);
        RecordChecker checker = new RecordChecker(LAYOUT, opening, LocalDate.EPOCH);
        RecordReader reader = opening.reader(source, opening.body());
        for (int i = 0; i < 2; i++) {
            reader.next();
            assertThat(checker.check(reader.record())).isNull();
        }
        row = new RecordContext(checker.values());
    }

    private static String value(String text) {
        Formula formula = Formula.of(text, SCOPE);
        Datum d = formula.eval(row);
        return d.isNull() ? "NULL" : d.written(formula.type());
    }

    @ParameterizedTest
    @CsvSource(
            delimiterString = " | ",
            quoteCharacter = '`',
            value = {
                "round.driver || ', ' || \"Remark of driver\"   | Edda, Höf 🥛",
                "FARM + \"Farm\" + round.no                     | 83",
                "litres                                         | 4.50",
                "litres / 3                                     | 1.500000",
                "1 / 3                                          | 0.3333",
                "litres * litres                                | 20.2500",
                "-litres + +1                                   | -3.50",
                "2 + 3 * 4 - 10 / 4                             | 11.5000",
                "ROUND(2.5) || ''                               | ! || wants text, and this is a number. CAST(… AS VARCHAR(20)) makes it text.",
                "CAST(ROUND(-2.5) AS VARCHAR(9))                | -3",
                "CAST(2.345 AS DECIMAL(8,2))                    | 2.35",
                "CAST(:cutoff AS DATE) < taken                  | TRUE",
                "CAST(DATE '2026-11-23' AS VARCHAR(20) FORMAT 'DD.MM.YYYY') | 23.11.2026",
                "CAST('1:30 P.M.' AS TIME FORMAT 'HH12:MI A.M.') | ? `1:30 P.M.` cast to TIME",
                "CAST('01:30 P.M.' AS TIME FORMAT 'HH12:MI A.M.') | 13:30:00",
                "DATE '2026-01-31' + INTERVAL '1' MONTH         | 2026-02-28",
                "EXTRACT(DAY FROM (taken - DATE '2026-11-01') DAY) | 22",
                "(taken - DATE '2026-11-01') DAY > INTERVAL '3' DAY | TRUE",
                "TIMESTAMP '2026-11-23 23:30:00' + INTERVAL '1:45' HOUR TO MINUTE | 2026-11-24 01:15:00",
                "INTERVAL '1:75' HOUR TO MINUTE > INTERVAL '1' HOUR | ! This is no amount of HOUR TO MINUTE.",
                "INTERVAL '1-12' YEAR TO MONTH > INTERVAL '1' YEAR | ! This is no amount of YEAR TO MONTH.",
                "INTERVAL '1 24:00' DAY TO MINUTE > INTERVAL '1' DAY | ! This is no amount of DAY TO MINUTE.",
                "INTERVAL '0:00:60' HOUR TO SECOND > INTERVAL '1' DAY | ! This is no amount of HOUR TO SECOND.",
                "INTERVAL '1-11' YEAR TO MONTH > INTERVAL '1' YEAR | TRUE",
                "INTERVAL '75' MINUTE > INTERVAL '1' HOUR       | TRUE",
                "INTERVAL '1 23:59:59.5' DAY TO SECOND < INTERVAL '2' DAY | TRUE",
                "EXTRACT(HOUR FROM (TIMESTAMP '2026-11-24 06:00:00' - TIMESTAMP '2026-11-23 00:00:00') HOUR) | 30",
                "EXTRACT(HOUR FROM (TIMESTAMP '2026-11-24 06:00:00' - TIMESTAMP '2026-11-23 00:00:00') DAY TO HOUR) | 6",
                "EXTRACT(HOUR FROM (TIMESTAMP '2026-11-24 06:00:00' - TIMESTAMP '2026-11-23 00:00:00') DAY) | ! HOUR cannot be taken from an interval of DAY.",
                "EXTRACT(HOUR FROM (taken - DATE '2026-11-20') HOUR) | 72",
                "EXTRACT(MONTH FROM INTERVAL '14' MONTH)        | 14",
                "EXTRACT(MONTH FROM INTERVAL '1-2' YEAR TO MONTH) | 2",
                "EXTRACT(MONTH FROM INTERVAL '14' MONTH + INTERVAL '1' YEAR) | 2",
                "EXTRACT(YEAR FROM INTERVAL '14' MONTH + INTERVAL '1' YEAR) | 2",
                "EXTRACT(MINUTE FROM INTERVAL '-90' MINUTE)     | -90",
                "EXTRACT(SECOND FROM INTERVAL '75.25' SECOND)   | 75.25",
                "EXTRACT(SECOND FROM INTERVAL '1:15.25' MINUTE TO SECOND) | 15.25",
                "(TIMESTAMP '2026-11-24 06:00:00' - TIMESTAMP '2026-11-23 00:00:00') DAY = INTERVAL '1' DAY | TRUE",
                "(TIMESTAMP '2026-11-23 00:00:00' - TIMESTAMP '2026-11-24 06:00:00') DAY = INTERVAL '-1' DAY | TRUE",
                "EXTRACT(MONTH FROM (taken - DATE '2026-01-31') MONTH) | 9",
                "EXTRACT(YEAR FROM (taken - DATE '2006-11-24') YEAR) | 19",
                "EXTRACT(YEAR FROM (taken - DATE '2006-11-23') YEAR) | 20",
                "(taken - DATE '2006-12-23') YEAR TO MONTH = INTERVAL '19-11' YEAR TO MONTH | TRUE",
                "EXTRACT(MONTH FROM (TIMESTAMP '2026-11-23 11:59:59' - TIMESTAMP '2026-10-23 12:00:00') MONTH) | 0",
                "taken - DATE '2026-11-01'                      | ! A difference of two dates stands in parentheses with its unit behind it, such as (a - b) DAY.",
                "(taken - DATE '2026-11-01')                    | ! A difference of two dates stands in parentheses with its unit behind it, such as (a - b) DAY.",
                "EXTRACT(DAY FROM taken - DATE '2026-11-01')    | ! A difference of two dates stands in parentheses with its unit behind it, such as (a - b) DAY.",
                "(taken - DATE '2026-11-01' + INTERVAL '1' DAY) DAY | ! A difference of two dates stands in parentheses with its unit behind it, such as (a - b) DAY.",
                "(TIME '10:00:00' - TIME '09:15:00') DAY        | ! The difference of two times is counted in HOUR, MINUTE or SECOND.",
                "EXTRACT(MINUTE FROM (TIME '10:30:00' - TIME '09:15:00') MINUTE) | 75",
                "TIME '10:00:00' + INTERVAL '1' DAY             | ! To a time an interval is added, such as INTERVAL '90' MINUTE; this is one of DAY.",
                "TIME '23:30:00' + INTERVAL '90' MINUTE         | 01:00:00",
                "taken + INTERVAL '36' HOUR                     | ! To a date an interval is added, such as INTERVAL '3' DAY; this is one of HOUR. CAST(… AS TIMESTAMP) gives the date a time.",
                "taken + 3                                      | ! To a date an interval is added, such as INTERVAL '3' DAY; this is a number.",
                "CAST(taken AS TIMESTAMP(0)) + INTERVAL '3' DAY / 2 | 2026-11-24 12:00:00",
                "CAST(taken AS TIMESTAMP(0)) + INTERVAL '1' DAY / 2 | 2026-11-23 12:00:00",
                "EXTRACT(SECOND FROM TIMESTAMP '2026-11-23 10:00:00' + INTERVAL '0.25' SECOND) | 0.25",
                "CAST(TIME '10:00:00' + INTERVAL '1.5' SECOND AS VARCHAR(20)) | 10:00:01.5",
                "CAST('abc' AS CHAR(5)) || '|'                  | abc  |",
                "CAST('abc' AS CHARACTER VARYING(5)) || '|'     | abc|",
                "CAST('abcdef' AS CHAR(5))                      | ? `abcdef` of 6 characters cast to CHARACTER VARYING(5); SUBSTRING cuts a text",
                "CAST(NULL AS CHAR(5))                          | NULL",
                "'abc' LIKE 'abc!' ESCAPE '!'                   | ? a pattern whose escape character is not followed by %, _ or itself",
                "'x' LIKE 'abc!' ESCAPE '!'                     | ? a pattern whose escape character is not followed by %, _ or itself",
                "'a%c' LIKE 'a!%c' ESCAPE '!'                   | TRUE",
                "0.00000000000000000001 * 0.00000000000000000001 | ? a product with more than 38 digits behind the point; ROUND what is multiplied",
                "0.00000000000000000000 * 0.00000000000000000001 | 0.00000000000000000000000000000000000000",
                "Farm IS DISTINCT FROM 38                       | FALSE",
                "Farm IS DISTINCT FROM NULL                     | TRUE",
                "NULL IS NOT DISTINCT FROM NULL                 | TRUE",
                "Farm IS NOT DISTINCT FROM 38 AND TRUE          | TRUE",
                "Farm IS DISTINCT FROM 'x'                      | ! IS DISTINCT FROM wants two of a kind; this is a number and text. CAST(… AS NUMERIC(10,2)) makes a number of it.",
                "CEIL(4.1)                                      | 5",
                "CHARACTER_LENGTH('Höf')                        | 3",
                "OCTET_LENGTH('Höf 🥛')                         | 9",
                "CASE Farm WHEN 1, 5 THEN 'no' WHEN 37, 38 THEN 'yes' END | yes",
                "U&'H\\00F6f \\+01F95B'                        | Höf 🥛",
                "U&'100!0025!!' UESCAPE '!'                     | 100%!",
                "U&'\\D83E\\DD5B'                               | 🥛",
                "U&'\\D83E'                                     | ! This is half a character; its other half is missing.",
                "U&'\\00F'                                      | ! Behind \\ stand the four hexadecimal digits of a character, + and six of them, or \\ again.",
                "U&'a' UESCAPE '+'                              | ! Behind UESCAPE stands one sign that is no hexadecimal digit, such as '!'.",
                "CURRENT_DATE                                   | 2026-11-23",
                "SUBSTRING('abc' FROM 0 FOR 2)                  | a",
                "SUBSTRING('abc' FROM -1)                       | abc",
                "UPPER('straße')                                | STRASSE",
                "CHAR_LENGTH('🥛')                              | 1",
                "'a' = 'a '                                     | FALSE",
                "'a' < 'B'                                      | FALSE",
                "NULL = NULL                                    | NULL",
                "1 BETWEEN SYMMETRIC 3 AND 0                    | TRUE",
                "CASE Farm WHEN 37 THEN 'no' WHEN 38 THEN 'yes' END | yes",
                "SUBSTRING_REGEX('[0-9]+' IN 'a1b22' OCCURRENCE 2) | 22",
                "REPLACE_REGEX('([a-z])([0-9])' IN 'a1b2' WITH '$2$1') | 1a2b",
                "'Höf' LIKE_REGEX '^hö' FLAG 'i'                | TRUE",
                "litres / 0                                     | ? a division by zero",
                "CAST('12x' AS INTEGER)                         | ? `12x` cast to NUMERIC(10)",
                "CAST('abcdef' AS VARCHAR(3))                   | ? `abcdef` of 6 characters cast to CHARACTER VARYING(3); SUBSTRING cuts a text",
                "CAST(123456 AS SMALLINT)                       | ? 123456 cast to NUMERIC(5)",
                "'xxxxxxxxxxxxxxxxxxxxxxxxxxxxxxxxxxxxxxxxxxxxxxxx' LIKE_REGEX '^x*x*x*x*x*x*y$' | ? a regular expression that takes too long on this value",
                "Farn                                           | ! There is no field Farn. Is Farm meant?",
                "driver                                         | ! There is no field driver. A parent has one; write its name before a point.",
                "UPER('a')                                      | ! There is no function UPER. Is UPPER meant?",
                ":cutof                                         | ! There is no value :cutof. Is cutoff meant?",
                "Farm = 'x'                                     | ! = wants two of a kind; this is a number and text. CAST(… AS NUMERIC(10,2)) makes a number of it.",
                "(Farm + 1                                      | ! Found the end of the formula, expected ) to close the parenthesis.",
                "Farm Farm                                      | ! Found Farm, expected an operator or the end of the formula.",
                "'a                                             | ! This text is not closed; a ' is missing at its end.",
                "1 != 2                                         | ! There is no sign !. Unequal is written <>.",
                "1E3                                            | ! Numbers are exact here: write this one out instead of with an exponent.",
                "DATE '2026-02-30'                              | ! This is no DATE; it is written DATE '2026-11-23'.",
                "'a' LIKE_REGEX '('                             | ! This is no regular expression: Unclosed group at character 2.",
                "CASE WHEN TRUE THEN 1 ELSE 'x' END             | ! CASE gives a number here and text there; all its values have to be of one kind.",
                "ROUND(1, 2, 3)                                 | ! ROUND takes 1 or 2 arguments, not 3."
            })
    void a_formula_gives(String formula, String expected) {
        if (expected.startsWith("! ")) {
            assertThatThrownBy(() -> value(formula))
                    .isInstanceOf(FormulaException.class)
                    .hasMessage(expected.substring(2));
        } else if (expected.startsWith("? ")) {
            assertThatThrownBy(() -> value(formula))
                    .isInstanceOf(EvaluationException.class)
                    .hasMessage(expected.substring(2).replace('`', '"'));
        } else {
            assertThat(value(formula)).isEqualTo(expected);
        }
    }

    @Test
    void an_error_says_where_it_stands() {
        FormulaException e = catchThrowableOfType(
                FormulaException.class, () -> Formula.of("UPPER(\"Remark of driver\") || Farn", SCOPE));
        assertThat(e.from()).isEqualTo(29);
        assertThat(e.to()).isEqualTo(33);
        EvaluationException m =
                catchThrowableOfType(EvaluationException.class, () -> value("1 + litres / (Farm - 38)"));
        assertThat(m.from()).isEqualTo(4);
        assertThat(m.to()).isEqualTo(24);
    }

    @Test
    void depth_and_length_are_bounded() {
        assertThatThrownBy(() -> value("(".repeat(300) + "1" + ")".repeat(300)))
                .isInstanceOf(FormulaException.class)
                .hasMessageContaining("nests more than");
        assertThatThrownBy(() -> value("-".repeat(5000).replace("--", "- ") + "1"))
                .isInstanceOf(FormulaException.class);
        assertThatThrownBy(() -> value("1" + " + 1".repeat(9000))).hasMessageContaining("at most 10000 characters");
        assertThatThrownBy(() -> value("1" + "+1".repeat(2000))).hasMessageContaining("at most 3000 words and signs");
        assertThat(value("1" + " + 1".repeat(1400))).isEqualTo("1401");
    }

    @Test
    void a_formula_tells_which_fields_it_reads() {
        assertThat(Formula.of("Farm + Farm + round.No", SCOPE).fields())
                .extracting(FormulaScope.Place::shown)
                .containsExactly("Farm", "round.No");
    }

    /** Intervals are counted in nanoseconds, or months; a sum that has no room is told, never another amount. */
    @ParameterizedTest
    @CsvSource(
            delimiterString = " | ",
            value = {
                "INTERVAL '999999' DAY",
                "INTERVAL '90000' DAY + INTERVAL '90000' DAY",
                "-INTERVAL '90000' DAY - INTERVAL '90000' DAY",
                "INTERVAL '90000' DAY * 2",
                "INTERVAL '90000' DAY / 0.5",
                "INTERVAL '999999' YEAR * 999999999999",
                "DATE '2026-11-23' + INTERVAL '90000' DAY * 3"
            })
    void an_interval_that_is_too_long_is_never_another_one(String text) {
        assertThatThrownBy(() -> value(text)).isInstanceOfAny(EvaluationException.class, FormulaException.class);
    }
}
