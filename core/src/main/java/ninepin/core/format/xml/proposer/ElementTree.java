package ninepin.core.format.xml.proposer;

import java.io.BufferedInputStream;
import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;
import ninepin.core.format.xml.parser.XmlParsers;

/**
 * The elements of an XML file by their paths, how often each occurs, and an example of what stands in it. Elements of
 * one path are one branch, however many there are.
 *
 * @param branches the branches, parents before what stands in them
 * @param namespaces the namespace of each prefix that the paths use
 * @param whole whether all of the file was looked at
 */
public record ElementTree(List<Branch> branches, Map<String, String> namespaces, boolean whole) {

    /**
     * An element or an attribute.
     *
     * @param path its path from the root; an attribute's ends with {@code @name}
     * @param depth how deep it stands, from 0
     * @param count how often it occurs
     * @param mostInOne the most that stand in one parent
     * @param example a text that stands in it, or null
     */
    public record Branch(String path, int depth, long count, long mostInOne, String example) {}

    private static final int MOST_BRANCHES = 2_000;
    private static final int MOST_EXAMPLE = 60;

    private static final class Node {
        final String path;
        final int depth;
        final Map<String, Node> below = new LinkedHashMap<>();
        long count;
        long mostInOne;
        long inOne;
        String example;

        Node(String path, int depth) {
            this.path = path;
            this.depth = depth;
        }
    }

    /**
     * Reads the tree of a file, as far as it is well-formed.
     *
     * @param bytes the file; not closed
     * @param prefixes the prefixes that a layout has for namespaces already
     * @param mostBytes as much of the file as is looked at
     */
    public static ElementTree of(InputStream bytes, Map<String, String> prefixes, long mostBytes) throws IOException {
        Prefixes byNamespace = new Prefixes();
        prefixes.forEach((prefix, namespace) -> byNamespace.put(namespace, prefix));
        Node root = new Node("", -1);
        List<Node> open = new ArrayList<>(List.of(root));
        int[] made = {0};
        boolean whole = false;
        StringBuilder text = new StringBuilder();
        try {
            XMLStreamReader reader = XmlParsers.of(new BufferedInputStream(new Start(bytes, mostBytes)));
            while (reader.hasNext() && reader.getLocation().getCharacterOffset() < mostBytes) {
                switch (reader.next()) {
                    case XMLStreamConstants.START_ELEMENT -> {
                        text.setLength(0);
                        open.add(enter(open.get(open.size() - 1), reader, byNamespace, made));
                    }
                    case XMLStreamConstants.END_ELEMENT -> {
                        example(open.remove(open.size() - 1), text);
                        text.setLength(0);
                    }
                    case XMLStreamConstants.CHARACTERS, XMLStreamConstants.CDATA -> {
                        if (text.length() < MOST_EXAMPLE) {
                            text.append(reader.getText());
                        }
                    }
                    default -> {
                        // Says nothing about elements.
                    }
                }
            }
            whole = !reader.hasNext();
        } catch (XMLStreamException e) {
            // What stands before the place that cannot be read is shown; the bench tells what is wrong there.
        }
        List<Branch> branches = new ArrayList<>();
        root.below.values().forEach(n -> list(n, branches));
        return new ElementTree(branches, new TreeMap<>(byNamespace.namespaces()), whole);
    }

    /** The start of a stream; it ends behind so many bytes. */
    private static final class Start extends FilterInputStream {
        private long left;

        Start(InputStream in, long most) {
            super(in);
            this.left = most;
        }

        @Override
        public int read() throws IOException {
            int b = left > 0 ? super.read() : -1;
            left -= b < 0 ? 0 : 1;
            return b;
        }

        @Override
        public int read(byte[] into, int from, int length) throws IOException {
            int n = left > 0 ? super.read(into, from, (int) Math.min(length, left)) : -1;
            left -= Math.max(0, n);
            return n;
        }
    }

    private static Node enter(Node parent, XMLStreamReader reader, Prefixes prefixes, int[] made) {
        String name = prefixes.name(reader.getNamespaceURI(), reader.getLocalName(), reader.getPrefix());
        Node node = below(parent, name, parent.path + "/" + name, made);
        count(node);
        node.below.values().forEach(n -> n.inOne = 0);
        for (int i = 0; i < reader.getAttributeCount(); i++) {
            String attribute = "@"
                    + prefixes.name(
                            reader.getAttributeNamespace(i),
                            reader.getAttributeLocalName(i),
                            reader.getAttributePrefix(i));
            Node a = below(node, attribute, node.path + "/" + attribute, made);
            count(a);
            example(a, reader.getAttributeValue(i));
        }
        return node;
    }

    /** A branch of a node; the node itself stands for those that are too many to be told apart. */
    private static Node below(Node parent, String name, String path, int[] made) {
        Node node = parent.below.get(name);
        if (node == null) {
            node = new Node(path, parent.depth + 1);
            if (made[0]++ < MOST_BRANCHES) {
                parent.below.put(name, node);
            }
        }
        return node;
    }

    private static void count(Node node) {
        node.count++;
        node.mostInOne = Math.max(node.mostInOne, ++node.inOne);
    }

    private static void example(Node node, CharSequence text) {
        if (node.example == null && !text.toString().isBlank()) {
            String plain = text.toString().strip();
            node.example = plain.substring(0, Math.min(MOST_EXAMPLE, plain.length()));
        }
    }

    private static void list(Node node, List<Branch> branches) {
        branches.add(new Branch(node.path, node.depth, node.count, node.mostInOne, node.example));
        node.below.values().forEach(n -> list(n, branches));
    }
}
