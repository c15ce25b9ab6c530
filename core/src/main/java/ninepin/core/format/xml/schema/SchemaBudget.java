package ninepin.core.format.xml.schema;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import ninepin.core.format.xml.schema.Node.Name;
import ninepin.core.format.xml.schema.PositionAutomaton.Part;
import ninepin.core.format.xml.schema.Schema.Component;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.SchemaDocument;
import ninepin.core.layout.Shown;

/**
 * Refuses schemas that would take a validator for ever. Each content model is read as the position automaton of a regular
 * expression (Glushkov 1961): it has to be of a reasonable size once groups and counted occurrences are written out, and
 * deterministic, as W3C XML Schema 1.0 (3.8.6, Unique Particle Attribution) demands; only then the automaton that a validator
 * makes of it is no larger than itself.
 */
final class SchemaBudget {

    /** The most elements of a content model, written out. */
    private static final int MOST_OF_TYPE = 3_000;
    /** The most of a schema. */
    private static final int MOST = 60_000;

    private static final int DEEPEST = 64;
    private static final Set<String> MODELS = Set.of("sequence", "choice", "all", "group");

    private final Schema schema;
    private int all;
    /** The names at the positions of the content model that is looked at; null for a wildcard. */
    private final List<Name> names = new ArrayList<>();

    private PositionAutomaton model;
    /** How many elements the model has, written out. */
    private long size;

    private String type;

    private SchemaBudget(Schema schema) {
        this.schema = schema;
    }

    /**
     * Looks at all content models.
     *
     * @throws DefinitionException where one takes too much or is not deterministic
     */
    static void check(List<SchemaDocument> documents) {
        Schema schema = new Schema(documents);
        SchemaBudget budget = new SchemaBudget(schema);
        schema.eachComplexType(budget::check);
        FacetPattern.Budget ofPatterns = new FacetPattern.Budget();
        schema.eachPattern(pattern -> checkPattern(pattern, ofPatterns));
    }

    private static void checkPattern(String pattern, FacetPattern.Budget budget) {
        try {
            if (FacetPattern.mayRunAway(pattern, budget)) {
                throw new DefinitionException(
                        "format.schema",
                        "the pattern " + Shown.visible(pattern)
                                + " reads some texts in two ways again and again, or is too large, so that a value may take for"
                                + " ever; write it without a repetition inside a repetition");
            }
        } catch (FacetPattern.Unread e) {
            // The validator says what is wrong with it.
        }
    }

    private void check(Component complexType) {
        names.clear();
        model = new PositionAutomaton();
        size = 0;
        String name = complexType.node().get("name");
        type = name == null ? "a type" : "the type " + name;
        determined(sequence(complexType, 1, 0).first());
        model.follows().forEach(this::determined);
    }

    /** The parts of a node in their order. */
    private Part sequence(Component of, long times, int depth) {
        Part made = Part.empty();
        for (Node child : of.node().children) {
            made = model.then(made, part(of.of(child), times, depth + 1));
        }
        return made;
    }

    private Part choice(Component of, long times, int depth) {
        Part made = null;
        for (Node child : of.node().children) {
            Part part = part(of.of(child), times, depth + 1);
            made = made == null ? part : made.or(part);
        }
        return made == null ? Part.empty() : made;
    }

    private Part part(Component at, long times, int depth) {
        if (depth > DEEPEST) {
            throw new DefinitionException(
                    "format.schema", type + " goes deeper than " + DEEPEST + " steps, or in a circle");
        }
        Node node = at.node();
        switch (node.local) {
            case "element", "any", "sequence", "choice", "all", "group" -> {
                int least = occurs(node, "minOccurs");
                int most = occurs(node, "maxOccurs");
                return most == 0 ? Part.empty() : repeated(once(at, times * Math.max(1, most), depth), least, most);
            }
            case "complexContent", "restriction" -> {
                return sequence(at, times, depth);
            }
            case "extension" -> {
                Component base = schema.known("type", node.name("base"));
                Part own = sequence(at, times, depth);
                return base == null ? own : model.then(sequence(base, times, depth), own);
            }
            default -> {
                return Part.empty();
            }
        }
    }

    private Part once(Component at, long times, int depth) {
        Node node = at.node();
        if (MODELS.contains(node.local)) {
            Component group = node.is("group") ? schema.known("group", node.name("ref")) : null;
            return switch (node.local) {
                case "sequence" -> sequence(at, times, depth);
                case "choice" -> choice(at, times, depth);
                case "all" -> repeated(choice(at, times, depth), 0, -1);
                default -> group == null ? Part.empty() : sequence(group, times, depth);
            };
        }
        size += times;
        all++;
        if (size > MOST_OF_TYPE || all > MOST) {
            throw new DefinitionException(
                    "format.schema",
                    type + " describes more elements than can be validated; written out, a type has at most "
                            + MOST_OF_TYPE + " and a schema " + MOST);
        }
        names.add(node.is("any") ? null : schema.nameOf(at));
        return model.position();
    }

    /** A part that occurs some times; a fixed number of times is told apart by counting. */
    private Part repeated(Part part, int least, int most) {
        if (most != least && most != 1) {
            model.loop(part);
        }
        return part.optionalToo(least == 0);
    }

    /** The occurrences of a particle; -1 for any number. */
    private static int occurs(Node node, String attribute) {
        String value = node.get(attribute);
        if (value == null) {
            return 1;
        }
        try {
            return value.strip().equals("unbounded") ? -1 : Math.max(0, Integer.parseInt(value.strip()));
        } catch (NumberFormatException e) {
            return Integer.MAX_VALUE;
        }
    }

    /** Two elements of one name that compete would have to be told apart by what comes behind them. */
    private void determined(BitSet competing) {
        Set<Name> seen = new HashSet<>();
        for (int p = competing.nextSetBit(0); p >= 0; p = competing.nextSetBit(p + 1)) {
            Name name = names.get(p);
            if (name != null && !seen.add(name)) {
                throw new DefinitionException(
                        "format.schema",
                        type + " is not deterministic: where " + name.local()
                                + " stands, it may be one of two declarations");
            }
        }
    }
}
