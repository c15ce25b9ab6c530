package ninepin.core.format.xml.proposer;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.PriorityQueue;
import java.util.Queue;
import java.util.Set;
import java.util.stream.Collectors;
import ninepin.core.format.xml.proposer.SchemaContent.Attribute;
import ninepin.core.format.xml.proposer.SchemaContent.Particle;
import ninepin.core.format.xml.proposer.SimpleTypes.Facets;
import ninepin.core.format.xml.schema.LeanSchema;
import ninepin.core.format.xml.schema.Node.Name;
import ninepin.core.format.xml.schema.Schema;
import ninepin.core.format.xml.schema.Schema.Component;
import ninepin.core.infer.DistinctNames;
import ninepin.core.infer.Proposal;
import ninepin.core.infer.Proposal.Guess;
import ninepin.core.infer.Proposal.Sureness;
import ninepin.core.infer.Stated;
import ninepin.core.infer.TreeGuess;
import ninepin.core.layout.DataType;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.Field;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Recognition;
import ninepin.core.layout.RecordType;
import ninepin.core.layout.SchemaDocument;
import ninepin.core.layout.Xml;

/**
 * Makes the layout of an XML file of its schema: the outermost element and those that may repeat are record types, what
 * stands once in them are their fields, with types, occurrence, enumerations and patterns as checks. Of a schema that
 * describes more than a layout has room for, what is nearest to the outermost element is taken, with what is required before
 * what is optional, and values before optional attributes.
 */
public final class SchemaLayout {

    /** The most fields and record types; what a document uses is less. */
    static final int MOST_FIELDS = 1_000;

    static final int MOST_TYPES = 150;
    /** The most elements that are looked at, those without a value of their own among them. */
    private static final int MOST_STEPS = 300_000;
    /** The most places that wait to be looked at. */
    private static final int MOST_OPEN = 20_000;

    private static final int DEEPEST = 64;

    // What is taken first of more than there is room for: what each document has, then what some have, level by level.
    private static final int COST_OF_REQUIRED = 1;
    private static final int COST_OF_OPTIONAL = 2;
    private static final int COST_OF_ATTRIBUTES = 4;

    /** The most places at which is asked whether a type may stand in itself once more. */
    private static final int MOST_CHOICES = 20;

    /** So many of the elements for which there was no room are named. */
    private static final int MOST_NAMED = 3;

    private static final int MOST_ROOTS = 300;

    private static final String OUTERMOST = "outermost element";
    static final String BEGINS_WITH = "begins with ";
    static final String LEFT_OUT = "left out";
    static final String ONCE_MORE = "once more at ";

    /** A value that stands at a place. */
    private record Found(String path, Facets facets, boolean required, String order) {}

    /** A record type as it is put together. */
    private static final class Made {
        final Made around;
        final Particle of;
        final Place place;
        final List<Found> fields = new ArrayList<>();

        Made(Made around, Particle of, Place place) {
            this.around = around;
            this.of = of;
            this.place = place;
        }

        /** The nearest record type around it that has values, or null. */
        Made parent() {
            Made at = around;
            while (at != null && at.fields.isEmpty()) {
                at = at.around;
            }
            return at;
        }

        Integer min() {
            return around != null && of.required() ? of.min() : null;
        }

        Integer max() {
            return around == null || of.max() < 0 || of.min() > of.max() ? null : of.max();
        }

        List<Stated> stated() {
            List<Found> inOrder =
                    fields.stream().sorted(Comparator.comparing(Found::order)).toList();
            // The text of its own element is known by the element's name.
            List<String> names = DistinctNames.of(inOrder.stream()
                    .map(f -> f.path.equals(".") ? of.name().local() : f.path)
                    .toList());
            List<Stated> stated = new ArrayList<>();
            for (int i = 0; i < names.size(); i++) {
                Found f = inOrder.get(i);
                DataType type = SimpleTypes.type(f.facets);
                boolean free = type instanceof DataType.CharacterVarying
                        && f.facets.maxLength == null
                        && f.facets.enumeration.isEmpty();
                Field field =
                        Field.atPath(f.path, names.get(i), type).withChecks(SimpleTypes.checks(f.facets, f.required));
                stated.add(new Stated(field, free ? Sureness.LIKELY : Sureness.SURE, SimpleTypes.note(f.facets)));
            }
            return stated;
        }
    }

    /**
     * A place of the document that is still to be looked at.
     *
     * @param element the declaration of its element
     * @param path the way to it from its record, ended with a slash where it is not empty
     * @param whole the way to it from the root
     * @param order its place in the document, to be compared with others
     * @param required whether each record has it
     * @param types the types on the way to it, its own left out
     */
    private record Place(
            Component element, String path, String whole, String order, boolean required, List<Component> types) {}

    /** What of a place is looked at: all but its optional attributes, or those. */
    private enum Part {
        VALUES,
        OPTIONAL_ATTRIBUTES
    }

    /**
     * A part of a place that waits to be looked at.
     *
     * @param cost how far from the centre of the document it is; the nearest is looked at first
     * @param number tells apart what is as near
     */
    private record Open(Made made, Place place, Part part, int cost, int number) {
        static final Comparator<Open> NEAREST =
                Comparator.comparingInt(Open::cost).thenComparingInt(Open::number);
    }

    private final Schema schema;
    private final SchemaContent content;
    private final List<SchemaDocument> documents;
    private final ElementTree sample;
    private final Set<String> used;
    private final Set<String> taken;
    private final Prefixes prefixes = new Prefixes();
    private final List<Made> types = new ArrayList<>();

    private final Queue<Open> open = new PriorityQueue<>(Open.NEAREST);
    private final List<Guess> guesses = new ArrayList<>();
    private final List<Proposal.Alternative> choices = new ArrayList<>();
    /** The first elements for which there was no room. */
    private final List<String> beyond = new ArrayList<>();

    private int fields;
    private int opened;
    private int steps;
    private int inThemselves;

    private SchemaLayout(List<SchemaDocument> documents, ElementTree sample, Set<String> taken) {
        this.documents = documents.stream().map(LeanSchema::of).toList();
        this.schema = new Schema(this.documents);
        this.content = new SchemaContent(schema);
        this.sample = sample;
        this.used = sample == null
                ? null
                : sample.branches().stream().map(ElementTree.Branch::path).collect(Collectors.toSet());
        if (sample != null) {
            sample.namespaces().forEach((prefix, uri) -> prefixes.put(uri, prefix));
        }
        this.taken = taken;
    }

    /** Makes a layout of all that a schema describes. */
    public static Proposal propose(List<SchemaDocument> documents, String name, String title) {
        return propose(documents, null, Set.of(), name, title);
    }

    /**
     * Makes a layout.
     *
     * @param documents the schema documents, those that are imported or included among them
     * @param sample the elements of a document, of which alone the layout is made; null for all that may stand in one
     * @param taken the choices that were made, of those that an earlier proposal gave
     */
    public static Proposal propose(
            List<SchemaDocument> documents, ElementTree sample, Set<String> taken, String name, String title) {
        return new SchemaLayout(documents, sample, taken).make(name, title);
    }

    private Proposal make(String name, String title) {
        if (schema.elements().isEmpty()) {
            throw new DefinitionException("xsd", "no element is declared at the outermost level");
        }
        guesses.add(new Guess("kind", "XML", Sureness.SURE, "A schema describes it."));
        Name root = root();
        Particle outer = new Particle(root, schema.elements().get(root), 1, 1, false);
        Place place = new Place(outer.declaration(), "", "/" + prefixed(root), "", true, List.of());
        Made outermost = addType(null, outer, place, 0);
        while (!open.isEmpty() && fields < MOST_FIELDS) {
            Open next = open.poll();
            if (next.part == Part.OPTIONAL_ATTRIBUTES) {
                takeAttributes(next.made, next.place, false);
            } else if (steps < MOST_STEPS) {
                look(next);
            } else {
                leaveOut(next.place.whole);
            }
        }
        tellLeftOut();
        if (isList(outermost)) {
            guesses.add(TreeGuess.aroundList(
                    outermost.fields.stream().map(Found::path).toList(), outermost.place.whole));
            outermost.fields.clear();
        }
        types.removeIf(t -> t.fields.isEmpty());
        if (types.isEmpty()) {
            throw new DefinitionException("xsd", "no element of " + root.local() + " has a value");
        }
        types.sort(Comparator.comparing(t -> t.place.order));
        List<String> names =
                DistinctNames.of(types.stream().map(t -> t.place.whole).toList());
        if (types.contains(outermost) && types.size() > 1) {
            guesses.add(TreeGuess.oneDocument(root.local()));
        }
        guesses.add(new Guess(
                "record types",
                String.join(", ", names),
                Sureness.LIKELY,
                "The outermost element, where values stand in it, and those that may repeat."));
        guesses.add(new Guess(
                "validation",
                "against the schema",
                Sureness.SURE,
                "Each record is validated; take the schema away on the layout's page to check by the fields alone."));
        List<List<Stated>> stated = types.stream().map(Made::stated).toList();
        List<RecordType> made = new ArrayList<>();
        for (int t = 0; t < types.size(); t++) {
            Made type = types.get(t);
            Made parent = type.parent();
            made.add(new RecordType(
                    names.get(t),
                    new Recognition.Path(type.place.whole),
                    parent == null ? null : names.get(types.indexOf(parent)),
                    type.min(),
                    type.max(),
                    stated.get(t).stream().map(Stated::field).toList()));
        }
        return Stated.proposal(
                new Layout(name, title, new Xml(prefixes.usedBy(made), documents), made), guesses, stated, choices);
    }

    /**
     * Whether a file is a list, and no document: many records of one kind, around which at most attributes stand. Of a
     * document that is at hand the records are counted.
     */
    private boolean isList(Made outermost) {
        List<Made> below = types.stream()
                .filter(t -> t.around == outermost && t.of.max() < 0)
                .toList();
        if (outermost.fields.isEmpty() || below.isEmpty()) {
            return false;
        }
        return sample == null
                ? below.size() == 1 && outermost.fields.stream().allMatch(f -> f.path.startsWith("@"))
                : sample.branches().stream()
                        .filter(b -> below.stream().anyMatch(t -> t.place.whole.equals(b.path())))
                        .anyMatch(b -> b.mostInOne() > TreeGuess.MOST_OF_DOCUMENT);
    }

    private Name root() {
        List<Name> roots = schema.elements().keySet().stream()
                .filter(e -> !schema.referredTo(e)
                        && !"true".equals(schema.elements().get(e).node().get("abstract")))
                .toList();
        if (used != null) {
            Name known = schema.elements().keySet().stream()
                    .filter(e -> used.contains("/" + prefixed(e)))
                    .findFirst()
                    .orElseThrow(() -> new DefinitionException(
                            "xsd", "it does not declare the outermost element of the document that was given with it"));
            guesses.add(new Guess(OUTERMOST, known.local(), Sureness.SURE, "The document has it."));
            return known;
        }
        List<Name> possible = roots.isEmpty() ? List.copyOf(schema.elements().keySet()) : roots;
        Name root = possible.stream()
                .filter(e -> taken.contains(BEGINS_WITH + e.local()))
                .findFirst()
                .orElse(possible.get(0));
        boolean one = possible.size() == 1;
        guesses.add(new Guess(
                OUTERMOST,
                root.local(),
                one ? Sureness.SURE : Sureness.UNSURE,
                one
                        ? "It is the only one that may begin a file."
                        : "It could be any of " + possible.size() + "; below is chosen which."));
        if (possible.size() > 1) {
            choices.add(new Proposal.Alternative(
                    OUTERMOST,
                    possible.stream()
                            .limit(MOST_ROOTS)
                            .map(e -> BEGINS_WITH + e.local())
                            .toList(),
                    BEGINS_WITH + root.local()));
        }
        return root;
    }

    /** Takes the values of a place, and opens those below it. */
    private void look(Open next) {
        Made made = next.made;
        Place at = next.place;
        takeAttributes(made, at, true);
        if (content.attributes(at.element).stream().anyMatch(a -> !a.required()) && open.size() < MOST_OPEN) {
            open.add(new Open(made, at, Part.OPTIONAL_ATTRIBUTES, next.cost + COST_OF_ATTRIBUTES, opened++));
        }
        Facets text = content.textOf(at.element);
        if (text != null) {
            String own = at.path.isEmpty() ? "." : at.path.substring(0, at.path.length() - 1);
            add(made, own, text, at.required, at.order + "!1");
        }
        Component type = content.typeOf(at.element);
        List<Component> onTheWay = type == null ? at.types : with(at.types, type);
        int n = 0;
        for (Particle child : content.children(at.element)) {
            steps++;
            String name = prefixed(child.name());
            String whole = at.whole + "/" + name;
            String order = at.order + String.format("/%04d", n++);
            if (!isUsed(whole) || standsInItself(child, whole, onTheWay)) {
                continue;
            }
            boolean full = child.repeats() && this.types.size() == MOST_TYPES;
            if (full || open.size() == MOST_OPEN || onTheWay.size() > DEEPEST) {
                leaveOut(whole);
                continue;
            }
            List<Component> types = taken.contains(ONCE_MORE + whole) ? List.of() : onTheWay;
            int cost = next.cost + (child.required() ? COST_OF_REQUIRED : COST_OF_OPTIONAL);
            if (child.repeats()) {
                addType(made, child, new Place(child.declaration(), "", whole, order, true, types), cost);
            } else {
                boolean required = at.required && child.required();
                Place below = new Place(child.declaration(), at.path + name + "/", whole, order, required, types);
                open.add(new Open(made, below, Part.VALUES, cost, opened++));
            }
        }
    }

    /** Takes the attributes of a place that are required, or those that are not. */
    private void takeAttributes(Made made, Place at, boolean required) {
        int n = 0;
        for (Attribute attribute : content.attributes(at.element)) {
            String name = "@" + prefixed(attribute.name());
            String order = at.order + String.format("!0%04d", n++);
            if (attribute.required() == required && isUsed(at.whole + "/" + name)) {
                add(made, at.path + name, attribute.facets(), at.required && required, order);
            }
        }
    }

    private void leaveOut(String whole) {
        if (beyond.size() < MOST_NAMED) {
            beyond.add(whole);
        }
    }

    private static List<Component> with(List<Component> types, Component type) {
        List<Component> all = new ArrayList<>(types);
        all.add(type);
        return all;
    }

    private boolean isUsed(String path) {
        return used == null || used.contains(path);
    }

    /** Whether the type of an element stands around it already; then it is left out, until somebody asks for it. */
    private boolean standsInItself(Particle child, String whole, List<Component> types) {
        Component type = content.typeOf(child.declaration());
        // What a document has is taken as deep as it goes.
        boolean around = used == null && type != null && types.stream().anyMatch(t -> t.node() == type.node());
        if (!around) {
            return false;
        }
        boolean asked = taken.contains(ONCE_MORE + whole);
        inThemselves += asked ? 0 : 1;
        if (choices.size() < MOST_CHOICES) {
            choices.add(new Proposal.Alternative(
                    whole, List.of(LEFT_OUT, ONCE_MORE + whole), asked ? ONCE_MORE + whole : LEFT_OUT));
        }
        return !asked;
    }

    private void tellLeftOut() {
        if (inThemselves > 0) {
            guesses.add(new Guess(
                    LEFT_OUT,
                    inThemselves == 1 ? "an element inside itself" : inThemselves + " elements inside themselves",
                    Sureness.UNSURE,
                    "They may stand in each other without end; below is chosen which to take once more."));
        }
        open.stream()
                .filter(o -> o.part == Part.VALUES)
                .sorted(Open.NEAREST)
                .limit(MOST_NAMED)
                .forEach(o -> leaveOut(o.place.whole));
        if (beyond.isEmpty() && !open.isEmpty()) {
            leaveOut("optional attributes of " + open.peek().place.whole);
        }
        if (!beyond.isEmpty()) {
            String first = String.join(", ", beyond);
            guesses.add(new Guess(
                    LEFT_OUT,
                    "what stands deeper, such as " + first,
                    Sureness.SURE,
                    "The schema describes more than the " + MOST_FIELDS + " fields and " + MOST_TYPES
                            + " record types of a layout. Give a document together with the schema, and only what it uses"
                            + " is taken."));
        }
        if (content.hasWildcard()) {
            guesses.add(
                    new Guess(LEFT_OUT, "any element", Sureness.SURE, "The schema does not say what stands there."));
        }
    }

    private Made addType(Made around, Particle of, Place place, int cost) {
        Made made = new Made(around, of, place);
        types.add(made);
        open.add(new Open(made, place, Part.VALUES, cost, opened++));
        return made;
    }

    private void add(Made made, String path, Facets facets, boolean required, String order) {
        made.fields.add(new Found(path, facets, required, order));
        fields++;
    }

    private String prefixed(Name name) {
        String own = schema.prefixOf(name.namespace());
        String wanted = own == null || own.equals("xs") || own.equals("xsd") || own.equals("tns") ? "n" : own;
        return prefixes.name(name.namespace(), name.local(), wanted);
    }
}
