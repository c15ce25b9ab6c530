package ninepin.core.write;

import com.ctc.wstx.stax.WstxOutputFactory;
import java.io.IOException;
import java.io.OutputStream;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
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
import org.codehaus.stax2.XMLStreamProperties;

/** Writes elements: those around a record are opened as they are needed, a record inside another stands behind its fields. */
final class XmlWriter implements RecordWriter {

    /** An element inside a record, with what stands in it. */
    private static final class Inner {
        final Map<Name, String> attributes = new LinkedHashMap<>();
        final Map<Step, Inner> children = new LinkedHashMap<>();
        String text;
    }

    private static final WstxOutputFactory FACTORY = factory();

    private final OutputStream out;
    private final XMLStreamWriter writer;
    private final Layout layout;
    private final Map<String, String> namespaces;
    private final List<Step> open = new ArrayList<>();
    /** For each open element whether a record was begun with it. */
    private final List<Integer> recordAt = new ArrayList<>();

    XmlWriter(OutputStream out, Layout layout) throws IOException {
        this.out = out;
        this.layout = layout;
        this.namespaces = ((Xml) layout.format()).namespaces();
        try {
            this.writer = FACTORY.createXMLStreamWriter(out, "UTF-8");
            writer.writeStartDocument("UTF-8", "1.0");
        } catch (XMLStreamException e) {
            throw new IOException(e);
        }
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
        List<Step> path =
                ElementPath.parse("path", ((Recognition.Path) of.when()).path()).steps();
        try {
            int shared = shared(path, type);
            closeTo(shared);
            for (int i = shared; i < path.size(); i++) {
                start(path.get(i).name());
                open.add(path.get(i));
                recordAt.add(-1);
            }
            recordAt.set(path.size() - 1, type);
            content(fields(of, values));
        } catch (XMLStreamException e) {
            throw new IOException(e);
        }
    }

    /** How many open elements go on: those of the path, up to a record that is open and no parent of this one. */
    private int shared(List<Step> path, int type) {
        int same = 0;
        while (same < open.size()
                && same < path.size() - 1
                && open.get(same).name().equals(path.get(same).name())
                && (recordAt.get(same) < 0 || isAbove(recordAt.get(same), type))) {
            same++;
        }
        return same;
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
            writer.writeEndElement();
            open.remove(open.size() - 1);
            recordAt.remove(recordAt.size() - 1);
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
            ElementPath path = ElementPath.parse("path", field.path());
            Inner at = root;
            for (Step step : path.steps()) {
                at = at.children.computeIfAbsent(new Step(step.name(), Math.max(1, step.position())), s -> new Inner());
            }
            String text = ValueFormat.text(field, values.get(f));
            if (path.ofAttribute()) {
                at.attributes.put(path.leaf(), text);
            } else {
                at.text = text;
            }
        }
        return root;
    }

    private void content(Inner inner) throws XMLStreamException {
        for (Map.Entry<Name, String> a : inner.attributes.entrySet()) {
            writer.writeAttribute(qualified(a.getKey()), a.getValue());
        }
        if (inner.text != null) {
            writer.writeCharacters(inner.text);
        }
        Map<Name, Integer> written = new LinkedHashMap<>();
        for (Map.Entry<Step, Inner> child : inner.children.entrySet()) {
            Name name = child.getKey().name();
            // Repetitions that are NULL still take their place.
            for (int n = written.getOrDefault(name, 0) + 1; n < child.getKey().position(); n++) {
                writer.writeEmptyElement(qualified(name));
            }
            written.put(name, child.getKey().position());
            writer.writeStartElement(qualified(name));
            content(child.getValue());
            writer.writeEndElement();
        }
    }

    @Override
    public void close() throws IOException {
        try (out) {
            if (open.isEmpty()) {
                List<Step> first = ElementPath.parse(
                                "path", ((Recognition.Path) layout.firstType().when()).path())
                        .steps();
                start(first.get(0).name());
                writer.writeEndElement();
            }
            closeTo(0);
            writer.writeEndDocument();
            writer.flush();
        } catch (XMLStreamException e) {
            throw new IOException(e);
        }
    }
}
