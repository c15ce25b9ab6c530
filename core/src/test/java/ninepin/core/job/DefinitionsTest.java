package ninepin.core.job;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.networknt.schema.InputFormat;
import com.networknt.schema.JsonSchema;
import com.networknt.schema.JsonSchemaFactory;
import com.networknt.schema.SpecVersion;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import ninepin.core.codes.CodeList;
import ninepin.core.deliver.TableDelivery.Mode;
import ninepin.core.deliver.TableDescription;
import ninepin.core.deliver.TableDescription.Column;
import ninepin.core.deliver.TableDescription.Family;
import ninepin.core.format.delimited.HeaderRow;
import ninepin.core.format.fixedlength.copybook.CopybookLayout;
import ninepin.core.format.xml.proposer.SchemaLayout;
import ninepin.core.layout.DataType;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.FileCharset;
import ninepin.core.layout.Layout;
import ninepin.core.layout.SchemaDocument;
import ninepin.core.ready.Readiness;
import ninepin.core.shape.RunFacts;
import ninepin.core.shape.ShapingContext;
import ninepin.core.testing.Layouts;
import ninepin.core.testing.Quality;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class DefinitionsTest {

    private static JsonSchema schema(String name) throws IOException {
        String layout = Files.readString(Path.of("../docs/schema/layout.schema.json"));
        JsonSchemaFactory factory = JsonSchemaFactory.getInstance(
                SpecVersion.VersionFlag.V202012,
                b -> b.schemaLoaders(l -> l.schemas(Map.of("urn:ninepin:layout", layout))));
        return factory.getSchema(Files.readString(Path.of("../docs/schema/" + name + ".schema.json")));
    }

    private static Layout everyType() {
        return Layouts.delimited()
                .charset(FileCharset.ISO_8859_1)
                .text("t")
                .field("i", new DataType.IntegerNumber())
                .field("d", new DataType.Decimal(9, 0, ',', '.'))
                .field("b", new DataType.Bool(List.of("J"), List.of("N")))
                .field("day", new DataType.Date("d.M.yyyy"))
                .field("time", new DataType.Time("HH:mm"))
                .field("stamp", new DataType.Timestamp("yyyy-MM-dd'T'HH:mm:ss.SSS"))
                .build();
    }

    @Test
    void what_is_written_is_read_back_and_fits_the_published_schema() throws IOException {
        for (Layout layout : List.of(Quality.layout(), everyType())) {
            String json = Definitions.write(layout);
            assertThat(Definitions.layout(json)).isEqualTo(layout);
            assertThat(schema("layout").validate(json, InputFormat.JSON)).isEmpty();
        }
        for (Mode mode : Mode.values()) {
            String json = Definitions.write(Quality.job(mode, null));
            assertThat(Definitions.job(json)).isEqualTo(Quality.job(mode, null));
            assertThat(schema("job").validate(json, InputFormat.JSON)).isEmpty();
        }
        for (String name : List.of("quality-results", "tanker-collections", "farm-register", "producer-statement")) {
            String job = Files.readString(Path.of("../demo/" + name + ".job.json"));
            String layout = Files.readString(Path.of("../demo/" + name + ".layout.json"));
            assertThat(schema("job").validate(job, InputFormat.JSON)).isEmpty();
            assertThat(schema("layout").validate(layout, InputFormat.JSON)).isEmpty();
            assertThat(Definitions.job(job).layout())
                    .isEqualTo(Definitions.layout(layout).name());
            String written = Definitions.write(Definitions.layout(layout));
            assertThat(schema("layout").validate(written, InputFormat.JSON)).isEmpty();
            assertThat(Definitions.layout(written)).isEqualTo(Definitions.layout(layout));
        }
    }

    /** Every form of rule, touch, check and lane, as {@code every-form.job.json} writes them. */
    @Test
    void every_form_of_a_definition_is_read_back_and_fits_the_published_schema() throws IOException {
        String json = Files.readString(Path.of("src/test/resources/ninepin/core/job/every-form.job.json"));
        assertThat(schema("job").validate(json, InputFormat.JSON)).isEmpty();
        Job job = Definitions.job(json);
        String written = Definitions.write(job);
        assertThat(schema("job").validate(written, InputFormat.JSON)).isEmpty();
        assertThat(Definitions.job(written)).isEqualTo(job);
        assertThat(job.codeLists()).containsExactly("herds", "milk-tests", "routes");
        CodeList list = new CodeList(
                "routes",
                "Routes",
                null,
                List.of("route", "name"),
                List.of(new CodeList.Entry(
                        Arrays.asList("R7", null), LocalDate.of(2026, 1, 1), LocalDate.of(2026, 12, 31))),
                new CodeList.Query("warehouse", "SELECT route, name FROM route"),
                new CodeList.Missing(CodeList.Policy.VALUE, "?"));
        String codes = Definitions.write(list);
        assertThat(schema("code-list").validate(codes, InputFormat.JSON)).isEmpty();
        assertThat(Definitions.codeList(codes)).isEqualTo(list);
    }

    @Test
    void layouts_of_the_small_files_and_those_made_of_descriptions_fit_the_published_schema() throws IOException {
        List<Layout> layouts = new ArrayList<>();
        try (Stream<Path> files = Files.list(Path.of("src/test/resources/ninepin/core/check/files"))) {
            for (Path file : files.filter(f -> f.toString().endsWith(".txt")).toList()) {
                for (String part : Files.readString(file).split("(?m)^== .*\n")) {
                    String json = part.substring(0, Math.max(0, part.indexOf("--\n")));
                    if (!json.isBlank()) {
                        layouts.add(Definitions.layout(json));
                    }
                }
            }
        }
        assertThat(layouts).hasSizeGreaterThan(40);
        String copybook = Files.readString(Path.of("../demo/collections.cpy"));
        layouts.add(CopybookLayout.propose(copybook, FileCharset.IBM_037, Set.of(), "c", null)
                .layout());
        String herd = Files.readString(Path.of("../demo/herd.xsd"));
        layouts.add(SchemaLayout.propose(List.of(new SchemaDocument("herd.xsd", herd)), "h", null)
                .layout());
        layouts.add(HeaderRow.propose("Farm;Route", "r", null).layout());
        JsonSchema schema = schema("layout");
        for (Layout layout : layouts) {
            String json = Definitions.write(layout);
            assertThat(schema.validate(json, InputFormat.JSON)).as(json).isEmpty();
            assertThat(Definitions.layout(json)).isEqualTo(layout);
        }
    }

    @ParameterizedTest(name = "{0}")
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '`',
            value = {
                "\"name\":\"A B\" | is not a name",
                "\"name\":\"a\",\"colour\":1 | colour",
                "\"name\":\"a\",\"deliveries\":[{\"shaping\":[{\"target\":\"x\"}]}] | says where its value comes from",
                "\"name\":\"a\",\"pickUp\":{\"root\":\"r\",\"pattern\":\"*\",\"folder\":\"a/../..\"} | stays below its root",
                "\"name\":\"a\",\"pickUp\":{\"from\":{\"kind\":\"query\",\"onlyNew\":true}} | says by which column new rows",
                "\"name\":\"a\",\"pickUp\":{\"schedule\":{\"everySeconds\":5}} | says where records come from",
                "\"name\":\"a\",\"pickUp\":{\"root\":\"r\",\"pattern\":\"*\",\"colour\":1} | colour",
                "\"name\":\"a\",\"schemaVersion\":3 | this Ninepin reads jobs up to 2",
                "\"name\":\"a\",\"limits\":{\"notes\":-1} | must not be negative",
                "\"name\":\"a\",\"checks\":[{\"field\":\"f\",\"checks\":[{\"rule\":\"pattern\",\"pattern\":\"(\"}]}] | Unclosed group",
            })
    void a_definition_that_cannot_be_says_which_part(String part, String message) {
        assertThatThrownBy(() -> Definitions.job("{" + part + ",\"layout\":\"a\"}"))
                .isInstanceOf(DefinitionException.class)
                .hasMessageContaining(message.strip());
    }

    /** As they were written before what is taken, when, and when it is ready stood apart. */
    @ParameterizedTest(name = "{0}")
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '`',
            value = {
                "{\"root\":\"r\",\"folder\":\"in\",\"pattern\":\"*.csv\",\"everySeconds\":60,\"readySeconds\":5,\"sameFileAgain\":true,\"expectedBy\":\"20:00\"}"
                        + " | {\"from\":{\"kind\":\"folder\",\"root\":\"r\",\"folder\":\"in\",\"pattern\":\"*.csv\"},\"schedule\":{\"everySeconds\":60,\"expectedBy\":\"20:00\"},\"ready\":{\"unchangedSeconds\":5},\"sameFileAgain\":true}",
                "{\"root\":\"r\",\"pattern\":\"*\"}"
                        + " | {\"from\":{\"kind\":\"folder\",\"root\":\"r\",\"folder\":\"\",\"pattern\":\"*\"},\"schedule\":{\"everySeconds\":30},\"ready\":{\"unchangedSeconds\":0},\"sameFileAgain\":false}",
                "{\"cron\":\"0 6 1 * *\",\"query\":{\"connection\":\"c\",\"statement\":\"SELECT 1\",\"key\":\"x\",\"onlyNew\":true,\"lagSeconds\":9,\"writtenBy\":\"demo\"}}"
                        + " | {\"from\":{\"kind\":\"query\",\"connection\":\"c\",\"statement\":\"SELECT 1\",\"key\":\"x\",\"onlyNew\":true,\"lagSeconds\":9,\"writtenBy\":\"demo\"},\"schedule\":{\"cron\":\"0 6 1 * *\"},\"ready\":{\"unchangedSeconds\":0},\"sameFileAgain\":false}"
            })
    void a_job_of_an_earlier_form_is_read_and_written_in_this_one(String before, String after) throws IOException {
        String earlier = "{\"name\":\"a\",\"layout\":\"a\",\"pickUp\":" + before + "}";
        Job job = Definitions.job(earlier);
        String written = Definitions.write(job);
        assertThat(Definitions.mapper().readTree(written).path("pickUp"))
                .isEqualTo(Definitions.mapper().readTree(after));
        assertThat(Definitions.mapper().readTree(written).path("schemaVersion").asInt())
                .isEqualTo(2);
        assertThat(schema("job").validate(written, InputFormat.JSON)).isEmpty();
        assertThat(Definitions.job(written)).isEqualTo(job);
        assertThat(Upgrades.job(written))
                .as("what is of this form stays as it is")
                .isSameAs(written);
    }

    @Test
    void a_job_is_checked_whole_against_its_table() {
        TableDescription table = new TableDescription(
                "s",
                "quality_result",
                "MyISAM",
                false,
                false,
                "",
                -1,
                List.of(
                        column("sample", Family.TEXT, 5, false),
                        column("test", Family.WHOLE, 9, true),
                        column("value", Family.EXACT, 8, true),
                        column("taken_on", Family.TIME, 0, true),
                        column("weight", Family.WHOLE, 9, false)),
                List.of(List.of("sample")),
                List.of());
        List<Shortcoming> found = Readiness.check(
                Quality.job(Mode.ADD_OR_CHANGE, null),
                Quality.layout(),
                ShapingContext.of(new RunFacts(0, "x", LocalDate.EPOCH, Map.of())),
                List.of(Optional.of(table)));
        List<Shortcoming> keyless = Readiness.check(
                Definitions.job(
                        "{\"name\":\"a\",\"layout\":\"quality\",\"deliveries\":[{\"to\":{\"connection\":\"c\",\"table\":\"quality_result\","
                                + "\"mode\":\"change\"}}]}"),
                Quality.layout(),
                ShapingContext.of(new RunFacts(0, "x", LocalDate.EPOCH, Map.of())),
                List.of(Optional.of(table)));
        assertThat(keyless).extracting(Shortcoming::code).contains("JOB-33").doesNotContain("JOB-09");
        String codes = found.stream().map(s -> s.code() + " " + s.subject()).collect(Collectors.joining("; "));
        assertThat(codes)
                .contains("JOB-08 quality_result") // no transactions
                .contains("JOB-12 sample, test") // no unique index over the key
                .contains("JOB-09 weight") // needed and without a rule
                .contains("JOB-14 farm") // no such column
                .contains("JOB-17 sample") // longer values are refused
                .contains("JOB-16 test") // text into a number
                .contains("JOB-16 taken_on"); // a date into a time
        assertThat(Readiness.mayRun(found)).isFalse();
    }

    private static Column column(String name, Family family, int size, boolean nullable) {
        return new Column(name, family.name().toLowerCase(), family, size, size, 2, nullable, false, false, false, "");
    }

    /** A commit could fall between the outer record and the inner one, which a restart would then not find. */
    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "/farms/farm | /farms/farm/herd       |      | false",
                "/farms/farm | /farms/farm/herd       | farm | true",
                "/farms/farm | /farms/farm/yard/herd  |      | false",
                "/farms/farm | /farms/farmer          |      | true",
                "/farms/farm | /farms/herd            |      | true"
            })
    void a_record_inside_another_has_to_belong_to_it(String outer, String inner, String parent, boolean taken) {
        String layout =
                """
                {"name":"register","format":{"kind":"xml"},"recordTypes":[
                 {"name":"farm","when":{"by":"path","path":"%s"},"fields":[{"name":"no","path":"@no","type":{"is":"integer"}}]},
                 {"name":"herd"%s,"when":{"by":"path","path":"%s"},"fields":[{"name":"cows","path":"@cows","type":{"is":"integer"}}]}]}
                """
                        .formatted(outer, parent == null ? "" : ",\"parent\":\"" + parent + "\"", inner);
        if (taken) {
            assertThat(Definitions.layout(layout).recordTypes()).hasSize(2);
        } else {
            assertThatThrownBy(() -> Definitions.layout(layout))
                    .isInstanceOf(DefinitionException.class)
                    .hasMessageContaining("has to belong to farm");
        }
    }
}
