package ninepin.core.format.xml.proposer;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Set;
import javax.xml.XMLConstants;
import javax.xml.transform.stream.StreamSource;
import javax.xml.validation.SchemaFactory;
import ninepin.core.format.MadeUpSample;
import ninepin.core.infer.Proposal;
import ninepin.core.job.Definitions;
import ninepin.core.layout.Check;
import ninepin.core.layout.DataType;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.Layout;
import ninepin.core.layout.RecordType;
import ninepin.core.layout.SchemaDocument;
import ninepin.core.layout.Severity;
import ninepin.core.layout.Xml;
import ninepin.core.testing.Places;
import ninepin.core.testing.Reading;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class SchemaTest {

    private static final String REGISTER =
            "<r:register xmlns:r='urn:larkfell:register' xmlns:h='urn:larkfell:herd' month='2026-11'>"
                    + "<r:farm number='1'><r:name>Tarn End</r:name><r:place valley='Ousdale'><r:village>Upper Tarn</r:village>"
                    + "</r:place><h:herd breed='Fellrind'><h:cows>12</h:cows></h:herd></r:farm></r:register>";

    private static final String HEAD =
            "<xs:schema xmlns:xs='http://www.w3.org/2001/XMLSchema' xmlns:v='urn:v' targetNamespace='urn:v'"
                    + " elementFormDefault='qualified'>";

    private static Proposal propose(String... documents) {
        return SchemaLayout.propose(documents(documents), "x", null);
    }

    private static List<SchemaDocument> documents(String... documents) {
        List<SchemaDocument> all = new ArrayList<>();
        for (String d : documents) {
            all.add(new SchemaDocument(all.size() == 1 ? "herd.xsd" : "d" + all.size() + ".xsd", d));
        }
        return all;
    }

    private static List<String> paths(RecordType type) {
        return type.fields().stream().map(Places::path).toList();
    }

    @Test
    void what_repeats_is_a_record_type_and_what_stands_once_a_field() {
        Proposal p = propose(
                HEAD
                        + """
                <xs:element name='vouchers'><xs:complexType><xs:sequence>
                  <xs:element name='day' type='xs:date'/>
                  <xs:element name='voucher' maxOccurs='unbounded'><xs:complexType><xs:sequence>
                    <xs:element name='store' type='v:Store'/>
                    <xs:element name='note' type='xs:string' minOccurs='0'/>
                    <xs:element name='line' type='v:Line' minOccurs='1' maxOccurs='99'/>
                  </xs:sequence><xs:attribute name='no' type='xs:positiveInteger' use='required'/></xs:complexType></xs:element>
                </xs:sequence></xs:complexType></xs:element>
                <xs:complexType name='Store'><xs:sequence><xs:element name='town' type='v:Name'/></xs:sequence>
                  <xs:attribute name='code' type='v:Code'/></xs:complexType>
                <xs:complexType name='Line'><xs:simpleContent><xs:extension base='v:Amount'>
                  <xs:attribute name='item' type='v:Name' use='required'/></xs:extension></xs:simpleContent></xs:complexType>
                <xs:simpleType name='Name'><xs:restriction base='xs:string'><xs:minLength value='2'/><xs:maxLength value='30'/></xs:restriction></xs:simpleType>
                <xs:simpleType name='Code'><xs:restriction base='v:Name'><xs:enumeration value='UP'/><xs:enumeration value='LOW'/></xs:restriction></xs:simpleType>
                <xs:simpleType name='Amount'><xs:restriction base='xs:decimal'><xs:totalDigits value='9'/><xs:fractionDigits value='2'/><xs:maxInclusive value='5000'/></xs:restriction></xs:simpleType>
                </xs:schema>""");
        Layout layout = p.layout();
        assertThat(((Xml) layout.format()).namespaces()).containsExactly(Map.entry("v", "urn:v"));
        assertThat(layout.recordTypes()).extracting(RecordType::name).containsExactly("vouchers", "voucher", "line");
        assertThat(paths(layout.firstType())).containsExactly("v:day");
        assertThat(layout.firstType().parent()).isNull();
        RecordType voucher = layout.recordTypes().get(1);
        RecordType line = layout.recordTypes().get(2);
        assertThat(voucher.parent()).isEqualTo("vouchers");
        assertThat(paths(voucher)).containsExactly("@no", "v:store/@code", "v:store/v:town", "v:note");
        assertThat(paths(line)).containsExactly("@item", ".");
        assertThat(line.parent()).isEqualTo("voucher");
        assertThat(List.of(line.min(), line.max())).containsExactly(1, 99);
        assertThat(voucher.fields().get(0).checks())
                .containsExactly(new Check.Required(Severity.REJECT), new Check.Range("1", null, Severity.REJECT));
        assertThat(voucher.fields().get(1).checks())
                .containsExactly(
                        new Check.OneOf(List.of("UP", "LOW"), Severity.REJECT),
                        new Check.Length(2, null, Severity.REJECT));
        assertThat(voucher.fields().get(2).type()).isEqualTo(new DataType.CharacterVarying(30));
        assertThat(voucher.fields().get(3).checks()).isEmpty();
        assertThat(line.fields().get(1).type()).isEqualTo(new DataType.Decimal(9, 2, '.', null));
    }

    @Test
    void several_documents_choices_groups_references_and_recursion() {
        String[] documents = {
            HEAD.replace("xmlns:v=", "xmlns:h='urn:h' xmlns:v=")
                    + """
                <xs:import namespace='urn:h'/>
                <xs:element name='all'><xs:complexType><xs:choice maxOccurs='unbounded'>
                  <xs:element name='a' type='v:A'/><xs:element ref='h:b'/></xs:choice></xs:complexType></xs:element>
                <xs:complexType name='A'><xs:complexContent><xs:extension base='v:Base'><xs:sequence>
                  <xs:group ref='v:G'/><xs:element name='sub' type='v:A' minOccurs='0'/></xs:sequence></xs:extension></xs:complexContent></xs:complexType>
                <xs:complexType name='Base'><xs:sequence><xs:element name='id' type='xs:int'/></xs:sequence></xs:complexType>
                <xs:group name='G'><xs:sequence><xs:element name='g' type='xs:boolean'/></xs:sequence></xs:group>
                </xs:schema>""",
            "<xs:schema xmlns:xs='http://www.w3.org/2001/XMLSchema' targetNamespace='urn:h'><xs:element name='b'>"
                    + "<xs:complexType><xs:attribute name='when' type='xs:dateTime'/></xs:complexType></xs:element></xs:schema>"
        };
        Proposal p = propose(documents);
        assertThat(p.layout().recordTypes()).extracting(RecordType::name).containsExactly("a", "b");
        assertThat(paths(p.layout().firstType())).containsExactly("v:id", "v:g");
        assertThat(p.guesses()).anyMatch(g -> g.choice().equals("an element inside itself"));
        String sub = "/v:all/v:a/v:sub";
        assertThat(p.alternatives())
                .containsExactly(new Proposal.Alternative(sub, List.of("left out", "once more at " + sub), "left out"));
        Proposal deeper = SchemaLayout.propose(documents(documents), null, Set.of("once more at " + sub), "x", null);
        assertThat(paths(deeper.layout().firstType())).containsExactly("v:id", "v:g", "v:sub/v:id", "v:sub/v:g");
        assertThat(deeper.alternatives()).extracting(Proposal.Alternative::part).containsExactly(sub, sub + "/v:sub");
        assertThat(p.layout().recordTypes().get(1).fields().get(0).type())
                .isEqualTo(new DataType.Timestamp("yyyy-MM-dd'T'HH:mm:ss[.SSSSSSSSS][X]"));
    }

    /** Values that a type of the standard allows, and what is read of them. */
    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "dateTime | 2026-11-23T04:17:30 | 2026-11-23T04:17:30",
                "dateTime | 2026-11-23T04:17:30Z | 2026-11-23T04:17:30",
                "dateTime | 2026-11-23T04:17:30+02:00 | 2026-11-23T02:17:30",
                "dateTime | 2026-11-23T04:17:30.1234567 | 2026-11-23T04:17:30.123456700",
                "date | 2026-11-23 | 2026-11-23",
                "date | 2026-11-23Z | 2026-11-23",
                "date | 2026-11-23+01:00 | 2026-11-23",
                "time | 04:17:30 | 04:17:30",
                "time | 04:17:30.5-05:00 | 04:17:30.500",
                "decimal | 12.123456 | 12.123456",
                "decimal | -0.5 | -0.5",
                "decimal | +7 | 7",
                "decimal | .5 | 0.5",
                "decimal | 12345678901234567890.5 | 12345678901234567890.5",
                "double | 1.5E3 | 1500",
                "double | -1.5e-3 | -0.0015",
                "float | 12 | 12",
                "integer | 1234567890123456789 | 1234567890123456789",
                "integer | -7 | -7",
                "long | -9223372036854775808 | -9223372036854775808",
                "unsignedLong | 18446744073709551615 | 18446744073709551615",
                "int | +12 | 12",
                "nonNegativeInteger | 0 | 0",
                "positiveInteger | 98765432109876543210 | 98765432109876543210",
                "boolean | 1 | true",
                "boolean | false | false",
                "gYear | 2026 | 2026",
                "gYearMonth | 2026-11 | 2026-11",
                "duration | P1Y2M | P1Y2M",
                "anyURI | urn:x:1 | urn:x:1",
                "token | a b | a b",
                "base64Binary | TWlsaw== | TWlsaw==",
                "hexBinary | 0FB7 | 0FB7",
                "NMTOKENS | a b | a b"
            })
    void what_a_type_of_the_standard_allows_is_read(String type, String value, String read) throws IOException {
        Layout layout = propose(
                        HEAD
                                + "<xs:element name='all'><xs:complexType><xs:sequence><xs:element name='r' maxOccurs='unbounded'>"
                                + "<xs:complexType><xs:sequence><xs:element name='v' type='xs:" + type
                                + "'/></xs:sequence></xs:complexType></xs:element></xs:sequence></xs:complexType></xs:element></xs:schema>")
                .layout();
        Reading reading = Reading.of(
                layout, ("<all xmlns='urn:v'><r><v>" + value + "</v></r></all>").getBytes(StandardCharsets.UTF_8));
        assertThat(reading.findings).isEmpty();
        assertThat(reading.records).containsExactly(List.of("r", read));
    }

    private static final String ORDER = HEAD.replace(" elementFormDefault='qualified'", "")
            + """
            <xs:element name='order'><xs:complexType><xs:sequence>
              <xs:element name='customer' type='xs:string'/><xs:element ref='v:line' maxOccurs='unbounded'/>
              <xs:element name='note' type='xs:string' minOccurs='0' maxOccurs='unbounded'/>
              <xs:element name='paid' type='xs:date' minOccurs='0'/></xs:sequence>
              <xs:attribute name='no' type='xs:int'/></xs:complexType></xs:element>
            <xs:element name='line'><xs:complexType><xs:attribute name='item' type='xs:string'/>
              <xs:attribute name='bags' type='xs:int'/></xs:complexType></xs:element>
            </xs:schema>""";

    @Test
    void the_head_of_a_document_is_a_record_type_around_its_lines() {
        Layout layout = propose(ORDER).layout();
        assertThat(layout.recordTypes()).extracting(RecordType::name).containsExactly("order", "line", "note");
        assertThat(paths(layout.firstType())).containsExactly("@no", "customer", "paid");
        assertThat(layout.recordTypes()).extracting(RecordType::parent).containsExactly(null, "order", "order");
    }

    @Test
    void with_a_document_only_what_it_uses_is_taken() throws IOException {
        String order =
                "<o:order xmlns:o='urn:v' xmlns:x='urn:x'><customer>Store 4</customer><o:line item='Salt'/></o:order>";
        ElementTree tree = ElementTree.of(new ByteArrayInputStream(order.getBytes()), Map.of(), 1 << 20);
        Layout layout = SchemaLayout.propose(documents(ORDER), tree, Set.of(), "x", null)
                .layout();
        assertThat(((Xml) layout.format()).namespaces()).containsExactly(Map.entry("o", "urn:v"));
        assertThat(paths(layout.firstType())).containsExactly("customer");
        assertThat(paths(layout.recordTypes().get(1))).containsExactly("@item");
        assertThat(Reading.of(layout, order.getBytes()).records)
                .containsExactly(List.of("order", "Store 4"), List.of("line", "Salt"));
    }

    /** Each of 40 types holds the 40 of the next step, and so on: the nearest are taken, and it takes no time. */
    @Test
    void of_more_than_a_layout_has_room_for_the_nearest_is_taken() {
        StringBuilder types = new StringBuilder();
        for (int t = 0; t < 8; t++) {
            types.append("<xs:complexType name='T" + t + "'><xs:sequence>");
            for (int e = 0; e < 40; e++) {
                types.append("<xs:element name='e" + e + "' type='"
                        + (t == 7 || e % 2 == 0 ? "xs:string" : "v:T" + (t + 1)) + "' minOccurs='0' maxOccurs='"
                        + (e % 10 == 3 ? "unbounded" : "1") + "'/>");
            }
            types.append("</xs:sequence></xs:complexType>");
        }
        Proposal p = propose(HEAD + "<xs:element name='all' type='v:T0'/>" + types + "</xs:schema>");
        int fields = p.layout().recordTypes().stream()
                .mapToInt(t -> t.fields().size())
                .sum();
        assertThat(fields).isBetween(SchemaLayout.MOST_FIELDS, SchemaLayout.MOST_FIELDS + 40);
        assertThat(p.layout().recordTypes().size()).isLessThanOrEqualTo(SchemaLayout.MOST_TYPES);
        assertThat(paths(p.layout().firstType())).contains("v:e0", "v:e38", "v:e1/v:e0");
        assertThat(p.guesses())
                .anyMatch(g -> g.part().equals("left out") && g.why().contains("Give a document together"));
    }

    @Test
    void of_several_outermost_elements_one_is_chosen() {
        String two = HEAD
                + "<xs:element name='bill' type='xs:string'/><xs:element name='credit' type='xs:date'/></xs:schema>";
        Proposal first = propose(two);
        assertThat(first.layout().firstType().name()).isEqualTo("bill");
        assertThat(first.alternatives())
                .containsExactly(new Proposal.Alternative(
                        "outermost element", List.of("begins with bill", "begins with credit"), "begins with bill"));
        Proposal other = SchemaLayout.propose(documents(two), null, Set.of("begins with credit"), "x", null);
        assertThat(other.layout().firstType().name()).isEqualTo("credit");
        assertThat(other.alternatives().get(0).taken()).isEqualTo("begins with credit");
    }

    @Test
    void elements_that_stand_for_another_and_names_of_every_letter() throws IOException {
        Layout layout = propose(
                        HEAD
                                + """
                <xs:element name='all'><xs:complexType><xs:sequence><xs:element ref='v:move' maxOccurs='unbounded'/>
                  </xs:sequence></xs:complexType></xs:element>
                <xs:element name='move' abstract='true'/>
                <xs:element name='birth' substitutionGroup='v:move' type='xs:date'/>
                <xs:element name='Übergang' substitutionGroup='v:birth' type='xs:date'/>
                </xs:schema>""")
                .layout();
        assertThat(layout.recordTypes()).extracting(RecordType::name).containsExactly("birth", "Übergang");
        assertThat(Reading.of(
                                layout,
                                "<all xmlns='urn:v'><Übergang>2026-11-23</Übergang></all>"
                                        .getBytes(StandardCharsets.UTF_8))
                        .records)
                .containsExactly(List.of("Übergang", "2026-11-23"));
    }

    /** Public families of schemas are mostly annotations; a layout does not carry them. */
    @Test
    void a_large_schema_is_kept_without_what_only_people_read() throws IOException {
        String said = "<xs:annotation><xs:documentation xml:lang='en'>" + "A word about it. ".repeat(20)
                + "</xs:documentation></xs:annotation>";
        StringBuilder many = new StringBuilder();
        for (int i = 0; i < 300; i++) {
            many.append("<!-- one more --><xs:element name='e" + i + "' type='v:T' minOccurs='0'>" + said
                    + "</xs:element>\n");
        }
        Layout layout = propose(
                        HEAD + said + "<xs:element name='all'><xs:complexType><xs:sequence>" + many
                                + "</xs:sequence><xs:attribute name='q' type='xs:string' default='&lt;&quot;'/></xs:complexType></xs:element>"
                                + "<xs:simpleType name='T'>" + said
                                + "<xs:restriction base='xs:string'><xs:pattern value='a&amp;b|&lt;'/></xs:restriction></xs:simpleType></xs:schema>")
                .layout();
        String kept = ((Xml) layout.format()).schema().get(0).text();
        assertThat(kept).hasSizeLessThan(25_000).doesNotContain("A word", "one more");
        assertThat(layout.firstType().fields()).hasSize(301);
        assertThat(Reading.of(layout, "<all xmlns='urn:v'><e1>a&amp;b</e1></all>".getBytes()).findings)
                .isEmpty();
        assertThat(Reading.of(layout, "<all xmlns='urn:v'><e1>ab</e1></all>".getBytes()).findings)
                .isNotEmpty();
    }

    @Test
    void what_is_no_schema_or_lacks_a_part_is_said() {
        assertThatThrownBy(() -> propose("<a/>")).hasMessageContaining("it is no XML schema");
        assertThatThrownBy(() -> propose(HEAD + "<xs:element")).hasMessageContaining("not well-formed");
        assertThatThrownBy(() -> propose("<!DOCTYPE a [<!ENTITY x SYSTEM 'file:///etc/passwd'>]><a>&x;</a>"))
                .isInstanceOf(DefinitionException.class);
        assertThatThrownBy(() -> propose(HEAD + "<xs:element name='a' type='v:Gone'/></xs:schema>"))
                .hasMessageContaining("the type Gone of the namespace urn:v");
        assertThatThrownBy(() -> propose(HEAD + "</xs:schema>")).hasMessageContaining("no element is declared");
    }

    /** The other way: the schema of a layout accepts what the layout's made-up sample holds, and makes the layout again. */
    @Test
    void the_schema_of_a_layout_fits_its_sample_and_makes_the_same_layout() throws Exception {
        Layout layout = Definitions.layout(Files.readString(Path.of("../demo/farm-register.layout.json")));
        Map<String, String> files = SchemaOfLayout.write(layout);
        assertThat(files.keySet()).containsExactly("farm-register.xsd", "farm-register-h.xsd");
        byte[] sample = MadeUpSample.of(layout, Reading.TODAY);
        validate(files, sample);

        Layout again = propose(files.values().toArray(String[]::new)).layout();
        assertThat(again.recordTypes()).extracting(RecordType::name).containsExactly("farm", "herd");
        for (int t = 0; t < 2; t++) {
            assertThat(again.recordTypes().get(t).fields())
                    .extracting(f -> Places.path(f) + " " + f.type().label())
                    .containsExactlyInAnyOrderElementsOf(layout.recordTypes().get(t).fields().stream()
                            .map(f -> Places.path(f) + " " + f.type().label())
                            .toList());
        }
        assertThat(Reading.of(again, sample).findings).isEmpty();
        breaches(again, new String(sample, StandardCharsets.UTF_8));
    }

    private static Layout ofTheRegistry() throws IOException {
        return registry().layout();
    }

    /** A list of farms, around which only the month stands. */
    private static Proposal registry() throws IOException {
        return propose(
                Files.readString(Path.of("../demo/farm-register.xsd")), Files.readString(Path.of("../demo/herd.xsd")));
    }

    @Test
    void the_schema_of_the_registry_reads_its_register() throws Exception {
        assertThat(registry().guesses())
                .anyMatch(g -> g.part().equals("left out") && g.choice().equals("@month"));
        Layout layout = ofTheRegistry();
        Reading reading = Reading.of(layout, REGISTER.getBytes());
        assertThat(reading.findings).isEmpty();
        assertThat(reading.records)
                .containsExactly(
                        Arrays.asList("farm", "1", null, "Tarn End", "Ousdale", "Upper Tarn", null),
                        Arrays.asList("herd", "Fellrind", "12", null));
    }

    /** What breaches the schema, but none of the layout's checks, is found where it stands. */
    private static void breaches(Layout layout, String good) throws IOException {
        String extra = good.replaceFirst("<r:farm ", "<r:farm colour=\"red\" ");
        assertThat(Reading.of(layout, extra.getBytes()).findings)
                .singleElement()
                .asString()
                .startsWith("line 1 (column")
                .contains("Attribute 'colour' is not allowed to appear in element 'r:farm'")
                .endsWith("[XSD-01]");
        String twice = good.replaceFirst("(<r:name>[^<]*</r:name>)", "$1$1");
        assertThat(Reading.of(layout, twice.getBytes()).findings)
                .singleElement()
                .asString()
                .contains("Invalid content was found starting with element");
        String behind = good.replace("</r:register>", "<r:more/></r:register>");
        assertThat(Reading.of(layout, behind.getBytes()).findings)
                .singleElement()
                .asString()
                .contains("starting with element 'more'. One of 'farm' is expected");
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            textBlock =
                    """
            number='1'  | number='x'            | The value 'x' of attribute 'number' on element 'r:farm' is not valid: 'x' is not a valid value for 'integer'
            >Tarn End<  | ><                    | The value '' of element 'r:name' is not valid: Value '' with length = '0' is not facet-valid with respect to minLength '2'
            >12<        | >many<                | The value 'many' of element 'h:cows' is not valid: 'many' is not a valid value for 'integer'
            """)
    void a_value_that_does_not_fit_is_one_breach_that_says_where_and_why(String good, String bad, String told)
            throws IOException {
        Layout layout = ofTheRegistry();
        assertThat(Reading.of(layout, REGISTER.replace(good, bad).getBytes()).findings.stream()
                        .filter(f -> f.contains("[XSD-01]")))
                .singleElement()
                .asString()
                .contains(told);
    }

    /** Asks the parser of the JDK. */
    private static void validate(Map<String, String> files, byte[] document) throws Exception {
        Path folder = Files.createTempDirectory("schema");
        for (Map.Entry<String, String> file : files.entrySet()) {
            Files.writeString(folder.resolve(file.getKey()), file.getValue());
        }
        SchemaFactory.newInstance(XMLConstants.W3C_XML_SCHEMA_NS_URI)
                .newSchema(folder.resolve(files.keySet().iterator().next()).toFile())
                .newValidator()
                .validate(new StreamSource(new ByteArrayInputStream(document)));
    }
}
