package ninepin.core.format.xml;

import com.ctc.wstx.exc.WstxLazyException;
import java.io.IOException;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Deque;
import java.util.List;
import javax.xml.stream.Location;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import ninepin.core.bytes.ByteSource;
import ninepin.core.format.xml.parser.XmlParsers;
import ninepin.core.format.xml.schema.SchemaValidation;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Xml;
import ninepin.core.record.Fault;
import ninepin.core.record.GatheredValues;
import ninepin.core.record.Position;
import ninepin.core.record.RawRecord;
import ninepin.core.record.RecordReader;
import org.codehaus.stax2.XMLStreamReader2;

/**
 * Reads records from XML, streamed. A top-level record and those inside it are handed out together, the outer one
 * first, when its element has ended; memory grows with that, up to {@link #MAX_TREE_BYTES}. To start behind a record the
 * file is parsed from its start on, because the meaning of an element hangs on those around it.
 */
final class XmlReader implements RecordReader {

    /** An open element: the places of the tree it stands for, and how often each child has been seen. */
    private static final class Frame {
        XmlPlaces.Node[] nodes = new XmlPlaces.Node[2];
        int[][] seen = new int[2][];
        int count;
        XmlRecord record;
        int captures;

        void reset() {
            count = 0;
            record = null;
            captures = 0;
        }

        void add(XmlPlaces.Node node) {
            if (count == nodes.length) {
                nodes = Arrays.copyOf(nodes, count * 2);
                seen = Arrays.copyOf(seen, count * 2);
            }
            nodes[count] = node;
            seen[count++] = node.countsChildren() ? new int[node.children().size()] : null;
        }
    }

    /** The text of a field that is being gathered. */
    private static final class Capture {
        XmlRecord record;
        int field;
        int depth;
        boolean own;
        char[] text = new char[64];
        int length;

        void append(char[] from, int start, int count) {
            if (length + count > text.length) {
                text = Arrays.copyOf(text, Math.max(text.length * 2, length + count));
            }
            System.arraycopy(from, start, text, length, count);
            length += count;
        }
    }

    private final ByteSource source;
    private final int[] fieldCounts;
    private final XmlText text;
    private final XMLStreamReader2 parser;
    private Frame[] frames = new Frame[0];
    private final List<Capture> captures = new ArrayList<>();
    private final XmlRecord[] open;
    private final List<XmlRecord> pool = new ArrayList<>();
    private final Deque<XmlRecord> ready = new ArrayDeque<>();
    private final long from;

    private int inDocument;
    private int depth;
    private int openCaptures;
    private int openRecords;
    private final SchemaValidation validation;
    /** Breaches found where no record is open; they are told with the next one. */
    private final List<String> betweenRecords = new ArrayList<>();

    private final GatheredValues values = new GatheredValues();
    private long documentStart;
    private long records;
    private long endOffset;
    private long endLine = 1;
    private boolean ended;
    private XmlRecord record = new XmlRecord();

    /** The depth at which every document has begun; 0 before the first. */
    private int documentDepth;

    /** Whether to end where a document stands in another element than the first. */
    private final boolean inOnePlace;

    /**
     * @param source the bytes, closed with the reader
     * @param start where to start: behind a top-level record, or the start of the file
     * @param inOnePlace whether to end where a document stands in another element than the first
     */
    XmlReader(ByteSource source, Layout layout, Position start, boolean inOnePlace) throws IOException {
        this.inOnePlace = inOnePlace;
        this.source = source;
        this.fieldCounts =
                layout.recordTypes().stream().mapToInt(t -> t.fields().size()).toArray();
        this.text = new XmlText(source);
        this.from = start.offset();
        this.records = start.records();
        this.endOffset = start.offset();
        this.endLine = start.line();
        this.open = new XmlRecord[layout.recordTypes().size()];
        Frame document = frame(0);
        document.reset();
        document.add(XmlPlaces.of(layout));
        this.validation = SchemaValidation.of(((Xml) layout.format()).schema());
        if (validation != null) {
            validation.begin();
        }
        XMLStreamReader2 made = null;
        try {
            made = XmlParsers.of(text);
        } catch (XMLStreamException e) {
            unreadable(e);
        }
        this.parser = made;
    }

    @Override
    public RawRecord record() {
        return record;
    }

    @Override
    public Position position() {
        return new Position(endOffset, endLine, records);
    }

    @Override
    public long offset() {
        return endOffset;
    }

    @Override
    public void close() throws IOException {
        try {
            if (parser != null) {
                parser.close();
            }
        } catch (XMLStreamException e) {
            throw asIo(e);
        }
    }

    @Override
    public Item next() throws IOException {
        if (ready.isEmpty() && !ended) {
            readDocument();
        }
        if (ready.isEmpty()) {
            record = new XmlRecord();
            record.begin(endOffset, endLine);
            record.move(text.bytes(), 0);
            return Item.END;
        }
        record = ready.poll();
        record.number(++records);
        return Item.RECORD;
    }

    /** Parses up to the end of the next top-level record, or of the file. */
    private void readDocument() throws IOException {
        inDocument = 0;
        values.clear();
        try {
            while (parser.hasNext() && !outOfPlace()) {
                int event = parser.next();
                text.told();
                switch (event) {
                    case XMLStreamConstants.START_ELEMENT -> {
                        start();
                        if (validation != null) {
                            validation.start(parser);
                            takeBreaches();
                        }
                    }
                    case XMLStreamConstants.END_ELEMENT -> {
                        if (validation != null) {
                            validation.end(parser);
                            takeBreaches();
                        }
                        if (end()) {
                            return;
                        }
                    }
                    case XMLStreamConstants.CHARACTERS, XMLStreamConstants.CDATA, XMLStreamConstants.SPACE -> {
                        if (!text()) {
                            broken(XmlFaults.tooLong());
                            return;
                        }
                        if (validation != null) {
                            validation.characters(parser);
                        }
                    }
                    case XMLStreamConstants.DTD -> {
                        broken(XmlFaults.definition());
                        return;
                    }
                    default -> {
                        // Comments and processing instructions say nothing about records.
                    }
                }
            }
            ended = true;
            if (!betweenRecords.isEmpty()) {
                broken(XmlFaults.breach(betweenRecords.get(0)));
            }
            endOffset = source.size();
            endLine = parser.getLocation().getLineNumber();
        } catch (XMLStreamException e) {
            unreadable(e);
        } catch (WstxLazyException e) {
            unreadable((XMLStreamException) e.getCause());
        }
    }

    private boolean outOfPlace() {
        return inOnePlace && (documentDepth < 0 || depth + 1 < documentDepth);
    }

    /** Keeps what was breached with the innermost record that is open. */
    private void takeBreaches() {
        List<String> found = validation.breaches();
        if (found.isEmpty() && betweenRecords.isEmpty()) {
            return;
        }
        XmlRecord r = null;
        for (int d = depth; d >= 0 && r == null; d--) {
            r = frames[d].record;
        }
        if (r == null) {
            betweenRecords.addAll(found);
            return;
        }
        for (String message : betweenRecords) {
            r.addBreach(message, 0);
        }
        for (String message : found) {
            r.addBreach(message, startingChar());
        }
        betweenRecords.clear();
    }

    /** Ends the file where it cannot be read on; trouble with the disk is thrown, since a restart may mend it. */
    private void unreadable(XMLStreamException e) throws IOException {
        IOException io = asIo(e);
        if (io instanceof XmlText.Unreadable misfit) {
            broken(misfit.fault);
        } else if (e.getNestedException() instanceof IOException) {
            throw io;
        } else {
            broken(XmlFaults.malformed(e));
        }
    }

    private static IOException asIo(XMLStreamException e) {
        for (Throwable cause = e; cause != null; cause = cause.getCause()) {
            if (cause instanceof IOException io) {
                return io;
            }
        }
        return new IOException(e.getMessage(), e);
    }

    /** Ends the file with a record that carries a fault, in place of the one that could not be read whole. */
    private void broken(Fault fault) {
        ready.clear();
        ended = true;
        XmlRecord r = new XmlRecord();
        boolean placed = parser != null && parser.getLocation() != null;
        r.begin(endOffset, placed ? Math.max(1, parser.getLocation().getLineNumber()) : 1);
        r.move(new byte[0], 0);
        r.fault(fault);
        ready.add(r);
    }

    private Frame frame(int at) {
        if (at >= frames.length) {
            int held = frames.length;
            frames = Arrays.copyOf(frames, at + 16);
            Arrays.setAll(frames, i -> i < held ? frames[i] : new Frame());
        }
        return frames[at];
    }

    private void start() throws XMLStreamException {
        Frame parent = frames[depth];
        Frame frame = frame(++depth);
        frame.reset();
        if (openRecords == 0) {
            text.keep(startOfEvent());
        }
        if (parent.count == 0) {
            return;
        }
        String name = parser.getLocalName();
        String uri = parser.getNamespaceURI();
        String namespace = uri == null ? "" : uri;
        for (int n = 0; n < parent.count; n++) {
            List<XmlPlaces.Node> children = parent.nodes[n].children();
            for (int c = 0; c < children.size(); c++) {
                XmlPlaces.Node child = children.get(c);
                if (child.names(namespace, name)
                        && (child.position() == 0 || child.position() == ++parent.seen[n][c])) {
                    frame.add(child);
                }
            }
        }
        for (int n = 0; n < frame.count; n++) {
            XmlPlaces.Node node = frame.nodes[n];
            if (node.type >= 0) {
                begin(frame, node.type);
            }
            for (int i = 0; i < node.attributes.size(); i++) {
                takeAttribute(node.attributes.get(i));
            }
            for (int i = 0; i < node.texts.size(); i++) {
                capture(frame, node.texts.get(i), false);
            }
            for (int i = 0; i < node.ownTexts.size(); i++) {
                capture(frame, node.ownTexts.get(i), true);
            }
        }
    }

    private void begin(Frame frame, int type) {
        long offset = startOfEvent();
        if (openRecords++ == 0) {
            documentStart = offset;
            documentDepth = documentDepth == 0 || documentDepth == depth ? depth : -1;
        }
        XmlRecord r = inDocument < pool.size() ? pool.get(inDocument) : new XmlRecord();
        if (inDocument == pool.size()) {
            pool.add(r);
        }
        inDocument++;
        Location location = parser.getLocation();
        int before = Math.max(0, location.getColumnNumber() - 1);
        r.begin(type, fieldCounts[type], offset, location.getLineNumber(), startingChar(), before);
        r.encoded(text.charset(), text.bytesPerChar());
        frame.record = r;
        open[type] = r;
    }

    private void takeAttribute(XmlPlaces.Attribute a) {
        XmlRecord r = open[a.wanted().type()];
        if (r == null || r.has(a.wanted().field())) {
            return;
        }
        int i = parser.getAttributeCount() == 0 ? -1 : parser.getAttributeIndex(a.namespace(), a.name());
        if (i >= 0) {
            int field = a.wanted().field();
            values.put(r, field, parser.getAttributeValue(i));
            r.inAttribute(field, startingChar(), i);
        }
    }

    private long startOfEvent() {
        return text.byteOf(startingChar());
    }

    private long startingChar() {
        return parser.getLocationInfo().getStartingCharOffset();
    }

    private void capture(Frame frame, XmlPlaces.Wanted wanted, boolean own) {
        XmlRecord r = open[wanted.type()];
        if (r == null) {
            return;
        }
        if (r.met(wanted.field())) {
            r.addRepeated(wanted.field());
            return;
        }
        if (openCaptures == captures.size()) {
            captures.add(new Capture());
        }
        Capture capture = captures.get(openCaptures++);
        capture.record = r;
        capture.field = wanted.field();
        capture.depth = depth;
        capture.own = own;
        capture.length = 0;
        r.meet(wanted.field());
        frame.captures++;
    }

    /** Takes a text; false where a field would have more than it may. */
    private boolean text() throws XMLStreamException {
        if (openRecords == 0) {
            text.keep(startOfEvent());
        }
        for (int i = 0; i < openCaptures; i++) {
            Capture capture = captures.get(i);
            if (!capture.own || capture.depth == depth) {
                if (capture.length + parser.getTextLength() > RecordReader.MAX_RECORD_BYTES) {
                    return false;
                }
                capture.append(parser.getTextCharacters(), parser.getTextStart(), parser.getTextLength());
                capture.record.textAt(capture.field, startingChar());
            }
        }
        return true;
    }

    /** Ends an element; true when that was the last of a top-level record that is to be handed out. */
    private boolean end() throws XMLStreamException {
        Frame frame = frames[depth--];
        if (frame.captures == 0 && frame.record == null) {
            return false;
        }
        long start = startingChar();
        for (int i = 0; i < frame.captures; i++) {
            Capture capture = captures.get(--openCaptures);
            capture.record.endAt(capture.field, start);
            values.put(capture.record, capture.field, capture.text, capture.length);
        }
        if (frame.record == null) {
            return false;
        }
        XmlRecord r = frame.record;
        long end = text.byteOf(parser.getLocationInfo().getEndingCharOffset());
        r.fullLength(end - r.offset());
        open[r.type()] = null;
        openRecords--;
        if (r.offset() != documentStart) {
            return false;
        }
        endOffset = end;
        endLine = parser.getLocation().getLineNumber();
        if (documentStart < from) {
            inDocument = 0;
            values.clear();
            return false;
        }
        handOut();
        return true;
    }

    private void handOut() {
        for (int i = 0; i < inDocument; i++) {
            XmlRecord r = pool.get(i);
            r.hold(text.bytes(), text.indexOf(r.offset()), (int) r.fullLength());
            r.values(values.bytes());
            ready.add(r);
        }
    }
}
