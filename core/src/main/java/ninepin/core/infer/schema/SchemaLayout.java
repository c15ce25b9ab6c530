package ninepin.core.infer.schema;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import ninepin.core.infer.Proposal;
import ninepin.core.infer.Proposal.Guess;
import ninepin.core.infer.Proposal.Sureness;
import ninepin.core.infer.Stated;
import ninepin.core.infer.schema.SimpleTypes.Facets;
import ninepin.core.layout.DataType;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.Field;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Recognition;
import ninepin.core.layout.RecordType;
import ninepin.core.layout.SchemaDocument;
import ninepin.core.layout.Xml;
import ninepin.core.schema.Node;
import ninepin.core.schema.Node.Name;
import ninepin.core.schema.Schema;
import ninepin.core.schema.Schema.Component;

/**
 * Makes the layout of an XML file of its schema: elements that may repeat are record types, what stands once in them are
 * their fields, with types, occurrence, enumerations and patterns as checks.
 */
public final class SchemaLayout {

    private static final int DEEPEST = 16;
    /** The most places that are looked at; a schema that refers to itself has as many as one likes. */
    private static final int MOST_PLACES = 50_000;

    private static final int MOST_BASES = 64;

    /** A record type as it is put together. */
    private static final class Made {
        final String name;
        final String path;
        final String parent;
        final Integer min;
        final Integer max;
        final List<Stated> fields = new ArrayList<>();

        Made(String name, String path, String parent, Integer min, Integer max) {
            this.name = name;
            this.path = path;
            this.parent = parent;
            this.min = min;
            this.max = max;
        }
    }

    /** An element as it stands at a place: its name, its declaration, and how often it may occur there. */
    private record Particle(Name name, Component declaration, int min, int max, boolean optional) {

        boolean repeats() {
            return max != 1;
        }
    }

    private final Schema schema;
    private final SimpleTypes simple;
    private final Map<String, String> prefixes = new LinkedHashMap<>();
    private final List<Made> types = new ArrayList<>();
    private final List<Guess> guesses = new ArrayList<>();

    private final List<SchemaDocument> documents;
    private int places;

    private SchemaLayout(List<SchemaDocument> documents) {
        this.documents = documents;
        this.schema = new Schema(documents);
        this.simple = new SimpleTypes(schema);
    }

    /**
     * Makes a layout.
     *
     * @param documents the schema documents, those that are imported or included among them
     */
    public static Proposal propose(List<SchemaDocument> documents, String name, String title) {
        return new SchemaLayout(documents).make(name, title);
    }

    private Proposal make(String name, String title) {
        List<Name> roots = schema.elements().keySet().stream()
                .filter(e -> !schema.referredTo(e))
                .toList();
        if (schema.elements().isEmpty()) {
            throw new DefinitionException("xsd", "no element is declared at the outermost level");
        }
        Name root = roots.isEmpty() ? schema.elements().keySet().iterator().next() : roots.get(0);
        guesses.add(new Guess("kind", "XML", Sureness.SURE, "A schema describes it."));
        guesses.add(new Guess(
                "outermost element",
                root.local(),
                roots.size() == 1 ? Sureness.SURE : Sureness.UNSURE,
                roots.size() == 1
                        ? "It is the only one that no other refers to."
                        : "It could be one of "
                                + String.join(
                                        ", ", roots.stream().map(Name::local).toList()) + "."));
        Particle outer = new Particle(root, schema.elements().get(root), 1, 1, false);
        descend(outer, "", null, 0);
        if (types.isEmpty()) {
            guesses.add(new Guess(
                    "record types", root.local(), Sureness.UNSURE, "No element repeats; the outermost is the record."));
            addType(outer, "/" + prefixed(root), null, 0);
        } else {
            guesses.add(new Guess(
                    "record types",
                    String.join(", ", types.stream().map(t -> t.name).toList()),
                    Sureness.LIKELY,
                    "They are the elements that may repeat."));
        }
        guesses.add(new Guess(
                "validation",
                "against the schema",
                Sureness.SURE,
                "Each record is validated; take the schema away on the layout's page to check by the fields alone."));
        types.removeIf(t -> t.fields.isEmpty());
        List<RecordType> made = types.stream()
                .map(t -> new RecordType(
                        t.name,
                        new Recognition.Path(t.path),
                        types.stream().anyMatch(p -> p.name.equals(t.parent)) ? t.parent : null,
                        t.min,
                        t.max,
                        t.fields.stream().map(Stated::field).toList()))
                .toList();
        Map<String, String> namespaces = new LinkedHashMap<>();
        prefixes.forEach((uri, prefix) -> namespaces.put(prefix, uri));
        return Stated.proposal(
                new Layout(name, title, new Xml(namespaces, documents), made),
                guesses,
                types.stream().map(t -> t.fields).toList(),
                List.of());
    }

    private void look() {
        if (++places > MOST_PLACES) {
            throw new DefinitionException(
                    "xsd", "the schema describes more than " + MOST_PLACES + " places; give one with fewer");
        }
    }

    /** Looks for elements that may repeat, from the outside in. */
    private void descend(Particle at, String above, String parent, int depth) {
        look();
        if (depth > DEEPEST) {
            return;
        }
        String path = above + "/" + prefixed(at.name);
        if (at.repeats()) {
            addType(at, path, parent, depth);
            return;
        }
        for (Particle child : children(at.declaration, false)) {
            descend(child, path, parent, depth + 1);
        }
    }

    private void addType(Particle at, String path, String parent, int depth) {
        String stem = at.name.local().replace('.', '-');
        String name = stem;
        for (int n = 2; isTaken(name); n++) {
            name = stem + n;
        }
        Integer min = at.min > 0 && !at.optional ? at.min : null;
        Integer max = at.max < 0 ? null : at.max;
        Made made = new Made(name, path, parent, min, max == null || min == null || max >= min ? max : null);
        types.add(made);
        gather(made, at.declaration, "", path, true, depth);
    }

    private boolean isTaken(String name) {
        return types.stream().anyMatch(t -> t.name.equals(name));
    }

    /** Adds the fields that stand once in an element; elements that may repeat become record types of their own. */
    private void gather(Made made, Component element, String path, String whole, boolean required, int depth) {
        look();
        if (depth > DEEPEST) {
            guesses.add(new Guess("left out", whole, Sureness.SURE, "It goes deeper than a layout does."));
            return;
        }
        Component type = typeOf(element);
        boolean complex = type != null && type.node().is("complexType");
        if (complex) {
            attributes(made, type, path, required, depth);
        }
        Facets text = textOf(element, type, 0);
        if (text != null) {
            String own = path.isEmpty() ? "." : path.substring(0, path.length() - 1);
            add(made, own, element.node().get("name"), text, required);
        }
        if (!complex) {
            return;
        }
        for (Particle child : children(element, false)) {
            String below = path + prefixed(child.name) + "/";
            if (child.repeats()) {
                descend(child, whole, made.name, depth + 1);
            } else {
                boolean must = required && child.min > 0 && !child.optional;
                gather(made, child.declaration, below, whole + "/" + prefixed(child.name), must, depth + 1);
            }
        }
    }

    private void add(Made made, String path, String name, Facets facets, boolean required) {
        String stem = name == null ? "text" : name.replace('.', '-');
        String unique = stem;
        for (int n = 2; ; n++) {
            String candidate = unique;
            if (made.fields.stream().noneMatch(f -> f.field().name().equals(candidate))) {
                break;
            }
            unique = stem + n;
        }
        DataType type = SimpleTypes.type(facets);
        Field field = Field.atPath(path, unique, type).withChecks(SimpleTypes.checks(facets, required));
        boolean open =
                type instanceof DataType.CharacterVarying && facets.maxLength == null && facets.enumeration.isEmpty();
        made.fields.add(new Stated(field, open ? Sureness.LIKELY : Sureness.SURE, SimpleTypes.note(facets)));
    }

    private void attributes(Made made, Component complex, String path, boolean required, int depth) {
        look();
        for (Node node : complex.node().children) {
            switch (node.local) {
                case "attribute" -> attribute(made, complex.of(node), path, required);
                case "attributeGroup" -> {
                    if (node.name("ref") != null && depth <= DEEPEST) {
                        Component group = schema.find("attributeGroup", node.name("ref"), made.name);
                        attributes(made, group, path, required, depth + 1);
                    }
                }
                case "simpleContent", "complexContent", "extension", "restriction" -> {
                    if (node.is("extension") && depth <= DEEPEST && isComplex(node.name("base"))) {
                        attributes(made, schema.find("type", node.name("base"), made.name), path, required, depth + 1);
                    }
                    attributes(made, complex.of(node), path, required, depth + 1);
                }
                default -> {}
            }
        }
    }

    private void attribute(Made made, Component at, String path, boolean required) {
        Node node = at.node();
        if ("prohibited".equals(node.get("use"))) {
            return;
        }
        boolean must = required && "required".equals(node.get("use"));
        boolean referred = node.name("ref") != null;
        if (referred && node.name("ref").namespace().equals("http://www.w3.org/XML/1998/namespace")) {
            return;
        }
        Component declared = referred ? schema.find("attribute", node.name("ref"), made.name) : at;
        Node inner = declared.node().child("simpleType");
        Facets facets = inner != null
                ? simple.of(declared.of(inner))
                : simple.named(declared.node().name("type"), made.name);
        String local = declared.node().get("name");
        String name = referred ? prefixed(new Name(declared.target(), local)) : local;
        add(made, path + "@" + name, local, facets, must);
    }

    /** The type of an element: its own, the named one, or null for a built-in one. */
    private Component typeOf(Component element) {
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
    private Facets textOf(Component element, Component type, int depth) {
        if (depth > MOST_BASES) {
            throw new DefinitionException("xsd", "the type of " + element.node().get("name") + " is made of itself");
        }
        String from = String.valueOf(element.node().get("name"));
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

    /** The elements that may stand directly in one. */
    private List<Particle> children(Component element, boolean optional) {
        Component type = typeOf(element);
        List<Particle> all = new ArrayList<>();
        if (type != null && type.node().is("complexType")) {
            particles(type, 1, 1, optional, all, 0);
        }
        return all;
    }

    private void particles(Component at, int min, int max, boolean optional, List<Particle> all, int depth) {
        if (depth > DEEPEST) {
            return;
        }
        for (Node node : at.node().children) {
            look();
            int least = min * occurs(node, "minOccurs");
            int own = occurs(node, "maxOccurs");
            int most = max < 0 || own < 0 ? -1 : Math.max(max, own);
            Component here = at.of(node);
            switch (node.local) {
                case "element" -> all.add(particle(here, least, most, optional));
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
                case "any" ->
                    guesses.add(new Guess(
                            "left out", "any element", Sureness.SURE, "The schema does not say what stands there."));
                default -> {}
            }
        }
    }

    private Particle particle(Component here, int min, int max, boolean optional) {
        Name ref = here.node().name("ref");
        if (ref != null) {
            return new Particle(ref, schema.find("element", ref, "a type"), min, max, optional);
        }
        return new Particle(schema.nameOf(here), here, min, max, optional);
    }

    private static int occurs(Node node, String attribute) {
        String value = node.get(attribute);
        if (value == null) {
            return 1;
        }
        try {
            return value.equals("unbounded") ? -1 : Math.min(1_000_000, Integer.parseInt(value.strip()));
        } catch (NumberFormatException e) {
            return 1;
        }
    }

    private String prefixed(Name name) {
        if (name.namespace().isEmpty()) {
            return name.local();
        }
        String prefix = prefixes.computeIfAbsent(name.namespace(), uri -> {
            String own = schema.prefixOf(uri);
            String wanted = own == null || own.equals("xs") || own.equals("xsd") || own.equals("tns") ? "n" : own;
            String free = wanted;
            for (int n = 2; prefixes.containsValue(free); n++) {
                free = wanted + n;
            }
            return free;
        });
        return prefix + ":" + name.local();
    }
}
