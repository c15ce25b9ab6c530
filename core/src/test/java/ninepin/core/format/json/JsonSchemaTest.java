package ninepin.core.format.json;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.networknt.schema.InputFormat;
import com.networknt.schema.JsonSchemaFactory;
import com.networknt.schema.SpecVersion;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import ninepin.core.format.MadeUpSample;
import ninepin.core.format.json.schema.JsonSchemaLayout;
import ninepin.core.format.json.schema.JsonSchemaOfLayout;
import ninepin.core.infer.Proposal;
import ninepin.core.job.Definitions;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.Layout;
import ninepin.core.testing.Reading;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Layouts from JSON Schema and from what OpenAPI operations answer, and layouts as JSON Schema. */
class JsonSchemaTest {

    private static final String STATIONS =
            """
            {"$schema":"https://json-schema.org/draft/2020-12/schema","type":"object","required":["stations"],
             "properties":{"made":{"type":"string"},"stations":{"type":"array","items":{"$ref":"#/$defs/station"}}},
             "$defs":{
              "station":{"allOf":[{"$ref":"#/$defs/named"},{"type":"object","required":["id"],"properties":{
                "place":{"type":"object","required":["valley"],"properties":{"valley":{"enum":["Ousdale","Larkfell"],"type":"string"},"metres":{"type":["integer","null"],"minimum":0,"maximum":900}}},
                "readings":{"type":"array","minItems":1,"maxItems":24,"items":{"type":"object","required":["at"],"properties":{
                  "at":{"type":"string","format":"date-time"},"degrees":{"type":"number","multipleOf":0.1},
                  "note":{"oneOf":[{"type":"null"},{"type":"string","maxLength":80}]},
                  "any":{"oneOf":[{"type":"string"},{"type":"object","properties":{"x":{"type":"integer"}}}]}}}},
                "tags":{"type":"array","items":{"type":"string","maxLength":12}},
                "raw":{"type":"object"},"next":{"$ref":"#/$defs/station"}}}]},
              "named":{"type":"object","required":["name"],"properties":{"id":{"type":"string","pattern":"^FS","minLength":4,"maxLength":8},"name":{"type":"string"},"on":{"type":"boolean"},"since":{"type":"string","format":"date"}}}}}
            """;

    private static List<String> words(Proposal proposal) {
        List<String> words = new ArrayList<>();
        proposal.layout().recordTypes().forEach(t -> {
            String bounds = t.min() == null && t.max() == null ? "" : " " + t.min() + " to " + t.max();
            words.add(t.name() + " " + t.when().sentence() + (t.parent() == null ? "" : ", of " + t.parent()) + bounds);
            t.fields()
                    .forEach(f -> words.add("- " + f.name() + " " + f.place().words() + ", "
                            + f.type().label()
                            + String.join(
                                    "",
                                    f.checks().stream()
                                            .map(c -> ", " + c.sentence())
                                            .toList())));
        });
        return words;
    }

    @Test
    void a_schema_becomes_record_types_fields_and_checks() {
        assertThat(words(JsonSchemaLayout.propose(STATIONS, Set.of(), "l", "L")))
                .containsExactly(
                        "stations is each $.stations[*]",
                        "- id at id, CHARACTER VARYING(8), must have a value, has at least 4 characters, matches (?s).*(?:^FS).*",
                        "- name at name, CHARACTER VARYING(255), must have a value",
                        "- on at on, BOOLEAN",
                        "- since at since, DATE",
                        "- valley at place.valley, CHARACTER VARYING(255), is one of Ousdale, Larkfell",
                        "- metres at place.metres, INTEGER, is from 0 to 900",
                        "- raw at raw, CHARACTER VARYING(4000)",
                        "- next at next, CHARACTER VARYING(4000)",
                        "readings is each $.stations[*].readings[*], of stations 1 to 24",
                        "- at at at, TIMESTAMP, must have a value",
                        "- degrees at degrees, DECIMAL(19,1)",
                        "- note at note, CHARACTER VARYING(80)",
                        "- any at any, CHARACTER VARYING(4000)",
                        "tags is each $.stations[*].tags[*], of stations",
                        "- value at @, CHARACTER VARYING(12)");
    }

    @Test
    void an_answer_of_an_operation_becomes_a_layout() {
        String openApi =
                """
                openapi: "3.1.0"
                info: {title: Weather, version: "1"}
                paths:
                  /stations:
                    get:
                      responses:
                        "200":
                          content:
                            application/json:
                              schema: {type: array, items: {$ref: "#/components/schemas/Station"}}
                    post: {responses: {"204": {description: none}}}
                  /stations/{id}:
                    get:
                      responses:
                        "200": {$ref: "#/components/responses/One"}
                components:
                  responses:
                    One: {content: {application/json: {schema: {$ref: "#/components/schemas/Station"}}}}
                  schemas:
                    Station: {type: object, required: [id], properties: {id: {type: string}, metres: {type: integer, nullable: true}}}
                """;
        Proposal first = JsonSchemaLayout.propose(openApi, Set.of(), "l", "L");
        assertThat(first.alternatives())
                .containsExactly(new Proposal.Alternative(
                        "operation", List.of("GET /stations", "GET /stations/{id}"), "GET /stations"));
        assertThat(words(first))
                .startsWith("record is each $[*]", "- id at id, CHARACTER VARYING(255), must have a value");
        assertThat(words(JsonSchemaLayout.propose(openApi, Set.of("GET /stations/{id}"), "l", "L")))
                .startsWith("record is each $", "- id at id, CHARACTER VARYING(255), must have a value");
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "[1]|is no object",
                "{|is neither JSON nor YAML",
                "{\"type\":\"string\"}|describes no object",
                "{\"openapi\":\"3.0.0\",\"paths\":{}}|describes no operation that answers JSON",
                "{\"$ref\":\"#/$defs/a\",\"$defs\":{\"a\":{\"$ref\":\"#/$defs/a\"}}}|leads to itself",
                "{\"properties\":{\"a\":{\"$ref\":\"#/$defs/gone\"}}}|leads nowhere",
                "{\"properties\":{\"a\":{\"$ref\":\"http://127.0.0.1:9/a.json\"}}}|leads out of the document",
            })
    void what_is_no_schema_is_said(String text, String words) {
        assertThatThrownBy(() -> JsonSchemaLayout.propose(text, Set.of(), "l", "L"))
                .isInstanceOf(DefinitionException.class)
                .hasMessageContaining(words);
    }

    /** The schema of the demo's layout accepts what the layout reads, refuses what it rejects, and makes the layout again. */
    @Test
    void a_layout_becomes_a_schema_and_the_schema_the_layout() throws Exception {
        Layout layout = Definitions.layout(Files.readString(Path.of("../demo/fell-weather.layout.json")));
        String schema = JsonSchemaOfLayout.write(layout);
        byte[] sample = MadeUpSample.of(layout, Reading.TODAY);
        assertThat(breaches(schema, new String(sample, StandardCharsets.UTF_8))).isEmpty();
        assertThat(
                        breaches(
                                schema,
                                "{\"stations\":[{\"id\":\"FS01\",\"place\":{\"valley\":\"Elsewhere\"},\"readings\":[{\"rain\":1}]}]}"))
                .hasSize(2)
                .anyMatch(b -> b.contains("valley"))
                .anyMatch(b -> b.contains("'at'"));
        Layout again =
                JsonSchemaLayout.propose(schema, Set.of(), "again", "Again").layout();
        assertThat(again.recordTypes())
                .extracting(t -> t.when())
                .isEqualTo(layout.recordTypes().stream().map(t -> t.when()).toList());
        for (int t = 0; t < 2; t++) {
            assertThat(again.recordTypes().get(t).fields())
                    .extracting(f -> f.place().words())
                    .containsExactlyInAnyOrderElementsOf(layout.recordTypes().get(t).fields().stream()
                            .map(f -> f.place().words())
                            .toList());
        }
        assertThat(Reading.of(again, sample).findings).isEmpty();
    }

    private static List<String> breaches(String schema, String document) {
        return JsonSchemaFactory.getInstance(SpecVersion.VersionFlag.V202012)
                .getSchema(schema)
                .validate(document, InputFormat.JSON)
                .stream()
                .map(Object::toString)
                .toList();
    }
}
