package ninepin.core.format.xml.schema;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import ninepin.core.format.xml.schema.Node.Name;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.SchemaDocument;

/** The global components of some schema documents that belong together. */
public final class Schema {

    /**
     * A component with the document it stands in.
     *
     * @param node the component
     * @param target the target namespace of its document
     * @param qualified whether local elements of its document are in that namespace
     */
    public record Component(Node node, String target, boolean qualified) {

        public Component of(Node inner) {
            return new Component(inner, target, qualified);
        }
    }

    private final Map<String, Map<Name, Component>> global = new HashMap<>();
    private final Map<Name, Component> elements = new LinkedHashMap<>();
    private final List<Node> documents = new ArrayList<>();
    private final List<Component> complexTypes = new ArrayList<>();
    private final Set<String> patterns = new LinkedHashSet<>();
    private final Set<Name> referred = new HashSet<>();
    /** What was asked for: a schema names the same few namespaces at each of its elements. */
    private final Map<String, Optional<String>> prefixes = new HashMap<>();

    private final Map<Name, List<Name>> substitutes = new HashMap<>();

    public Schema(List<SchemaDocument> texts) {
        for (SchemaDocument text : texts) {
            Node document = Node.read(text.text());
            documents.add(document);
            String target = document.attributes.getOrDefault("targetNamespace", "");
            boolean qualified = "qualified".equals(document.get("elementFormDefault"));
            gather(new Component(document, target, qualified));
            for (Node child : document.children) {
                String name = child.get("name");
                if (name != null) {
                    Component component = new Component(child, target, qualified);
                    Name full = new Name(target, name);
                    global.computeIfAbsent(kind(child.local), k -> new HashMap<>())
                            .put(full, component);
                    if (child.is("element")) {
                        elements.put(full, component);
                        if (child.name("substitutionGroup") != null) {
                            substitutes
                                    .computeIfAbsent(child.name("substitutionGroup"), h -> new ArrayList<>())
                                    .add(full);
                        }
                    }
                }
            }
        }
    }

    private static String kind(String local) {
        return local.endsWith("Type") ? "type" : local;
    }

    /** The global elements, in the order of the documents. */
    public Map<Name, Component> elements() {
        return elements;
    }

    /** A component that is referred to. */
    public Component find(String kind, Name name, String from) {
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
    public String prefixOf(String namespace) {
        return prefixes.computeIfAbsent(namespace, n -> documents.stream()
                        .map(d -> d.prefixOf(n))
                        .filter(Objects::nonNull)
                        .findFirst())
                .orElse(null);
    }

    /** Whether some element declaration refers to a global element. */
    public boolean referredTo(Name element) {
        return referred.contains(element);
    }

    /** The global elements that may stand wherever a reference to another one stands. */
    public List<Name> substitutesFor(Name head) {
        Set<Name> all = new LinkedHashSet<>(substitutes.getOrDefault(head, List.of()));
        List<Name> open = new ArrayList<>(all);
        for (int i = 0; i < open.size(); i++) {
            for (Name further : substitutes.getOrDefault(open.get(i), List.of())) {
                if (all.add(further)) {
                    open.add(further);
                }
            }
        }
        return open;
    }

    private void gather(Component at) {
        if (at.node().is("complexType")) {
            complexTypes.add(at);
        } else if (at.node().is("pattern") && at.node().get("value") != null) {
            patterns.add(at.node().get("value"));
        } else if (at.node().is("element") && at.node().name("ref") != null) {
            referred.add(at.node().name("ref"));
        }
        at.node().children.forEach(child -> gather(at.of(child)));
    }

    /** Does something with all regular expressions of simple types. */
    void eachPattern(Consumer<String> todo) {
        patterns.forEach(todo);
    }

    /** Does something with all complex types, those that have no name among them. */
    void eachComplexType(Consumer<Component> todo) {
        complexTypes.forEach(todo);
    }

    /** A component that is referred to, or null where it is built in or missing. */
    Component known(String kind, Name name) {
        return name == null ? null : global.getOrDefault(kind, Map.of()).get(name);
    }

    /** The name of the elements that a declaration or a reference stands for. */
    public Name nameOf(Component element) {
        Name ref = element.node().name("ref");
        if (ref != null) {
            return ref;
        }
        String form = element.node().get("form");
        boolean inTarget = form == null ? element.qualified() : form.equals("qualified");
        return new Name(
                inTarget ? element.target() : "", String.valueOf(element.node().get("name")));
    }
}
