package ninepin.core.format.json;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.regex.Pattern;
import ninepin.core.layout.Field;
import ninepin.core.layout.JsonPath;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Place;
import ninepin.core.layout.Recognition;
import ninepin.core.layout.RecordType;

/** The places of a layout in a JSON document as a tree, from the document on. */
final class JsonPlaces {

    private static final Pattern PLAIN = Pattern.compile("[^\\x00-\\x1f\"\\\\]*");

    /** What is wanted of a value: which field of which type. */
    record Wanted(int type, int field) {}

    /** A place in the tree. */
    static final class Node {
        private final JsonPath.Step step;
        private final byte[] name;
        private final List<Node> children = new ArrayList<>();

        /** The record type whose records stand here, or -1. */
        int type = -1;

        final List<Wanted> values = new ArrayList<>();

        private final Node parent;
        private boolean members;
        private boolean elements;
        private long metIn = -1;
        private int next;
        /** Its name as it is written without escapes; null where it has none, or needs some. */
        final QuotedName quoted;

        private Node(JsonPath.Step step, Node parent) {
            this.step = step;
            this.parent = parent;
            this.name = step instanceof JsonPath.Member member ? member.name().getBytes(StandardCharsets.UTF_8) : null;
            boolean plain = step instanceof JsonPath.Member member
                    && PLAIN.matcher(member.name()).matches();
            this.quoted = plain ? new QuotedName(name) : null;
        }

        List<Node> children() {
            return children;
        }

        /** Whether it leads to members of an object. */
        boolean hasMembers() {
            return members;
        }

        /** Whether it leads to elements of an array. */
        boolean hasElements() {
            return elements;
        }

        /**
         * The place of a member, by its name in UTF-8; null where nothing is wanted of it. Members come in the same order in most
         * objects, so the one behind the last is looked at first.
         */
        Node member(byte[] bytes, int from, int to) {
            int count = children.size();
            for (int i = 0; i < count; i++) {
                int c = next + i < count ? next + i : next + i - count;
                Node child = children.get(c);
                if (child.names(bytes, from, to)) {
                    next = c + 1 < count ? c + 1 : 0;
                    return child;
                }
            }
            return null;
        }

        /** The child whose name comes next where members come as they did in the last object; null where that is not to be told. */
        Node expected() {
            Node child = next < children.size() ? children.get(next) : null;
            return child == null || child.quoted == null ? null : child;
        }

        /** Takes note that the expected child has come. */
        void hasCome() {
            next = next + 1 < children.size() ? next + 1 : 0;
        }

        private boolean names(byte[] bytes, int from, int to) {
            return name != null && Arrays.equals(name, 0, name.length, bytes, from, to);
        }

        /** Whether it is a member that leads nowhere further, with a name that needs no escapes. */
        boolean isPlainMember() {
            return quoted != null && children.isEmpty() && type < 0;
        }

        /** Whether it stands for an element of an array. */
        boolean isAt(int index) {
            return step instanceof JsonPath.Each || step instanceof JsonPath.At at && at.index() == index;
        }

        /**
         * Notes that its name stands in an object, by the number of that; true where it did before. Fields that are there twice
         * are told by their record.
         */
        boolean isTwiceIn(long object) {
            boolean twice = metIn == object && values.isEmpty();
            metIn = object;
            return twice;
        }

        /** The way here from the innermost record, as a part of a path; nothing where records stand here. */
        String pathInRecord() {
            return parent == null || type >= 0 ? "" : pathFromAround();
        }

        /** The way here from the innermost record around it, as a part of a path. */
        String pathFromAround() {
            return parent.pathInRecord() + new JsonPath(List.of(step)).text();
        }

        private Node child(JsonPath.Step of) {
            for (Node child : children) {
                if (child.step.equals(of)) {
                    return child;
                }
            }
            Node made = new Node(of, this);
            children.add(made);
            members |= made.name != null;
            elements |= made.name == null;
            return made;
        }
    }

    private JsonPlaces() {}

    /** The tree of a layout; its root stands for the document. */
    static Node of(Layout layout) {
        Node root = new Node(null, null);
        for (int t = 0; t < layout.recordTypes().size(); t++) {
            RecordType type = layout.recordTypes().get(t);
            Node record = descend(root, pathOf(type));
            record.type = t;
            for (int f = 0; f < type.fields().size(); f++) {
                descend(record, pathOf(type.fields().get(f))).values.add(new Wanted(t, f));
            }
        }
        return root;
    }

    /** Where the records of a type stand. */
    static JsonPath pathOf(RecordType type) {
        return JsonPath.ofRecord("when.path", ((Recognition.JsonPath) type.when()).path());
    }

    /** Where a field stands, from its record on. */
    static JsonPath pathOf(Field field) {
        return JsonPath.ofField("json", ((Place.JsonPath) field.place()).path());
    }

    private static Node descend(Node from, JsonPath path) {
        Node node = from;
        for (JsonPath.Step step : path.steps()) {
            node = node.child(step);
        }
        return node;
    }
}
