package ninepin.core.format.xml.schema;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;
import ninepin.core.format.xml.parser.XmlParsers;
import ninepin.core.layout.DefinitionException;

/** An element of a schema document. Documents are small; they are held whole. */
public final class Node {

    public static final String SCHEMA = "http://www.w3.org/2001/XMLSchema";

    /** A name with its namespace. */
    public record Name(String namespace, String local) {}

    public final String local;
    public final Map<String, String> attributes = new LinkedHashMap<>();
    public final List<Node> children = new ArrayList<>();
    private final Map<String, String> prefixes;

    private Node(String local, Map<String, String> prefixes) {
        this.local = local;
        this.prefixes = prefixes;
    }

    /** Reads a document and returns its schema element. */
    static Node read(String document) {
        try {
            XMLStreamReader reader = XmlParsers.ofText(document);
            List<Node> open = new ArrayList<>();
            Node root = null;
            while (reader.hasNext()) {
                int event = reader.next();
                if (event == XMLStreamConstants.START_ELEMENT) {
                    Node node = start(reader, open.isEmpty() ? Map.of() : open.get(open.size() - 1).prefixes);
                    if (open.isEmpty()) {
                        root = requireSchema(reader, node);
                    } else if (SCHEMA.equals(reader.getNamespaceURI())) {
                        open.get(open.size() - 1).children.add(node);
                    }
                    open.add(node);
                } else if (event == XMLStreamConstants.END_ELEMENT) {
                    open.remove(open.size() - 1);
                }
            }
            return root;
        } catch (XMLStreamException e) {
            throw malformed(e);
        }
    }

    /** Says where a schema document is not well-formed. */
    static DefinitionException malformed(XMLStreamException e) {
        return new DefinitionException(
                "xsd",
                "line " + Math.max(1, XmlParsers.line(e)) + ": it is not well-formed: "
                        + String.valueOf(e.getMessage()).lines().findFirst().orElse(""));
    }

    private static Node requireSchema(XMLStreamReader reader, Node node) {
        if (!SCHEMA.equals(reader.getNamespaceURI()) || !node.local.equals("schema")) {
            throw new DefinitionException("xsd", "it is no XML schema: its outermost element is " + node.local);
        }
        return node;
    }

    private static Node start(XMLStreamReader reader, Map<String, String> outer) {
        Map<String, String> prefixes = new LinkedHashMap<>(outer);
        for (int i = 0; i < reader.getNamespaceCount(); i++) {
            String prefix = reader.getNamespacePrefix(i);
            prefixes.put(prefix == null ? "" : prefix, String.valueOf(reader.getNamespaceURI(i)));
        }
        Node node = new Node(reader.getLocalName(), prefixes);
        for (int i = 0; i < reader.getAttributeCount(); i++) {
            node.attributes.put(reader.getAttributeLocalName(i), reader.getAttributeValue(i));
        }
        return node;
    }

    public boolean is(String name) {
        return local.equals(name);
    }

    public String get(String attribute) {
        return attributes.get(attribute);
    }

    /** The first child of a kind, or null. */
    public Node child(String name) {
        return children.stream().filter(c -> c.is(name)).findFirst().orElse(null);
    }

    public List<Node> all(String name) {
        return children.stream().filter(c -> c.is(name)).toList();
    }

    /** What a qualified name in an attribute stands for, or null where the attribute is missing. */
    public Name name(String attribute) {
        String value = get(attribute);
        if (value == null) {
            return null;
        }
        int colon = value.indexOf(':');
        String prefix = colon < 0 ? "" : value.substring(0, colon);
        return new Name(
                prefixes.getOrDefault(prefix, ""), value.substring(colon + 1).strip());
    }

    /** The prefix that the document has for a namespace, or null. */
    public String prefixOf(String namespace) {
        return prefixes.entrySet().stream()
                .filter(e -> e.getValue().equals(namespace) && !e.getKey().isEmpty())
                .map(Map.Entry::getKey)
                .findFirst()
                .orElse(null);
    }
}
