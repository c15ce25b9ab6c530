package ninepin.core.format.xml.proposer;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import javax.xml.XMLConstants;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;
import ninepin.core.bytes.ByteSource;
import ninepin.core.format.xml.parser.XmlParsers;
import ninepin.core.infer.DistinctNames;
import ninepin.core.infer.FieldGuess;
import ninepin.core.infer.Proposal;
import ninepin.core.infer.Proposal.Guess;
import ninepin.core.infer.Proposal.Sureness;
import ninepin.core.infer.Samples;
import ninepin.core.infer.TreeGuess;
import ninepin.core.infer.TypeGuess;
import ninepin.core.layout.Field;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Recognition;
import ninepin.core.layout.RecordType;
import ninepin.core.layout.Xml;

/**
 * An XML layout: record types are the elements that repeat, and the outermost where values stand in it; their fields are
 * what stands once in them.
 */
public final class XmlProposer {

    private static final int MOST_VALUES = 50_000;
    /** The most elements and attributes that are told apart. */
    private static final int MOST_ELEMENTS = 3_000;

    /** An element of the tree, all its occurrences taken together. */
    private static final class Element {
        final Element parent;
        final String name;
        final Map<String, Element> children = new LinkedHashMap<>();
        final Map<String, List<String>> attributes = new LinkedHashMap<>();
        final List<String> texts = new ArrayList<>();
        /** Text that stands between elements. */
        boolean mixed;

        final Map<String, Integer> inOneParent = new LinkedHashMap<>();
        int count;
        boolean repeats;
        /** Whether it is part of the tree. */
        boolean known = true;

        Element(Element parent, String name) {
            this.parent = parent;
            this.name = name;
        }

        String path() {
            return (parent.parent == null ? "" : parent.path()) + "/" + name;
        }

        boolean isText() {
            return children.isEmpty() && texts.stream().anyMatch(t -> !t.isBlank());
        }
    }

    /** An element that becomes a record type, and the one around it. */
    private record Found(Element of, Found parent) {}

    private final List<ByteSource> samples;
    private final Prefixes prefixes = new Prefixes();
    private final Element root = new Element(null, "");
    private final List<Guess> guesses = new ArrayList<>();
    private int elements;

    private XmlProposer(List<ByteSource> samples) {
        this.samples = samples;
    }

    /** A layout of XML files; empty where the first sample does not begin with an element. */
    public static Optional<Proposal> propose(Samples samples) throws IOException {
        return looksLikeXml(samples.first())
                ? Optional.of(new XmlProposer(samples.files()).propose(samples.name(), samples.title()))
                : Optional.empty();
    }

    private static boolean looksLikeXml(byte[] bytes) {
        int i = 0;
        while (i < Math.min(bytes.length, 64) && (bytes[i] & 0xff) != '<') {
            int c = bytes[i] & 0xff;
            if (c != ' ' && c != '\n' && c != '\r' && c != '\t' && c != 0 && c != 0xef && c != 0xbb && c != 0xbf
                    && c != 0xfe && c != 0xff) {
                return false;
            }
            i++;
        }
        return i < bytes.length && bytes[i] == '<';
    }

    private Proposal propose(String name, String title) throws IOException {
        guesses.add(new Guess("kind", "XML", Sureness.SURE, "It begins with an element."));
        for (ByteSource sample : samples) {
            root.inOneParent.clear();
            read(sample);
        }
        List<Found> found = new ArrayList<>();
        Element outer = root.children.values().stream().findFirst().orElseGet(() -> new Element(root, "record"));
        Found around = outermost(outer);
        if (around != null) {
            found.add(around);
        }
        outer.children.values().forEach(c -> collect(c, around, found));
        tellMixed(outer);
        if (elements > MOST_ELEMENTS) {
            guesses.add(new Guess(
                    "left out",
                    "elements and attributes behind the first " + MOST_ELEMENTS,
                    Sureness.SURE,
                    "So many different ones are told apart."));
        }
        boolean repeats = !found.isEmpty();
        if (!repeats) {
            found.add(new Found(outer, null));
        }
        List<String> names =
                DistinctNames.of(found.stream().map(f -> f.of.path()).toList());
        guesses.add(new Guess(
                "record types",
                String.join(", ", names),
                repeats ? Sureness.LIKELY : Sureness.UNSURE,
                !repeats
                        ? "No element repeats; the outermost one is the record."
                        : around == null
                                ? "They are the elements that stand several times in one place."
                                : "The outermost element, and those that stand several times in one place."));
        List<RecordType> types = new ArrayList<>();
        List<List<FieldGuess>> fields = new ArrayList<>();
        for (Found one : found) {
            List<FieldGuess> guessed = fields(one.of);
            fields.add(guessed);
            types.add(new RecordType(
                    names.get(types.size()),
                    new Recognition.Path(one.of.path()),
                    one.parent == null ? null : names.get(found.indexOf(one.parent)),
                    null,
                    null,
                    guessed.stream().map(FieldGuess::field).toList()));
        }
        return FieldGuess.proposal(new Layout(name, title, new Xml(prefixes.usedBy(types)), types), guesses, fields);
    }

    /** The outermost element as a record type, where values stand once around records; else null. */
    private Found outermost(Element outer) {
        Map<String, List<String>> around = new LinkedHashMap<>();
        gather(outer, "", around);
        if (around.isEmpty() || !repeatsInside(outer)) {
            return null;
        }
        boolean list = !samples.stream().allMatch(Samples::isWhole)
                || records(outer) > TreeGuess.MOST_OF_DOCUMENT * (long) samples.size();
        if (list) {
            guesses.add(TreeGuess.aroundList(around.keySet(), outer.path()));
            return null;
        }
        guesses.add(TreeGuess.oneDocument(outer.name));
        return new Found(outer, null);
    }

    private void read(ByteSource sample) throws IOException {
        byte[] bytes = Samples.start(sample);
        Element at = root;
        StringBuilder text = new StringBuilder();
        try {
            XMLStreamReader reader = XmlParsers.of(new ByteArrayInputStream(bytes));
            while (reader.hasNext()) {
                int event = reader.next();
                if (event == XMLStreamConstants.START_ELEMENT) {
                    at.mixed |= !text.toString().isBlank();
                    at = enter(at, reader);
                    text.setLength(0);
                } else if (event == XMLStreamConstants.END_ELEMENT) {
                    at.mixed |= !at.children.isEmpty() && !text.toString().isBlank();
                    keep(at.texts, text.toString());
                    text.setLength(0);
                    at = at.parent;
                } else if (event == XMLStreamConstants.DTD) {
                    guesses.add(new Guess(
                            "not read",
                            "a document type definition",
                            Sureness.SURE,
                            "Files with one are refused, for safety; ask the sender to leave it out."));
                } else if (event == XMLStreamConstants.CHARACTERS || event == XMLStreamConstants.CDATA) {
                    text.append(reader.getText());
                }
            }
        } catch (XMLStreamException e) {
            if (Samples.isWhole(sample)) {
                guesses.add(new Guess(
                        "well-formed",
                        "up to line " + Math.max(1, XmlParsers.line(e)),
                        Sureness.SURE,
                        "Behind it the sample cannot be read."));
            }
        }
    }

    private Element enter(Element parent, XMLStreamReader reader) {
        String name = prefixes.name(reader.getNamespaceURI(), reader.getLocalName(), reader.getPrefix());
        Element element = parent.children.get(name);
        if (element == null) {
            element = new Element(parent, name);
            // What is too much to be told apart is passed over, with all that stands in it.
            if (elements++ < MOST_ELEMENTS && parent.known) {
                parent.children.put(name, element);
            } else {
                element.known = false;
            }
        }
        element.count++;
        element.inOneParent.clear();
        element.repeats |= parent.inOneParent.merge(name, 1, Integer::sum) > 1;
        for (int i = 0; i < reader.getAttributeCount(); i++) {
            // Where a schema is to be found says nothing of the record.
            if (XMLConstants.W3C_XML_SCHEMA_INSTANCE_NS_URI.equals(reader.getAttributeNamespace(i))) {
                continue;
            }
            String attribute = prefixes.name(
                    reader.getAttributeNamespace(i), reader.getAttributeLocalName(i), reader.getAttributePrefix(i));
            if (element.attributes.containsKey(attribute) || elements++ < MOST_ELEMENTS) {
                keep(
                        element.attributes.computeIfAbsent(attribute, a -> new ArrayList<>()),
                        reader.getAttributeValue(i));
            }
        }
        return element;
    }

    private static void keep(List<String> values, String value) {
        if (values.size() < MOST_VALUES) {
            values.add(value);
        }
    }

    /** Makes a record type of each element that repeats; those inside others belong to them. */
    private static void collect(Element element, Found parent, List<Found> found) {
        Found under = parent;
        if (element.repeats) {
            under = new Found(element, parent);
            found.add(under);
        }
        for (Element child : element.children.values()) {
            collect(child, under, found);
        }
    }

    private static boolean repeatsInside(Element element) {
        return element.children.values().stream().anyMatch(c -> c.repeats || repeatsInside(c));
    }

    /** How many records stand in an element that have no other around them. */
    private static long records(Element element) {
        return element.children.values().stream()
                .mapToLong(c -> c.repeats ? c.count : records(c))
                .sum();
    }

    private void tellMixed(Element element) {
        if (element.mixed && !element.children.isEmpty()) {
            guesses.add(new Guess(
                    "left out",
                    "text between the elements of " + element.path(),
                    Sureness.SURE,
                    "A field with the path text() takes it."));
        }
        element.children.values().forEach(this::tellMixed);
    }

    private static List<FieldGuess> fields(Element element) {
        Map<String, List<String>> values = new LinkedHashMap<>();
        gather(element, "", values);
        if (values.isEmpty()) {
            values.put(".", element.texts);
        }
        // The text of its own element is known by the element's name.
        List<String> names = DistinctNames.of(values.keySet().stream()
                .map(p -> p.equals(".") ? element.name : p)
                .toList());
        List<FieldGuess> fields = new ArrayList<>();
        values.forEach((path, of) -> {
            TypeGuess type = TypeGuess.of(of, 0);
            fields.add(new FieldGuess(Field.atPath(path, names.get(fields.size()), type.type()), type));
        });
        return fields;
    }

    /** The values that stand once in an element, by the way to them. */
    private static void gather(Element element, String path, Map<String, List<String>> fields) {
        element.attributes.forEach((attribute, values) -> fields.put(path + "@" + attribute, values));
        if (element.isText()) {
            fields.put(path.isEmpty() ? "." : path.substring(0, path.length() - 1), element.texts);
        }
        for (Element child : element.children.values()) {
            if (!child.repeats) {
                gather(child, path + child.name + "/", fields);
            }
        }
    }
}
