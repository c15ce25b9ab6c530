package ninepin.core.infer.schema;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import ninepin.core.infer.schema.Node.Name;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.SchemaDocument;

/** The global components of some schema documents that belong together. */
final class Schema {

    /**
     * A component with the document it stands in.
     *
     * @param node the component
     * @param target the target namespace of its document
     * @param qualified whether local elements of its document are in that namespace
     */
    record Component(Node node, String target, boolean qualified) {

        Component of(Node inner) {
            return new Component(inner, target, qualified);
        }
    }

    private final Map<String, Map<Name, Component>> global = new HashMap<>();
    private final Map<Name, Component> elements = new LinkedHashMap<>();
    private final List<Node> documents = new ArrayList<>();

    Schema(List<SchemaDocument> texts) {
        for (SchemaDocument text : texts) {
            Node document = Node.read(text.text());
            documents.add(document);
            String target = document.attributes.getOrDefault("targetNamespace", "");
            boolean qualified = "qualified".equals(document.get("elementFormDefault"));
            for (Node child : document.children) {
                String name = child.get("name");
                if (name != null) {
                    Component component = new Component(child, target, qualified);
                    Name full = new Name(target, name);
                    global.computeIfAbsent(kind(child.local), k -> new HashMap<>())
                            .put(full, component);
                    if (child.is("element")) {
                        elements.put(full, component);
                    }
                }
            }
        }
    }

    private static String kind(String local) {
        return local.endsWith("Type") ? "type" : local;
    }

    /** The global elements, in the order of the documents. */
    Map<Name, Component> elements() {
        return elements;
    }

    /** A component that is referred to. */
    Component find(String kind, Name name, String from) {
        Component found = global.getOrDefault(kind, Map.of()).get(name);
        if (found == null) {
            throw new DefinitionException(
                    "xsd",
                    "the " + kind + " " + name.local()
                            + (name.namespace().isEmpty() ? "" : " of the namespace " + name.namespace())
                            + ", to which " + from
                            + " refers, is in none of the documents. Give all of them at once.");
        }
        return found;
    }

    /** The prefix some document has for a namespace, or null. */
    String prefixOf(String namespace) {
        return documents.stream()
                .map(d -> d.prefixOf(namespace))
                .filter(p -> p != null)
                .findFirst()
                .orElse(null);
    }

    /** Whether some element declaration refers to a global element. */
    boolean referredTo(Name element) {
        return documents.stream().anyMatch(d -> refers(d, element));
    }

    private static boolean refers(Node node, Name element) {
        return node.is("element") && element.equals(node.name("ref"))
                || node.children.stream().anyMatch(c -> refers(c, element));
    }
}
