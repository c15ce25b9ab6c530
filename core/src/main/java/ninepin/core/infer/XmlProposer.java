package ninepin.core.infer;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;
import ninepin.core.infer.Proposal.Guess;
import ninepin.core.infer.Proposal.Sureness;
import ninepin.core.layout.Field;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Recognition;
import ninepin.core.layout.RecordType;
import ninepin.core.layout.Xml;
import ninepin.core.source.ByteSource;
import ninepin.core.source.XmlParsers;

/** An XML layout: record types are the elements that repeat, their fields what stands once in them. */
final class XmlProposer {

    private static final int MOST_VALUES = 2_000;

    /** An element of the tree, all its occurrences taken together. */
    private static final class Element {
        final Element parent;
        final String name;
        final Map<String, Element> children = new LinkedHashMap<>();
        final Map<String, List<String>> attributes = new LinkedHashMap<>();
        final List<String> texts = new ArrayList<>();
        final Map<String, Integer> inOneParent = new LinkedHashMap<>();
        int count;
        boolean repeats;

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

    private final List<ByteSource> samples;
    private final Map<String, String> prefixes = new LinkedHashMap<>();
    private final Element root = new Element(null, "");
    private final List<Guess> guesses = new ArrayList<>();

    XmlProposer(List<ByteSource> samples) {
        this.samples = samples;
    }

    static boolean looksLikeXml(byte[] bytes) {
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

    Proposal propose(String name, String title) throws IOException {
        guesses.add(new Guess("kind", "XML", Sureness.SURE, "It begins with an element."));
        for (ByteSource sample : samples) {
            root.inOneParent.clear();
            read(sample);
        }
        List<RecordType> types = new ArrayList<>();
        List<List<FieldGuess>> fields = new ArrayList<>();
        Element outer = root.children.values().stream().findFirst().orElseGet(() -> new Element(root, "record"));
        outer.children.values().forEach(c -> collect(c, null, types, fields));
        if (types.isEmpty()) {
            guesses.add(new Guess(
                    "record types",
                    outer.name,
                    Sureness.UNSURE,
                    "No element repeats; the outermost one is the record."));
            addType(outer, null, types, fields);
        } else {
            guesses.add(new Guess(
                    "record types",
                    String.join(", ", types.stream().map(RecordType::name).toList()),
                    Sureness.LIKELY,
                    "They are the elements that stand several times in one place."));
        }
        Map<String, String> namespaces = new LinkedHashMap<>();
        prefixes.forEach((uri, prefix) -> namespaces.put(prefix, uri));
        return Proposer.proposal(new Layout(name, title, new Xml(namespaces), types), guesses, fields);
    }

    private void read(ByteSource sample) throws IOException {
        byte[] bytes = sample.slice(0, (int) Math.min(sample.size(), Proposer.MOST_BYTES));
        Element at = root;
        StringBuilder text = new StringBuilder();
        try {
            XMLStreamReader reader = XmlParsers.of(new ByteArrayInputStream(bytes));
            while (reader.hasNext()) {
                int event = reader.next();
                if (event == XMLStreamConstants.START_ELEMENT) {
                    at = enter(at, reader);
                    text.setLength(0);
                } else if (event == XMLStreamConstants.END_ELEMENT) {
                    keep(at.texts, text.toString());
                    text.setLength(0);
                    at = at.parent;
                } else if (event == XMLStreamConstants.CHARACTERS || event == XMLStreamConstants.CDATA) {
                    text.append(reader.getText());
                }
            }
        } catch (XMLStreamException e) {
            if (Proposer.isWhole(sample)) {
                guesses.add(new Guess(
                        "well-formed",
                        "up to line " + Math.max(1, XmlParsers.line(e)),
                        Sureness.SURE,
                        "Behind it the sample cannot be read."));
            }
        }
    }

    private Element enter(Element parent, XMLStreamReader reader) {
        String name = named(reader.getPrefix(), reader.getNamespaceURI(), reader.getLocalName());
        Element element = parent.children.computeIfAbsent(name, n -> new Element(parent, n));
        element.count++;
        element.inOneParent.clear();
        element.repeats |= parent.inOneParent.merge(name, 1, Integer::sum) > 1;
        for (int i = 0; i < reader.getAttributeCount(); i++) {
            String attribute = named(
                    reader.getAttributePrefix(i), reader.getAttributeNamespace(i), reader.getAttributeLocalName(i));
            keep(element.attributes.computeIfAbsent(attribute, a -> new ArrayList<>()), reader.getAttributeValue(i));
        }
        return element;
    }

    private String named(String prefix, String uri, String local) {
        if (uri == null || uri.isEmpty()) {
            return local;
        }
        String known = prefixes.get(uri);
        if (known == null) {
            known = prefix == null || prefix.isEmpty() ? "n" : prefix;
            while (prefixes.containsValue(known)) {
                known += "n";
            }
            prefixes.put(uri, known);
        }
        return known + ":" + local;
    }

    private static void keep(List<String> values, String value) {
        if (values.size() < MOST_VALUES) {
            values.add(value);
        }
    }

    /** Makes a record type of each element that repeats; those inside others belong to them. */
    private void collect(Element element, String parent, List<RecordType> types, List<List<FieldGuess>> fields) {
        boolean plain = element.children.isEmpty() && element.attributes.isEmpty();
        String under = parent;
        if (element.repeats && !(plain && parent != null)) {
            under = addType(element, parent, types, fields);
        }
        for (Element child : element.children.values()) {
            collect(child, under, types, fields);
        }
    }

    private String addType(Element element, String parent, List<RecordType> types, List<List<FieldGuess>> fields) {
        String plain = element.name.substring(element.name.indexOf(':') + 1);
        String name = plain.replace('.', '-');
        int n = 2;
        while (isTaken(types, name)) {
            name = plain.replace('.', '-') + n++;
        }
        List<FieldGuess> guessed = new ArrayList<>();
        gather(element, "", guessed, new LinkedHashSet<>());
        if (guessed.isEmpty()) {
            TypeGuess type = TypeGuess.of(element.texts, 0);
            guessed.add(new FieldGuess(Field.atPath(".", "text", type.type()), type));
        }
        types.add(new RecordType(
                name,
                new Recognition.Path(element.path()),
                parent,
                null,
                null,
                List.of(guessed.get(0).field())));
        fields.add(guessed);
        return name;
    }

    private static boolean isTaken(List<RecordType> types, String name) {
        return types.stream().anyMatch(t -> t.name().equals(name));
    }

    private static void gather(Element element, String path, List<FieldGuess> fields, Set<String> names) {
        element.attributes.forEach(
                (attribute, values) -> add(path + "@" + attribute, attribute, values, fields, names));
        if (!path.isEmpty() && element.isText()) {
            String own = path.substring(0, path.length() - 1);
            add(own, element.name, element.texts, fields, names);
        } else if (path.isEmpty() && element.isText()) {
            add(".", element.name, element.texts, fields, names);
        }
        for (Element child : element.children.values()) {
            if (!child.repeats) {
                gather(child, path + child.name + "/", fields, names);
            }
        }
    }

    private static void add(String path, String name, List<String> values, List<FieldGuess> fields, Set<String> names) {
        String plain = name.substring(name.indexOf(':') + 1).replace('.', '-');
        String unique = plain;
        for (int n = 2; !names.add(unique); n++) {
            unique = plain + n;
        }
        TypeGuess type = TypeGuess.of(values, 0);
        fields.add(new FieldGuess(Field.atPath(path, unique, type.type()), type));
    }
}
