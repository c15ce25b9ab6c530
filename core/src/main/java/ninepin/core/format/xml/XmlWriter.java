package ninepin.core.format.xml;

import com.ctc.wstx.stax.WstxOutputFactory;
import java.io.IOException;
import java.io.OutputStream;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamWriter;
import ninepin.core.layout.ElementPath;
import ninepin.core.layout.ElementPath.Name;
import ninepin.core.layout.ElementPath.Step;
import ninepin.core.layout.Field;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Recognition;
import ninepin.core.layout.RecordType;
import ninepin.core.layout.Xml;
import ninepin.core.record.RecordWriter;
import ninepin.core.record.WriteStyle;
import ninepin.core.value.UnwritableException;
import ninepin.core.value.ValueFormat;
import org.codehaus.stax2.XMLStreamProperties;

/** Writes elements: those around a record are opened as they are needed, a record inside another stands behind its fields. */
final class XmlWriter implements RecordWriter {

    /** An element inside a record, with what stands in it. */
    private static final class Inner {
        final Map<Name, String> attributes = new LinkedHashMap<>();
        final Map<Step, Inner> children = new LinkedHashMap<>();
        String text;
    }

    /** An element that is open. */
    private static final class Open {
        final Step step;
        /** The record type that was begun with it, or -1. */
        int record = -1;
        /** Whether it holds text, beside which nothing may be indented. */
        boolean text;
        /** Whether elements stand in it. */
        boolean elements;

        Open(Step step) {
            this.step = step;
        }
    }

    /** Lets bytes through, or not: what was written before is written again to no effect. */
    private static final class Gate extends OutputStream {
        private final OutputStream out;
        private boolean shut;

        Gate(OutputStream out) {
            this.out = out;
        }

        @Override
        public void write(int b) throws IOException {
            if (!shut) {
                out.write(b);
            }
        }

        @Override
        public void write(byte[] bytes, int from, int length) throws IOException {
            if (!shut) {
                out.write(bytes, from, length);
            }
        }

        @Override
        public void flush() throws IOException {
            out.flush();
        }
    }

    private static final WstxOutputFactory FACTORY = factory();
    private static final String INDENT = "  ";

    private final OutputStream out;
    private final Gate gate;
    private final XMLStreamWriter writer;
    private final Layout layout;
    private final boolean indented;
    private final Map<String, String> namespaces;
    private final List<Open> open = new ArrayList<>();
    /** The record type written last, or -1. */
    private int last = -1;

    XmlWriter(OutputStream out, Layout layout, WriteStyle style) throws IOException {
        this.out = out;
        this.gate = new Gate(out);
        this.layout = layout;
        this.indented = style.indented();
        this.namespaces = ((Xml) layout.format()).namespaces();
        try {
            this.writer = FACTORY.createXMLStreamWriter(gate, "UTF-8");
            writer.writeStartDocument("UTF-8", "1.0");
        } catch (XMLStreamException e) {
            throw new IOException(e);
        }
    }

    /**
     * Goes on inside the elements that are open: {@code type:record,record,…} with a point behind those with text, a plus behind
     * those with elements.
     */
    XmlWriter(OutputStream out, Layout layout, WriteStyle style, String state) throws IOException {
        this(out, layout, style);
        gate.shut = true;
        try {
            if (!state.isEmpty()) {
                int colon = state.indexOf(':');
                last = Integer.parseInt(state.substring(0, colon));
                String[] records = state.substring(colon + 1).split(",");
                List<Step> path = path(last);
                for (int i = 0; i < path.size(); i++) {
                    start(path.get(i).name());
                    Open element = new Open(path.get(i));
                    element.text = records[i].contains(".");
                    element.elements = records[i].contains("+");
                    element.record = Integer.parseInt(records[i].replaceAll("[.+]", ""));
                    open.add(element);
                }
                writer.writeCharacters("");
            }
            writer.flush();
        } catch (XMLStreamException e) {
            throw new IOException(e);
        }
        gate.shut = false;
    }

    @Override
    public String state() throws IOException {
        try {
            // Ends the tag that was written last, which may still get attributes.
            writer.writeCharacters("");
            writer.flush();
        } catch (XMLStreamException e) {
            throw new IOException(e);
        }
        return last < 0
                ? ""
                : last + ":"
                        + open.stream()
                                .map(o -> o.record + (o.text ? "." : "") + (o.elements ? "+" : ""))
                                .collect(Collectors.joining(","));
    }

    private List<Step> path(int type) {
        Recognition.Path when =
                (Recognition.Path) layout.recordTypes().get(type).when();
        return ElementPath.parse("path", when.path()).steps();
    }

    /** Names are written with the prefixes of the layout, which declares them all at the outermost element. */
    private static WstxOutputFactory factory() {
        WstxOutputFactory factory = new WstxOutputFactory();
        factory.setProperty(XMLStreamProperties.XSP_NAMESPACE_AWARE, false);
        return factory;
    }

    @Override
    public void write(int type, List<String> values) throws IOException {
        RecordType of = layout.recordTypes().get(type);
        List<Step> path = path(type);
        Inner record = fields(of, values);
        try {
            int shared = shared(path, type);
            closeTo(shared);
            for (int i = shared; i < path.size(); i++) {
                lineFor(open.size());
                start(path.get(i).name());
                if (i > 0) {
                    open.get(i - 1).elements = true;
                }
                open.add(new Open(path.get(i)));
            }
            Open element = open.get(path.size() - 1);
            element.record = type;
            element.text = record.text != null;
            element.elements = !record.children.isEmpty();
            last = type;
            content(record, path.size());
        } catch (XMLStreamException e) {
            throw new IOException(e);
        }
    }

    /** How many open elements go on: those of the path, up to a record that is open and no parent of this one. */
    private int shared(List<Step> path, int type) {
        int same = 0;
        while (same < open.size()
                && same < path.size() - 1
                && open.get(same).step.name().equals(path.get(same).name())
                && (open.get(same).record < 0 || isAbove(open.get(same).record, type))) {
            same++;
        }
        return same;
    }

    /** Begins a line for an element or its end, where none of those around it holds text. */
    private void lineFor(int depth) throws XMLStreamException {
        if (indented && open.stream().noneMatch(o -> o.text)) {
            writer.writeCharacters("\n" + INDENT.repeat(depth));
        }
    }

    private boolean isAbove(int outer, int type) {
        for (int t = layout.parentIndex(type); t >= 0; t = layout.parentIndex(t)) {
            if (t == outer) {
                return true;
            }
        }
        return false;
    }

    private void closeTo(int depth) throws XMLStreamException {
        while (open.size() > depth) {
            if (open.get(open.size() - 1).elements) {
                lineFor(open.size() - 1);
            }
            writer.writeEndElement();
            open.remove(open.size() - 1);
        }
    }

    private void start(Name name) throws XMLStreamException {
        writer.writeStartElement(qualified(name));
        if (open.isEmpty()) {
            for (Map.Entry<String, String> e : namespaces.entrySet()) {
                writer.writeAttribute("xmlns:" + e.getKey(), e.getValue());
            }
        }
    }

    private static String qualified(Name name) {
        return name.prefix().isEmpty() ? name.local() : name.prefix() + ":" + name.local();
    }

    private static Inner fields(RecordType of, List<String> values) {
        Inner root = new Inner();
        for (int f = 0; f < values.size(); f++) {
            Field field = of.fields().get(f);
            if (values.get(f) == null) {
                continue;
            }
            ElementPath path = ElementPath.of(field);
            Inner at = root;
            for (Step step : path.steps()) {
                at = at.children.computeIfAbsent(new Step(step.name(), Math.max(1, step.position())), s -> new Inner());
            }
            String text = writable(field, ValueFormat.text(field, values.get(f)));
            if (path.ofAttribute()) {
                at.attributes.put(path.leaf(), text);
            } else {
                at.text = text;
            }
        }
        return root;
    }

    /** XML has no place for most control characters, not even as references. */
    private static String writable(Field field, String text) {
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            boolean pair = Character.isHighSurrogate(c)
                    && i + 1 < text.length()
                    && Character.isLowSurrogate(text.charAt(i + 1));
            if (pair) {
                i++;
            } else if (c < ' ' && c != '\t' && c != '\n' && c != '\r'
                    || Character.isSurrogate(c)
                    || c == '\ufffe'
                    || c == '\uffff') {
                throw new UnwritableException(
                        field.name(), String.format("the character U+%04X cannot stand in XML", (int) c));
            }
        }
        return text;
    }

    private void content(Inner inner, int depth) throws XMLStreamException {
        for (Map.Entry<Name, String> a : inner.attributes.entrySet()) {
            writer.writeAttribute(qualified(a.getKey()), a.getValue());
        }
        if (inner.text != null) {
            writer.writeCharacters(inner.text);
        }
        boolean lines = inner.text == null;
        Map<Name, Integer> written = new LinkedHashMap<>();
        for (Map.Entry<Step, Inner> child : inner.children.entrySet()) {
            Name name = child.getKey().name();
            // Repetitions that are NULL still take their place.
            for (int n = written.getOrDefault(name, 0) + 1; n < child.getKey().position(); n++) {
                inLine(lines, depth);
                writer.writeEmptyElement(qualified(name));
            }
            written.put(name, child.getKey().position());
            inLine(lines, depth);
            writer.writeStartElement(qualified(name));
            content(child.getValue(), depth + 1);
            if (!child.getValue().children.isEmpty()) {
                inLine(lines && child.getValue().text == null, depth);
            }
            writer.writeEndElement();
        }
    }

    private void inLine(boolean lines, int depth) throws XMLStreamException {
        if (lines) {
            lineFor(depth);
        }
    }

    @Override
    public void close() throws IOException {
        try (out) {
            if (open.isEmpty()) {
                start(path(0).get(0).name());
                writer.writeEndElement();
            }
            closeTo(0);
            if (indented) {
                writer.writeCharacters("\n");
            }
            writer.writeEndDocument();
            writer.flush();
        } catch (XMLStreamException e) {
            throw new IOException(e);
        }
    }
}
