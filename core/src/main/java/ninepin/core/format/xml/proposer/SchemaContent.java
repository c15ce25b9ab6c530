package ninepin.core.format.xml.proposer;

import java.util.IdentityHashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import javax.xml.XMLConstants;
import ninepin.core.format.xml.proposer.SimpleTypes.Facets;
import ninepin.core.format.xml.schema.Node;
import ninepin.core.format.xml.schema.Node.Name;
import ninepin.core.format.xml.schema.Schema;
import ninepin.core.format.xml.schema.Schema.Component;
import ninepin.core.layout.DefinitionException;

/** What a schema says may stand in an element: its text, its attributes, and the elements directly below it. */
final class SchemaContent {

    /**
     * An element as it stands at a place: its name, its declaration, and how often it may occur there.
     *
     * @param max the most that may stand there, or -1 for any number
     * @param optional whether a choice may leave it out, whatever {@code min} says
     */
    record Particle(Name name, Component declaration, int min, int max, boolean optional) {

        boolean repeats() {
            return max != 1;
        }

        boolean required() {
            return min > 0 && !optional;
        }

        /** Both as one place, where an element of one name may stand at two. */
        Particle or(Particle other) {
            int most = max < 0 || other.max < 0 ? -1 : Math.max(max, other.max);
            return new Particle(name, declaration, Math.min(min, other.min), most, optional && other.optional);
        }
    }

    /**
     * An attribute of an element.
     *
     * @param name its name; an attribute that is declared at its element has no namespace
     */
    record Attribute(Name name, Facets facets, boolean required) {}

    /** How deep groups and bases of types may refer to each other. */
    private static final int DEEPEST = 64;

    private static final int MOST_STEPS = 500_000;

    private final Schema schema;
    private final SimpleTypes simple;
    /** What stands in the types that were looked at; a schema uses most of them many times. */
    private final Map<Node, List<Particle>> known = new IdentityHashMap<>();

    private boolean wildcard;
    private int steps;

    SchemaContent(Schema schema) {
        this.schema = schema;
        this.simple = new SimpleTypes(schema);
    }

    /** Whether somewhere any element may stand. */
    boolean hasWildcard() {
        return wildcard;
    }

    /** The type of an element: its own, the named one, or null for a built-in one. */
    Component typeOf(Component element) {
        for (String kind : List.of("complexType", "simpleType")) {
            if (element.node().child(kind) != null) {
                return element.of(element.node().child(kind));
            }
        }
        Name name = element.node().name("type");
        return name == null || Node.SCHEMA.equals(name.namespace())
                ? null
                : schema.find("type", name, String.valueOf(element.node().get("name")));
    }

    private boolean isComplex(Name name) {
        return name != null
                && !Node.SCHEMA.equals(name.namespace())
                && schema.find("type", name, "a type").node().is("complexType");
    }

    /** What is known of the text of an element; null where it has elements only. */
    Facets textOf(Component element) {
        return textOf(element, typeOf(element), 0);
    }

    private Facets textOf(Component element, Component type, int depth) {
        String from = String.valueOf(element.node().get("name"));
        requireDepth(depth, from);
        if (type == null) {
            Name name = element.node().name("type");
            return name == null || name.local().equals("anyType") ? null : simple.named(name, from);
        }
        if (type.node().is("simpleType")) {
            return simple.of(type);
        }
        Node content = type.node().child("simpleContent");
        if (content == null) {
            return "true".equals(type.node().get("mixed")) ? new Facets() : null;
        }
        Node derived = content.child("extension") != null ? content.child("extension") : content.child("restriction");
        Name base = derived == null ? null : derived.name("base");
        Facets facets = isComplex(base)
                ? textOf(element, schema.find("type", base, from), depth + 1)
                : simple.named(base, from);
        if (derived != null && derived.is("restriction") && facets != null) {
            SimpleTypes.restrict(facets, derived);
        }
        return facets;
    }

    private static void requireDepth(int depth, String of) {
        if (depth > DEEPEST) {
            throw new DefinitionException("xsd", of + " is made of itself, or of more than " + DEEPEST + " types");
        }
    }

    /** The attributes of an element, those of the types that its type extends among them. */
    List<Attribute> attributes(Component element) {
        Component type = typeOf(element);
        Map<Name, Attribute> all = new LinkedHashMap<>();
        if (type != null && type.node().is("complexType")) {
            attributes(type, all, 0);
        }
        return List.copyOf(all.values());
    }

    private void attributes(Component at, Map<Name, Attribute> all, int depth) {
        String from = String.valueOf(at.node().get("name"));
        requireDepth(depth, from);
        for (Node node : at.node().children) {
            switch (node.local) {
                case "attribute" -> attribute(at.of(node), from, all);
                case "attributeGroup" -> {
                    if (node.name("ref") != null) {
                        attributes(schema.find("attributeGroup", node.name("ref"), from), all, depth + 1);
                    }
                }
                case "simpleContent", "complexContent", "extension", "restriction" -> {
                    if (node.is("extension") && isComplex(node.name("base"))) {
                        attributes(schema.find("type", node.name("base"), from), all, depth + 1);
                    }
                    attributes(at.of(node), all, depth + 1);
                }
                default -> {}
            }
        }
    }

    private void attribute(Component at, String from, Map<Name, Attribute> all) {
        Node node = at.node();
        Name ref = node.name("ref");
        Name name = ref != null ? ref : new Name("", String.valueOf(node.get("name")));
        if ("prohibited".equals(node.get("use"))) {
            all.remove(name);
            return;
        }
        boolean required = "required".equals(node.get("use"));
        if (ref != null && ref.namespace().equals(XMLConstants.XML_NS_URI)) {
            all.put(name, new Attribute(name, new Facets(), required));
            return;
        }
        Component declared = ref != null ? schema.find("attribute", ref, from) : at;
        Node inner = declared.node().child("simpleType");
        Facets facets = inner != null
                ? simple.of(declared.of(inner))
                : simple.named(declared.node().name("type"), from);
        all.put(name, new Attribute(name, facets, required));
    }

    /** The elements that may stand directly in one, each once. */
    List<Particle> children(Component element) {
        Component type = typeOf(element);
        return type != null && type.node().is("complexType")
                ? known.computeIfAbsent(type.node(), n -> particles(type))
                : List.of();
    }

    private List<Particle> particles(Component type) {
        Map<Name, Particle> all = new LinkedHashMap<>();
        particles(type, 1, 1, false, all, 0);
        return List.copyOf(all.values());
    }

    private void particles(Component at, int min, int max, boolean optional, Map<Name, Particle> all, int depth) {
        requireDepth(depth, String.valueOf(at.node().get("name")));
        for (Node node : at.node().children) {
            if (++steps > MOST_STEPS) {
                throw new DefinitionException(
                        "xsd",
                        "its groups refer to each other more than " + MOST_STEPS + " times; give one with fewer");
            }
            int least = min * occurs(node, "minOccurs");
            int own = occurs(node, "maxOccurs");
            if (own == 0) {
                continue;
            }
            int most = max < 0 || own < 0 ? -1 : Math.max(max, own);
            Component here = at.of(node);
            switch (node.local) {
                case "element" -> element(here, least, most, optional, all);
                case "sequence", "all" -> particles(here, least, most, optional || least == 0, all, depth + 1);
                case "choice" -> particles(here, 0, most, true, all, depth + 1);
                case "group" -> {
                    if (node.name("ref") != null) {
                        Component group = schema.find("group", node.name("ref"), "a type");
                        particles(group, least, most, optional || least == 0, all, depth + 1);
                    }
                }
                case "complexContent" -> particles(here, min, max, optional, all, depth + 1);
                case "extension" -> {
                    if (isComplex(node.name("base"))) {
                        Component base = schema.find("type", node.name("base"), "a type");
                        particles(base, min, max, optional, all, depth + 1);
                    }
                    particles(here, min, max, optional, all, depth + 1);
                }
                case "restriction" -> particles(here, min, max, optional, all, depth + 1);
                case "any" -> wildcard = true;
                default -> {}
            }
        }
    }

    /** An element, or those that may stand in its place. */
    private void element(Component here, int min, int max, boolean optional, Map<Name, Particle> all) {
        Name name = schema.nameOf(here);
        Component declared = here.node().name("ref") == null ? here : schema.find("element", name, "a type");
        List<Name> others = here.node().name("ref") == null ? List.of() : schema.substitutesFor(name);
        if (others.isEmpty() || !"true".equals(declared.node().get("abstract"))) {
            add(new Particle(name, declared, min, max, optional || !others.isEmpty()), all);
        }
        for (Name other : others) {
            Component substitute = schema.find("element", other, "a type");
            if (!"true".equals(substitute.node().get("abstract"))) {
                add(new Particle(other, substitute, min, max, true), all);
            }
        }
    }

    private static void add(Particle particle, Map<Name, Particle> all) {
        all.merge(particle.name(), particle, Particle::or);
    }

    private static int occurs(Node node, String attribute) {
        String value = node.get(attribute);
        if (value == null) {
            return 1;
        }
        try {
            return value.strip().equals("unbounded") ? -1 : Math.min(1_000_000, Integer.parseInt(value.strip()));
        } catch (NumberFormatException e) {
            return 1;
        }
    }
}
