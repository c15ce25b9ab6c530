package ninepin.core.format.xml;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import ninepin.core.layout.ElementPath;
import ninepin.core.layout.Field;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Recognition;
import ninepin.core.layout.RecordType;
import ninepin.core.layout.Xml;

/** The places of a layout in an XML file as a tree of element names, from the root on. */
final class XmlPlaces {

    /** What is wanted of an element: which field of which type. */
    record Wanted(int type, int field) {}

    /** An attribute that is wanted. */
    record Attribute(String namespace, String name, Wanted wanted) {}

    /** A place in the tree. */
    static final class Node {
        private final String namespace;
        private final String name;
        private final int position;
        private final List<Node> children = new ArrayList<>();

        /** The record type that begins here, or -1. */
        int type = -1;

        final List<Attribute> attributes = new ArrayList<>();
        /** Fields whose value is all the text inside. */
        final List<Wanted> texts = new ArrayList<>();
        /** Fields whose value is the text directly inside. */
        final List<Wanted> ownTexts = new ArrayList<>();

        private boolean counts;

        private Node(String namespace, String name, int position) {
            this.namespace = namespace.intern();
            this.name = name.intern();
            this.position = position;
        }

        /** Whether the repetitions of a child matter. */
        boolean countsChildren() {
            return counts;
        }

        /** Whether repetitions matter anywhere from here on. */
        boolean countsAnywhere() {
            return counts || children.stream().anyMatch(Node::countsAnywhere);
        }

        List<Node> children() {
            return children;
        }

        /** Whether it stands for elements of a name; names are interned here and by the parser. */
        @SuppressWarnings("StringEquality")
        boolean names(String otherNamespace, String otherName) {
            return name == otherName && namespace.equals(otherNamespace);
        }

        int position() {
            return position;
        }

        private Node child(ElementPath.Step step, Map<String, String> namespaces) {
            String uri = step.name().namespace(namespaces);
            for (Node child : children) {
                if (child.names(uri, step.name().local().intern()) && child.position == step.position()) {
                    return child;
                }
            }
            Node made = new Node(uri, step.name().local(), step.position());
            children.add(made);
            counts |= step.position() > 0;
            return made;
        }
    }

    private XmlPlaces() {}

    /** The tree of a layout; its root stands for the document. */
    static Node of(Layout layout) {
        Map<String, String> namespaces = ((Xml) layout.format()).namespaces();
        Node root = new Node("", "", 0);
        for (int t = 0; t < layout.recordTypes().size(); t++) {
            RecordType type = layout.recordTypes().get(t);
            String path = ((Recognition.Path) type.when()).path();
            Node record = descend(root, ElementPath.parse("when.path", path), namespaces);
            record.type = t;
            for (int f = 0; f < type.fields().size(); f++) {
                place(record, type.fields().get(f), new Wanted(t, f), namespaces);
            }
        }
        return root;
    }

    private static Node descend(Node from, ElementPath path, Map<String, String> namespaces) {
        Node node = from;
        for (ElementPath.Step step : path.steps()) {
            node = node.child(step, namespaces);
        }
        return node;
    }

    private static void place(Node record, Field field, Wanted wanted, Map<String, String> namespaces) {
        ElementPath path = ElementPath.of(field);
        Node node = descend(record, path, namespaces);
        if (path.leaf() == null) {
            node.texts.add(wanted);
        } else if (path.ofAttribute()) {
            node.attributes.add(
                    new Attribute(path.leaf().namespace(namespaces), path.leaf().local(), wanted));
        } else {
            node.ownTexts.add(wanted);
        }
    }
}
