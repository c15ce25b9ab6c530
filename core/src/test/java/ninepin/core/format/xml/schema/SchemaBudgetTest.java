package ninepin.core.format.xml.schema;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import java.util.concurrent.TimeUnit;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import ninepin.core.format.xml.proposer.SchemaLayout;
import ninepin.core.infer.Proposal;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.Layout;
import ninepin.core.layout.RecordType;
import ninepin.core.layout.SchemaDocument;
import ninepin.core.testing.Places;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Small schemas that describe very much, or that a validator takes for ever to understand. */
@Timeout(value = 10, unit = TimeUnit.MINUTES)
class SchemaBudgetTest {

    private static List<SchemaDocument> schema(String inner) {
        return List.of(new SchemaDocument(
                "herd.xsd", "<xs:schema xmlns:xs=\"http://www.w3.org/2001/XMLSchema\">" + inner + "</xs:schema>"));
    }

    private static List<SchemaDocument> model(String inner) {
        return schema("<xs:element name=\"a\"/><xs:element name=\"b\"/><xs:element name=\"herd\"><xs:complexType>"
                + inner + "</xs:complexType></xs:element>");
    }

    private static final String A = "<xs:element ref=\"a\"/>";
    private static final String EITHER = "<xs:choice>" + A + "<xs:element ref=\"b\"/></xs:choice>";
    private static final String MANY =
            "<xs:choice minOccurs=\"0\" maxOccurs=\"unbounded\">" + A + "<xs:element ref=\"b\"/></xs:choice>";

    /** The automaton of what may follow has two to the power of twenty states. */
    @Test
    void what_cannot_be_told_apart_for_long_is_refused() {
        String last = IntStream.range(0, 20).mapToObj(i -> EITHER).collect(Collectors.joining());
        assertThatThrownBy(() -> SchemaValidation.compile(model("<xs:sequence>" + MANY + A + last + "</xs:sequence>")))
                .isInstanceOf(DefinitionException.class)
                .hasMessageContaining("where a stands, it may be one of two declarations");
    }

    @Test
    void groups_of_groups_are_refused_by_their_size() {
        StringBuilder groups = new StringBuilder(
                "<xs:element name=\"a\"/><xs:group name=\"g0\"><xs:sequence>" + A + "</xs:sequence></xs:group>");
        for (int g = 1; g <= 12; g++) {
            groups.append("<xs:group name=\"g").append(g).append("\"><xs:sequence>");
            groups.append(("<xs:group ref=\"g" + (g - 1) + "\"/>").repeat(10)).append("</xs:sequence></xs:group>");
        }
        groups.append(
                "<xs:element name=\"herd\"><xs:complexType><xs:group ref=\"g12\"/></xs:complexType></xs:element>");
        assertThatThrownBy(() -> SchemaValidation.compile(schema(groups.toString())))
                .hasMessageContaining("describes more elements than can be validated");
        assertThatThrownBy(() -> SchemaLayout.propose(schema(groups.toString()), "herd", "Herd"))
                .hasMessageContaining("its groups refer to each other more than");
    }

    @ParameterizedTest
    @ValueSource(strings = {"100000", "99999999999999999999"})
    void so_many_occurrences_are_refused(String most) {
        String counted = "<xs:sequence><xs:sequence maxOccurs=\"" + most + "\">" + A + "</xs:sequence></xs:sequence>";
        assertThatThrownBy(() -> SchemaValidation.compile(model(counted)))
                .hasMessageContaining("describes more elements than can be validated");
    }

    /** Ten elements in each, of the type itself: as many places as one likes. */
    @Test
    void a_type_that_holds_itself_many_times_ends_where_it_stands_in_itself() {
        String elements = IntStream.range(0, 10)
                .mapToObj(i -> "<xs:element name=\"e" + i + "\" type=\"t\"/>")
                .collect(Collectors.joining());
        List<SchemaDocument> schema = schema("<xs:complexType name=\"t\"><xs:sequence>" + elements
                + "</xs:sequence><xs:attribute name=\"no\"/></xs:complexType><xs:element name=\"herd\" type=\"t\"/>");
        assertThat(SchemaValidation.compile(schema)).isNotNull();
        Proposal proposal = SchemaLayout.propose(schema, "herd", "Herd");
        assertThat(proposal.layout().firstType().fields())
                .extracting(Places::path)
                .containsExactly("@no");
        assertThat(proposal.guesses()).anyMatch(g -> g.choice().equals("10 elements inside themselves"));
    }

    /** Types that hold thousands of others without a value, and types inside types inside types. */
    @ParameterizedTest
    @ValueSource(ints = {1, 2_000})
    @Timeout(300)
    void many_places_without_a_value_end_in_time(int wide) {
        int deep = wide == 1 ? 3_000 : 3;
        StringBuilder types = new StringBuilder();
        for (int t = 0; t < deep; t++) {
            types.append("<xs:complexType name='t" + t + "'><xs:sequence>");
            for (int e = 0; e < wide; e++) {
                types.append("<xs:element name='e" + e + "' minOccurs='0' type='t" + (t + 1) + "'/>");
            }
            types.append("</xs:sequence></xs:complexType>");
        }
        types.append("<xs:complexType name='t" + deep + "'><xs:attribute name='no'/></xs:complexType>");
        List<SchemaDocument> schema = schema(
                types + "<xs:element name='herd'><xs:complexType><xs:sequence><xs:element name='first' type='t0'/>"
                        + "</xs:sequence><xs:attribute name='at'/></xs:complexType></xs:element>");
        Proposal proposal = SchemaLayout.propose(schema, "herd", "Herd");
        assertThat(proposal.layout().firstType().fields())
                .extracting(Places::path)
                .contains("@at");
        assertThat(proposal.guesses()).anyMatch(g -> g.part().equals("left out"));
    }

    /** A document whose lines come last, behind much that few documents have. */
    @Test
    void of_more_than_there_is_room_for_what_every_document_has_is_taken() {
        String attributes = IntStream.range(0, 20)
                .mapToObj(a -> "<xs:attribute name='a" + a + "'/>")
                .collect(Collectors.joining());
        String values = IntStream.range(0, 30)
                .mapToObj(e -> "<xs:element name='v" + e + "' type='value' minOccurs='0'/>")
                .collect(Collectors.joining());
        String details = IntStream.range(0, 40)
                .mapToObj(d -> "<xs:element name='d" + d + "' type='detail' minOccurs='0'/>")
                .collect(Collectors.joining());
        List<SchemaDocument> schema =
                schema("<xs:complexType name='value'><xs:simpleContent><xs:extension base='xs:string'>" + attributes
                        + "</xs:extension></xs:simpleContent></xs:complexType>"
                        + "<xs:complexType name='detail'><xs:sequence>" + values + "</xs:sequence></xs:complexType>"
                        + "<xs:element name='bill'><xs:complexType><xs:sequence>" + details
                        + "<xs:element name='buyer'><xs:complexType><xs:sequence><xs:element name='herd'><xs:complexType>"
                        + "<xs:sequence><xs:element name='no' type='xs:string'/></xs:sequence></xs:complexType></xs:element>"
                        + "</xs:sequence></xs:complexType></xs:element>"
                        + "<xs:element name='line' maxOccurs='unbounded'><xs:complexType><xs:sequence>"
                        + "<xs:element name='litres' type='xs:int'/><xs:element name='note' type='value' minOccurs='0'/>"
                        + "</xs:sequence></xs:complexType></xs:element>"
                        + "</xs:sequence></xs:complexType></xs:element>");
        Layout layout = SchemaLayout.propose(schema, "bill", "Bill").layout();
        assertThat(layout.recordTypes()).extracting(RecordType::name).containsExactly("bill", "line");
        assertThat(layout.recordTypes().get(0).fields())
                .extracting(Places::path)
                .hasSizeGreaterThan(900)
                .contains("buyer/herd/no", "d0/v0", "d9/v29");
        assertThat(layout.recordTypes().get(1).fields())
                .extracting(Places::path)
                .contains("litres", "note");
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "<xs:group name=\"g\"><xs:sequence><xs:group ref=\"g\"/></xs:sequence></xs:group>"
                        + "<xs:element name=\"herd\"><xs:complexType><xs:group ref=\"g\"/></xs:complexType></xs:element>",
                "<xs:complexType name=\"t\"><xs:complexContent><xs:extension base=\"t\"/></xs:complexContent></xs:complexType>"
                        + "<xs:element name=\"herd\" type=\"t\"/>"
            })
    void circles_are_refused(String circle) {
        assertThatThrownBy(() -> SchemaValidation.compile(schema(circle)))
                .isInstanceOf(DefinitionException.class)
                .hasMessageContaining("in a circle");
    }

    @Test
    void a_type_of_text_that_is_made_of_itself_gives_no_layout() {
        String circle = "<xs:complexType name=\"t\"><xs:simpleContent><xs:extension base=\"t\"/></xs:simpleContent>"
                + "</xs:complexType><xs:element name=\"herd\" type=\"t\"/>";
        assertThatThrownBy(() -> SchemaLayout.propose(schema(circle), "herd", "Herd"))
                .isInstanceOf(DefinitionException.class);
    }

    /** What stands so in schemas of every day stays allowed. */
    @ParameterizedTest
    @ValueSource(
            strings = {
                "<xs:sequence><xs:element ref=\"a\" minOccurs=\"2\" maxOccurs=\"2\"/><xs:element ref=\"a\" minOccurs=\"0\"/></xs:sequence>",
                "<xs:sequence><xs:element ref=\"a\" maxOccurs=\"unbounded\"/><xs:element ref=\"b\" minOccurs=\"0\"/></xs:sequence>",
                "<xs:choice maxOccurs=\"unbounded\"><xs:element ref=\"a\"/><xs:element ref=\"b\"/></xs:choice>",
                "<xs:all><xs:element ref=\"a\"/><xs:element ref=\"b\" minOccurs=\"0\"/></xs:all>",
                "<xs:sequence><xs:element ref=\"a\" minOccurs=\"0\" maxOccurs=\"1000\"/><xs:any namespace=\"##other\" processContents=\"lax\"/></xs:sequence>",
                "<xs:sequence><xs:sequence minOccurs=\"0\" maxOccurs=\"5\"><xs:element ref=\"a\"/><xs:element ref=\"b\" minOccurs=\"0\"/></xs:sequence></xs:sequence>",
                "<xs:sequence/>"
            })
    void ordinary_content_models_pass(String inner) {
        assertThat(SchemaValidation.compile(model(inner))).isNotNull();
    }
}
