package ninepin.core.format.xml.proposer;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import ninepin.core.format.xml.schema.Node;
import ninepin.core.layout.Check;
import ninepin.core.layout.DataType;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.ElementPath;
import ninepin.core.layout.ElementPath.Name;
import ninepin.core.layout.ElementPath.Step;
import ninepin.core.layout.Field;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Recognition;
import ninepin.core.layout.RecordType;
import ninepin.core.layout.Xml;

/** Writes the schema that a layout of an XML file amounts to: a document for each namespace. */
public final class SchemaOfLayout {

    /** An element of the tree that the paths of a layout make up. */
    private static final class Element {
        final Name name;
        final Map<Name, Element> children = new LinkedHashMap<>();
        final Map<Name, Field> attributes = new LinkedHashMap<>();
        Field text;
        RecordType record;
        boolean required;
        int repeated = 1;

        Element(Name name) {
            this.name = name;
        }

        Element child(Name of) {
            return children.computeIfAbsent(of, Element::new);
        }
    }

    private final Map<String, String> namespaces;
    private final Element root;
    /** For each namespace its global elements that other documents refer to. */
    private final Map<String, Map<String, Element>> global = new LinkedHashMap<>();

    private final StringBuilder out = new StringBuilder();

    private SchemaOfLayout(Layout layout) {
        if (!(layout.format() instanceof Xml xml)) {
            throw new DefinitionException("format", "only the layout of an XML file has a schema");
        }
        this.namespaces = xml.namespaces();
        Element top = new Element(new Name("", ""));
        for (RecordType type : layout.recordTypes()) {
            Element at = top;
            for (Step step : ElementPath.parse("path", ((Recognition.Path) type.when()).path())
                    .steps()) {
                at = at.child(step.name());
            }
            at.record = type;
            type.fields().forEach(new Placing(at)::place);
        }
        this.root = top.children.values().iterator().next();
    }

    /** Puts the fields of a record type into the tree. */
    private record Placing(Element record) {
        void place(Field field) {
            ElementPath path = ElementPath.of(field);
            boolean required = field.checks().stream().anyMatch(c -> c instanceof Check.Required);
            Element at = record;
            for (Step step : path.steps()) {
                at = at.child(step.name());
                at.required |= required;
                at.repeated = Math.max(at.repeated, step.position());
            }
            if (path.ofAttribute()) {
                at.attributes.put(path.leaf(), field);
            } else {
                at.text = field;
            }
        }
    }

    /**
     * Writes the documents.
     *
     * @return the text of each by its file name; the first is the one to start with
     */
    public static Map<String, String> write(Layout layout) {
        SchemaOfLayout schema = new SchemaOfLayout(layout);
        schema.declare(schema.root);
        schema.collect(schema.root);
        Map<String, String> files = new LinkedHashMap<>();
        for (String namespace : List.copyOf(schema.global.keySet())) {
            files.put(schema.file(layout.name(), namespace), schema.document(layout.name(), namespace));
        }
        return files;
    }

    private String namespaceOf(Name name) {
        return name.namespace(namespaces);
    }

    private void declare(Element element) {
        global.computeIfAbsent(namespaceOf(element.name), n -> new LinkedHashMap<>())
                .putIfAbsent(element.name.local(), element);
    }

    private void collect(Element element) {
        for (Element child : element.children.values()) {
            if (!namespaceOf(child.name).equals(namespaceOf(element.name))) {
                declare(child);
            }
            collect(child);
        }
    }

    private String file(String name, String namespace) {
        boolean first = namespace.equals(namespaceOf(root.name));
        return first ? name + ".xsd" : name + "-" + (namespace.isEmpty() ? "plain" : prefix(namespace)) + ".xsd";
    }

    private String prefix(String namespace) {
        return namespaces.entrySet().stream()
                .filter(e -> e.getValue().equals(namespace))
                .map(Map.Entry::getKey)
                .findFirst()
                .orElse("n");
    }

    private String document(String name, String namespace) {
        out.setLength(0);
        out.append("<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n<xs:schema xmlns:xs=\"")
                .append(Node.SCHEMA)
                .append('"');
        namespaces.forEach((p, uri) -> out.append("\n  xmlns:")
                .append(p)
                .append("=\"")
                .append(escaped(uri))
                .append('"'));
        if (!namespace.isEmpty()) {
            out.append("\n  targetNamespace=\"").append(escaped(namespace)).append('"');
        }
        out.append("\n  elementFormDefault=\"qualified\">\n");
        Set<String> others = new LinkedHashSet<>();
        global.get(namespace).values().forEach(e -> othersOf(e, namespace, others));
        for (String other : others) {
            out.append("  <xs:import")
                    .append(other.isEmpty() ? "" : " namespace=\"" + escaped(other) + "\"")
                    .append(" schemaLocation=\"")
                    .append(escaped(file(name, other)))
                    .append("\"/>\n");
        }
        for (Element element : global.get(namespace).values()) {
            element(element, namespace, "  ", true);
        }
        return out.append("</xs:schema>\n").toString();
    }

    private void othersOf(Element element, String namespace, Set<String> others) {
        for (Element child : element.children.values()) {
            String own = namespaceOf(child.name);
            if (own.equals(namespace)) {
                othersOf(child, namespace, others);
            } else {
                others.add(own);
            }
        }
    }

    private void element(Element e, String namespace, String pad, boolean outermost) {
        String own = namespaceOf(e.name);
        out.append(pad).append("<xs:element ");
        if (!outermost && !own.equals(namespace)) {
            out.append("ref=\"")
                    .append(own.isEmpty() ? "" : e.name.prefix() + ":")
                    .append(e.name.local())
                    .append('"')
                    .append(occurs(e))
                    .append("/>\n");
            return;
        }
        out.append("name=\"").append(e.name.local()).append('"').append(outermost ? "" : occurs(e));
        if (e.children.isEmpty() && e.attributes.isEmpty()) {
            simple(e.text, pad, "element");
            return;
        }
        out.append(">\n").append(pad).append("  <xs:complexType");
        if (e.text != null && !e.children.isEmpty()) {
            out.append(" mixed=\"true\"");
        }
        out.append(">\n");
        boolean simpleContent = e.text != null && e.children.isEmpty();
        String inner = pad + "    ";
        if (simpleContent) {
            out.append(inner)
                    .append("<xs:simpleContent>\n")
                    .append(inner)
                    .append("  <xs:extension base=\"")
                    .append(base(e.text.type()))
                    .append("\">\n");
        } else if (!e.children.isEmpty()) {
            out.append(inner).append("<xs:sequence>\n");
            e.children.values().forEach(c -> element(c, namespace, inner + "  ", false));
            out.append(inner).append("</xs:sequence>\n");
        }
        attributes(e, simpleContent ? inner + "    " : inner);
        if (simpleContent) {
            out.append(inner).append("  </xs:extension>\n").append(inner).append("</xs:simpleContent>\n");
        }
        out.append(pad).append("  </xs:complexType>\n").append(pad).append("</xs:element>\n");
    }

    private void attributes(Element e, String pad) {
        for (Map.Entry<Name, Field> a : e.attributes.entrySet()) {
            if (!a.getKey().prefix().isEmpty()) {
                continue;
            }
            boolean required = a.getValue().checks().stream().anyMatch(c -> c instanceof Check.Required);
            out.append(pad)
                    .append("<xs:attribute name=\"")
                    .append(a.getKey().local())
                    .append('"')
                    .append(required ? " use=\"required\"" : "");
            simple(a.getValue(), pad, "attribute");
        }
        // An attribute of another namespace would have to be declared in a document of its own.
        if (e.attributes.keySet().stream().anyMatch(a -> !a.prefix().isEmpty())) {
            out.append(pad).append("<xs:anyAttribute namespace=\"##any\" processContents=\"lax\"/>\n");
        }
    }

    private static String occurs(Element e) {
        if (e.record == null) {
            String max = e.repeated > 1 ? " maxOccurs=\"unbounded\"" : "";
            return (e.required || !e.children.isEmpty() && holdsRecord(e) ? "" : " minOccurs=\"0\"") + max;
        }
        Integer min = e.record.min();
        Integer max = e.record.max();
        return " minOccurs=\"" + (min == null ? 0 : min) + "\" maxOccurs=\"" + (max == null ? "unbounded" : max) + '"';
    }

    private static boolean holdsRecord(Element e) {
        return e.children.values().stream().anyMatch(c -> c.record != null || holdsRecord(c));
    }

    /** Ends a declaration with its simple type. */
    private void simple(Field field, String pad, String kind) {
        List<String> facets = field == null ? List.of() : facets(field);
        String base = field == null ? "xs:string" : base(field.type());
        if (facets.isEmpty()) {
            out.append(" type=\"").append(base).append("\"/>\n");
            return;
        }
        out.append(">\n")
                .append(pad)
                .append("  <xs:simpleType>\n")
                .append(pad)
                .append("    <xs:restriction base=\"")
                .append(base)
                .append("\">\n");
        facets.forEach(f -> out.append(pad).append("      ").append(f).append('\n'));
        out.append(pad)
                .append("    </xs:restriction>\n")
                .append(pad)
                .append("  </xs:simpleType>\n")
                .append(pad)
                .append("</xs:")
                .append(kind)
                .append(">\n");
    }

    private static String base(DataType type) {
        if (type instanceof DataType.IntegerNumber) {
            return "xs:integer";
        }
        if (type instanceof DataType.Decimal d && d.decimalSign() == '.' && d.groupingSign() == null) {
            return d.mayHaveExponent() ? "xs:double" : "xs:decimal";
        }
        if (type instanceof DataType.Bool b
                && Set.of("true", "1").containsAll(b.trueTokens())
                && Set.of("false", "0").containsAll(b.falseTokens())) {
            return "xs:boolean";
        }
        if (type instanceof DataType.Date d
                && (d.pattern().equals("yyyy-MM-dd") || d.pattern().equals(SimpleTypes.DATE))) {
            return "xs:date";
        }
        if (type instanceof DataType.Time t
                && (t.pattern().equals("HH:mm:ss") || t.pattern().equals(SimpleTypes.TIME))) {
            return "xs:time";
        }
        return type instanceof DataType.Timestamp s
                        && (s.pattern().equals("yyyy-MM-dd'T'HH:mm:ss")
                                || s.pattern().equals(SimpleTypes.DATE_TIME))
                ? "xs:dateTime"
                : "xs:string";
    }

    private static List<String> facets(Field field) {
        List<String> facets = new ArrayList<>();
        Integer longest = field.type() instanceof DataType.CharacterVarying t ? t.length() : null;
        for (Check check : field.checks()) {
            if (check instanceof Check.OneOf one) {
                one.values().forEach(v -> facets.add("<xs:enumeration value=\"" + escaped(v) + "\"/>"));
            } else if (check instanceof Check.Matches m) {
                facets.add("<xs:pattern value=\"" + escaped(m.pattern()) + "\"/>");
            } else if (check instanceof Check.Length l && longest != null) {
                longest = l.max() == null ? longest : Math.min(longest, l.max());
                if (l.min() != null) {
                    facets.add("<xs:minLength value=\"" + l.min() + "\"/>");
                }
            } else if (check instanceof Check.Range r && !base(field.type()).equals("xs:string")) {
                if (r.min() != null) {
                    facets.add("<xs:minInclusive value=\"" + escaped(r.min()) + "\"/>");
                }
                if (r.max() != null) {
                    facets.add("<xs:maxInclusive value=\"" + escaped(r.max()) + "\"/>");
                }
            }
        }
        if (field.type() instanceof DataType.IntegerNumber) {
            facets.add("<xs:totalDigits value=\"18\"/>");
        }
        if (longest != null) {
            facets.add("<xs:maxLength value=\"" + longest + "\"/>");
        } else if (base(field.type()).equals("xs:decimal")) {
            DataType.Decimal d = (DataType.Decimal) field.type();
            facets.add("<xs:totalDigits value=\"" + d.precision() + "\"/>");
            facets.add("<xs:fractionDigits value=\"" + d.scale() + "\"/>");
        }
        return facets;
    }

    private static String escaped(String text) {
        return text.replace("&", "&amp;").replace("<", "&lt;").replace("\"", "&quot;");
    }
}
