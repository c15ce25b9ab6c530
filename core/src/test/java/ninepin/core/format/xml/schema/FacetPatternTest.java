package ninepin.core.format.xml.schema;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import java.util.concurrent.TimeUnit;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.SchemaDocument;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Regular expressions of schemas: those of every day, and those that a matcher takes for ever to give up. */
@Timeout(value = 10, unit = TimeUnit.MINUTES)
class FacetPatternTest {

    private static boolean mayRunAway(String pattern) throws Exception {
        return FacetPattern.mayRunAway(pattern, new FacetPattern.Budget());
    }

    /** Each is harmless, and there are very many. */
    @Test
    void all_of_a_schema_have_one_budget() throws Exception {
        FacetPattern.Budget budget = new FacetPattern.Budget();
        int passed = 0;
        while (!FacetPattern.mayRunAway("[0-9]".repeat(1_500) + passed, budget)) {
            passed++;
        }
        assertThat(passed).isBetween(20, 200);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "[0-9]{4}-[0-9]{2}-[0-9]{2}",
                "\\d+(\\.\\d{1,2})?",
                "([0-9]+,)*[0-9]+",
                "[A-Z]{2}[0-9]{2}[A-Z0-9]{1,30}",
                "(\\+|-)?[0-9]{1,18}",
                "[^@]+@[^@.]+(\\.[^@.]+)*",
                "[\\w\\-.]{1,50}",
                "\\p{Lu}\\p{Ll}*( \\p{Lu}\\p{Ll}*)*",
                "[a-z-[aeiou]]+",
                "\\i\\c*",
                "(a|b|c){5}",
                "",
                "a|",
                ".*",
                ".*x.*",
                "[1-9][0-9]*|0",
                "([A-Z]{3};){0,20}[A-Z]{3}",
                "\\p{IsGreek}+"
            })
    void ordinary_ones_pass(String pattern) throws Exception {
        assertThat(mayRunAway(pattern)).isFalse();
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "(a+)+b",
                "(a|aa)+",
                "(a|a)*b",
                "([a-z]+)*;",
                "(\\s*\\w+\\s*)+x",
                "(.*)*",
                "(a?){50}b",
                "(\\d+|[0-9a-f]+)*z",
                "((ab|a)(b|c)?)*",
                "(x+x+)+y",
                "([a-c]|[c-e])*f|(\\p{L}|[a-z])*1",
                "(a{1,40}b?){1,40}"
            })
    void those_that_run_away_are_found(String pattern) throws Exception {
        assertThat(mayRunAway(pattern)).isTrue();
    }

    /** A list of codes is long and has nothing that repeats. */
    @Test
    void size_alone_is_no_fault() throws Exception {
        String codes = IntStream.range(100, 700).mapToObj(String::valueOf).collect(Collectors.joining("|"));
        assertThat(mayRunAway(codes)).isFalse();
        assertThat(mayRunAway("(" + codes + ")(;(" + codes.substring(0, 199) + "))*"))
                .isFalse();
        assertThat(mayRunAway(codes + "|" + codes + "x".repeat(100_000)))
                .as("too large to tell")
                .isTrue();
    }

    @Test
    void a_schema_with_one_is_refused_and_says_which() {
        String schema = "<xs:schema xmlns:xs=\"http://www.w3.org/2001/XMLSchema\"><xs:simpleType name=\"mark\">"
                + "<xs:restriction base=\"xs:string\"><xs:pattern value=\"(a+)+b\"/></xs:restriction></xs:simpleType>"
                + "<xs:element name=\"cow\" type=\"mark\"/></xs:schema>";
        assertThatThrownBy(() -> SchemaValidation.compile(List.of(new SchemaDocument("herd.xsd", schema))))
                .isInstanceOf(DefinitionException.class)
                .hasMessageContaining("(a+)+b")
                .hasMessageContaining("two ways");
        assertThat(SchemaValidation.compile(List.of(new SchemaDocument("herd.xsd", schema.replace("(a+)+b", "a+b")))))
                .isNotNull();
    }
}
