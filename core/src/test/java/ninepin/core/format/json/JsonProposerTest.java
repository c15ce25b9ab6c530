package ninepin.core.format.json;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Random;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import ninepin.core.bytes.MemorySource;
import ninepin.core.format.Proposals;
import ninepin.core.infer.Proposal;
import ninepin.core.layout.Field;
import ninepin.core.layout.Json;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Place;
import ninepin.core.layout.Recognition;
import ninepin.core.testing.Reading;
import ninepin.core.testing.SpoiltBytes;
import org.junit.jupiter.api.Test;

/** A layout is proposed that reads the sample whole. */
class JsonProposerTest {

    private static Proposal proposed(String sample) throws IOException {
        return Proposals.of(new MemorySource(sample.getBytes(StandardCharsets.UTF_8)), "x", null);
    }

    /** The record types, each with its path, its parent and the paths of its fields with their types. */
    private static List<String> types(Layout layout) {
        return layout.recordTypes().stream()
                .map(t -> t.name() + " " + ((Recognition.JsonPath) t.when()).path()
                        + (t.parent() == null ? "" : " in " + t.parent()) + ": "
                        + String.join(
                                ", ",
                                t.fields().stream().map(JsonProposerTest::field).toList()))
                .toList();
    }

    private static String field(Field f) {
        String path = ((Place.JsonPath) f.place()).path();
        return (path.equals(f.name()) ? "" : f.name() + " at ") + path + " "
                + f.type().label();
    }

    private static void readsWhole(Proposal proposal, String sample) throws IOException {
        Reading reading = Reading.of(proposal.layout(), sample.getBytes(StandardCharsets.UTF_8));
        assertThat(reading.findings).isEmpty();
        assertThat(reading.records).isNotEmpty();
    }

    @Test
    void elements_of_arrays_are_record_types_and_those_inside_others_belong_to_them() throws IOException {
        String sample =
                """
                {"made":"2026-11-01","farms":[
                 {"no":7,"name":"Birk","place":{"valley":"Ousdale","height":310.5},"herds":[{"breed":"A","cows":12},{"breed":"B","cows":3}],"tags":["x","y"]},
                 {"no":8,"name":"Ash","organic":true,"herds":[]}]}
                """;
        Proposal proposal = proposed(sample);
        assertThat(types(proposal.layout()))
                .containsExactly(
                        "record $: made DATE",
                        "farms $.farms[*] in record: no INTEGER, name CHARACTER VARYING(10), valley at place.valley CHARACTER VARYING(10),"
                                + " height at place.height DECIMAL(6,1), organic BOOLEAN",
                        "herds $.farms[*].herds[*] in farms: breed CHARACTER VARYING(10), cows INTEGER",
                        "tags $.farms[*].tags[*] in farms: tags at @ CHARACTER VARYING(10)");
        readsWhole(proposal, sample);
    }

    @Test
    void lines_are_told_by_a_second_value() throws IOException {
        String sample = "{\"a\":1,\"p\":[{\"q\":2}]}\n{\"a\":3,\"it's\":\"x\"}\n";
        Proposal proposal = proposed(sample);
        assertThat(((Json) proposal.layout().format()).lines()).isTrue();
        assertThat(types(proposal.layout()))
                .containsExactly(
                        "record $: a INTEGER, it's at @['it\\'s'] CHARACTER VARYING(10)",
                        "p $.p[*] in record: q INTEGER");
        assertThat(proposal.guesses().get(0).choice()).isEqualTo("JSON Lines");
        readsWhole(proposal, sample);
    }

    @Test
    void one_object_is_one_record_and_an_array_of_objects_is_a_list() throws IOException {
        assertThat(types(proposed("{\"a\":1,\"b\":{\"c\":\"x\"}}").layout()))
                .containsExactly("record $: a INTEGER, c at b.c CHARACTER VARYING(10)");
        assertThat(types(proposed("[{\"a\":1},{\"a\":22}]").layout())).containsExactly("record $[*]: a INTEGER");
        assertThat(types(proposed("[[{\"a\":1}],[{\"a\":22}]]").layout())).containsExactly("record $[*][*]: a INTEGER");
    }

    @Test
    void a_bracket_alone_does_not_make_json_of_a_file() throws IOException {
        assertThat(proposed("[Section];1\n[Other];2\n").layout().format()).isNotInstanceOf(Json.class);
        assertThat(proposed("{x;1\n{y;2\n").layout().format()).isNotInstanceOf(Json.class);
    }

    @Test
    void a_sample_that_is_broken_or_deep_gives_what_can_be_read() throws IOException {
        Proposal broken = proposed("[{\"a\":1},{\"a\":2},{\"a\"");
        assertThat(types(broken.layout())).containsExactly("record $[*]: a INTEGER");
        assertThat(broken.guesses()).extracting(Proposal.Guess::part).contains("well-formed");
        assertThat(proposed("[".repeat(100_000)).layout().recordTypes()).isNotEmpty();
    }

    @Property(tries = 500)
    void whatever_stands_in_a_sample_there_is_a_layout(@ForAll long seed) throws IOException {
        byte[] good =
                """
                {"made":"2026-11-01","farms":[{"no":7,"place":{"valley":"Ous"},"herds":[{"breed":"A"}]},{"no":8,"x":[1,[2]]}]}
                """
                        .getBytes(StandardCharsets.UTF_8);
        byte[] spoilt = SpoiltBytes.of(good, new Random(seed));
        assertThat(Proposals.of(new MemorySource(spoilt), "x", null).layout().recordTypes())
                .isNotEmpty();
    }
}
