package ninepin.core.format.json;

import java.io.IOException;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Deque;
import java.util.List;
import ninepin.core.bytes.ByteSource;
import ninepin.core.format.json.JsonInput.Broken;
import ninepin.core.format.lines.LineReader;
import ninepin.core.layout.BlankRows;
import ninepin.core.layout.Json;
import ninepin.core.layout.Layout;
import ninepin.core.record.Fault;
import ninepin.core.record.GatheredValues;
import ninepin.core.record.Position;
import ninepin.core.record.RawRecord;

/**
 * Reads records from JSON, streamed. A top-level record and those inside it are handed out together, the outer one first; memory
 * grows with that, up to {@link #MAX_TREE_BYTES}. In JSON Lines that is a line, and one that cannot be read keeps none of the others
 * from being read. To start behind a record of a whole document, it is read from its start on.
 */
final class JsonReader implements LineReader {

    /** An object or array that is open around records. */
    private static final class Frame {
        final boolean array;
        /** Its places in the tree: a range of those that are active. */
        final int first;

        final int last;
        /** Where it is an object: which one. */
        final long number;

        boolean begun;
        int index = -1;

        Frame(boolean array, int first, int last, long number) {
            this.array = array;
            this.first = first;
            this.last = last;
            this.number = number;
        }
    }

    private final Layout layout;
    private final Json format;
    private final JsonInput in;
    private final JsonRecord[] open;
    private final List<JsonRecord> pool = new ArrayList<>();
    private final Deque<JsonRecord> ready = new ArrayDeque<>();
    private final GatheredValues values = new GatheredValues();
    private final Deque<Frame> frames = new ArrayDeque<>();
    private final long from;

    /** The places of the tree that stand for the values which are open, a range for each. */
    private JsonPlaces.Node[] active = new JsonPlaces.Node[16];

    private int top = 1;
    /** Which element is taken of each array that is open. */
    private final int[] arrays = new int[JsonFaults.MOST_DEPTH + 2];

    private int openArrays;
    private int openRecords;
    /** How many objects were begun; the number of an object among them is told to the places in it. */
    private long objects;

    private int inDocument;
    private boolean started;
    private boolean ended;
    private boolean blank;
    private long records;
    private long endOffset;
    private long endLine;
    private JsonRecord record = new JsonRecord();
    private final FlatLine flat;

    /**
     * @param source the bytes, closed with the reader
     * @param start where to start: behind a top-level record, or the start of the file
     */
    JsonReader(ByteSource source, Layout layout, Position start) {
        this.layout = layout;
        this.format = (Json) layout.format();
        Position first = format.lines() ? start : Position.START;
        int most = format.lines() ? MAX_RECORD_BYTES : MAX_TREE_BYTES;
        this.in = new JsonInput(source, first.offset(), first.line(), most, format.trailingCommas());
        this.active[0] = JsonPlaces.of(layout);
        this.flat = format.lines() ? FlatLine.of(active[0]) : null;
        this.open = new JsonRecord[layout.recordTypes().size()];
        this.from = start.offset();
        this.records = start.records();
        this.endOffset = start.offset();
        this.endLine = start.line();
        this.started = format.lines() && start.offset() > 0;
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
    public void close() {
        // The source is borrowed.
    }

    @Override
    public void passLine() throws IOException {
        try {
            in.endWithLine();
            in.passLine();
        } catch (Broken e) {
            // A line too long to hold; where it ends is found when it is read.
        }
        started = true;
        endOffset = in.offset();
        endLine = in.line();
    }

    @Override
    public Item next() throws IOException {
        blank = false;
        if (ready.isEmpty() && !ended) {
            read();
        }
        if (blank) {
            return Item.BLANK;
        }
        if (ready.isEmpty()) {
            record = new JsonRecord();
            record.beginBroken(endOffset, endLine, 0);
            record.move(in.bytes(), 0);
            return Item.END;
        }
        record = ready.poll();
        record.number(++records);
        return Item.RECORD;
    }

    private void read() throws IOException {
        inDocument = 0;
        values.clear();
        try {
            if (format.lines()) {
                readLine();
            } else {
                readOn();
            }
        } catch (Broken e) {
            broken(e.fault.halting());
            ended = true;
        }
    }

    /** Hands out a record that carries a fault, in place of the one that could not be read whole. */
    private void broken(Fault fault) {
        ready.clear();
        JsonRecord r = new JsonRecord();
        in.hold(r, fault);
        ready.add(r);
    }

    private void readLine() throws IOException, Broken {
        if (!started) {
            in.passMark();
            started = true;
        }
        boolean last = false;
        if (!takesFlat()) {
            in.endWithLine();
            last = in.isLastLine();
            readLine(in.offset(), in.line(), last);
        }
        in.passLine();
        endOffset = in.offset();
        endLine = in.line();
        ended |= last;
    }

    private void readLine(long offset, long line, boolean last) throws IOException {
        try {
            in.passBlanks();
            if (in.peek() == -1 && in.place() == in.lineLength()) {
                nothing(offset, line, last);
            } else {
                walk(0, 1, 0);
                in.takeEnd();
                handOut(values.bytes());
            }
        } catch (Broken e) {
            brokenLine(e.fault);
        }
    }

    /** Takes the line the short way, where it is one object of plain members. */
    private boolean takesFlat() {
        if (flat == null) {
            return false;
        }
        in.keepFromHere();
        int type = active[0].type;
        begin(type);
        open[type] = null;
        openRecords--;
        int end = flat.take(pool.get(0), in.bytes(), in.index(0), in.held());
        if (end != FlatLine.UNUSUAL && in.endsLineAt(end)) {
            handOut(in.bytes());
            return true;
        }
        inDocument = 0;
        return false;
    }

    private void nothing(long offset, long line, boolean last) {
        if (last) {
            return;
        }
        record = new JsonRecord();
        record.beginBroken(offset, line, 0);
        record.hold(in.bytes(), in.index(0), in.lineLength());
        record.number(0);
        if (format.blankRows() == BlankRows.REJECT) {
            record.fault(JsonFaults.blankLine());
            ready.add(record);
        } else {
            blank = true;
        }
    }

    /** Only this line cannot be read. */
    private void brokenLine(Fault fault) {
        openRecords = 0;
        openArrays = 0;
        top = 1;
        Arrays.fill(open, null);
        JsonRecord r = new JsonRecord();
        r.beginBroken(in.offset() - in.place(), in.line(), 0);
        r.hold(in.bytes(), in.index(0), in.lineLength());
        r.fault(fault);
        ready.clear();
        ready.add(r);
    }

    /** Reads up to the end of the next top-level record, or of the file. */
    private void readOn() throws IOException, Broken {
        if (!started) {
            started = true;
            in.passMark();
            in.passBlanks();
            if (value(0, 1)) {
                return;
            }
        }
        while (!frames.isEmpty()) {
            Frame frame = frames.peek();
            char closing = frame.array ? ']' : '}';
            in.keepFromHere();
            in.passBlanks();
            boolean more = frame.begun ? in.goesOn(closing) : !in.takes(closing);
            frame.begun = true;
            in.keepFromHere();
            top = frame.last;
            if (!more) {
                leave(frame);
            } else if (frame.array ? element(frame) : member(frame)) {
                return;
            }
        }
        in.keepFromHere();
        in.takeEnd();
        ended = true;
        endOffset = in.offset();
        endLine = in.line();
    }

    private void leave(Frame frame) {
        frames.pop();
        openArrays -= frame.array ? 1 : 0;
        top = frame.first;
    }

    private boolean element(Frame frame) throws IOException, Broken {
        arrays[openArrays - 1] = ++frame.index;
        int first = top;
        activateElements(frame.first, frame.last, frame.index);
        return value(first, top);
    }

    private boolean member(Frame frame) throws IOException, Broken {
        int first = top;
        takeName(frame.first, frame.last, frame.number);
        in.takeColon();
        in.keepFromHere();
        return value(first, top);
    }

    /** Takes a value that no record is open around; true where that was a record. */
    private boolean value(int first, int last) throws IOException, Broken {
        boolean begins = false;
        boolean leads = false;
        for (int n = first; n < last; n++) {
            begins |= active[n].type >= 0;
            leads |= !active[n].children().isEmpty();
        }
        int kind = in.peek();
        Fault other = begins ? null : otherKind(first, last, kind);
        if (other != null) {
            JsonRecord r = new JsonRecord();
            boolean before = in.offset() < from;
            in.hold(r, other);
            // What stands in it is no record; it only has to be JSON.
            walk(first, first, frames.size());
            if (!before) {
                ready.add(r);
            }
            endOffset = in.offset();
            endLine = in.line();
            return !before;
        }
        if (!begins && leads && (kind == '{' || kind == '[')) {
            if (frames.size() >= JsonFaults.MOST_DEPTH) {
                throw new Broken(JsonFaults.tooDeep(in.place()));
            }
            in.takes((char) kind);
            frames.push(new Frame(kind == '[', first, last, objects++));
            openArrays += kind == '[' ? 1 : 0;
            return false;
        }
        long offset = in.offset();
        walk(first, last, frames.size());
        if (!begins) {
            return false;
        }
        endOffset = in.offset();
        endLine = in.line();
        if (offset < from) {
            inDocument = 0;
            values.clear();
            return false;
        }
        handOut(values.bytes());
        return true;
    }

    /** What is wrong with a value where the places that it stands for lead into another kind of value; else null. */
    private Fault otherKind(int first, int last, int kind) {
        if (last - first == 1 && active[first].children().isEmpty()) {
            return null;
        }
        boolean object = false;
        boolean array = false;
        boolean record = false;
        for (int n = first; n < last; n++) {
            object |= active[n].hasMembers();
            array |= active[n].hasElements();
            record |= active[n].type >= 0;
        }
        boolean fits = object && kind == '{' || array && kind == '[' || !object && !array || kind == 'n' && !record;
        return fits ? null : JsonFaults.otherKind(in.place(), kind, object);
    }

    /** Makes the records of the document ready, with the bytes that hold their values. */
    private void handOut(byte[] held) {
        for (int i = 0; i < inDocument; i++) {
            JsonRecord r = pool.get(i);
            r.hold(in.bytes(), in.index(r.place), r.end - r.place);
            r.values(held);
            r.finish();
            ready.add(r);
        }
    }

    private void activate(JsonPlaces.Node node) {
        if (top == active.length) {
            active = Arrays.copyOf(active, top * 2);
        }
        active[top++] = node;
    }

    private void activateElements(int first, int last, int index) {
        for (int n = first; n < last; n++) {
            List<JsonPlaces.Node> children = active[n].children();
            for (int c = 0; c < children.size(); c++) {
                if (children.get(c).isAt(index)) {
                    activate(children.get(c));
                }
            }
        }
    }

    /** Takes the name of a member and activates the places that it stands for. */
    private void takeName(int first, int last, long object) throws IOException, Broken {
        if (in.peek() != '"') {
            throw in.broken("a name in quotes");
        }
        int place = in.place();
        JsonPlaces.Node expected = last - first == 1 ? active[first].expected() : null;
        if (expected != null && in.takes(expected.quoted)) {
            active[first].hasCome();
            come(expected, place, object);
            return;
        }
        boolean escapes = in.takeString();
        byte[] bytes = in.bytes();
        int from = in.index(place) + 1;
        int to = in.index(in.place()) - 1;
        if (escapes && first < last) {
            bytes = JsonText.unescaped(bytes, from, to);
            from = 0;
            to = bytes.length;
        }
        for (int n = first; n < last; n++) {
            JsonPlaces.Node child = active[n].member(bytes, from, to);
            if (child != null) {
                come(child, place, object);
            }
        }
    }

    private void come(JsonPlaces.Node child, int place, long object) throws Broken {
        activate(child);
        if (child.isTwiceIn(object)) {
            twice(child, place);
        }
    }

    /** A name that leads to records or further in is there twice. Around records nobody can tell what to read on with. */
    private void twice(JsonPlaces.Node child, int place) throws Broken {
        Fault fault = JsonFaults.twice(Fault.NO_FIELD, place, in.place());
        if (openRecords == 0) {
            throw new Broken(fault);
        }
        innermost().breach(fault, child.pathFromAround());
    }

    /** Takes a value with all that stands in it, the records and fields among it. */
    private void walk(int first, int last, int depth) throws IOException, Broken {
        keepNothingBefore();
        if (depth > JsonFaults.MOST_DEPTH) {
            throw new Broken(JsonFaults.tooDeep(in.place()));
        }
        int begun = inDocument;
        for (int n = first; n < last; n++) {
            if (active[n].type >= 0) {
                begin(active[n].type);
            }
        }
        int ended = inDocument;
        int from = in.place();
        int kind = in.peek();
        Fault other = openRecords == 0 ? null : otherKind(first, last, kind);
        if (other != null) {
            innermost().breach(other, active[last - 1].pathInRecord());
        }
        boolean escapes = false;
        switch (kind) {
            case '{' -> object(first, last, depth);
            case '[' -> array(first, last, depth);
            case '"' -> escapes = in.takeString();
            case 't' -> in.take("true", "a JSON value");
            case 'f' -> in.take("false", "a JSON value");
            case 'n' -> in.take("null", "a JSON value");
            default -> {
                if (kind != '-' && (kind < '0' || kind > '9')) {
                    throw in.broken("a JSON value");
                }
                in.takeNumber();
            }
        }
        for (int n = first; n < last; n++) {
            List<JsonPlaces.Wanted> wanted = active[n].values;
            for (int w = 0; w < wanted.size(); w++) {
                take(wanted.get(w), kind, from, escapes);
            }
        }
        for (int i = begun; i < ended; i++) {
            JsonRecord r = pool.get(i);
            r.end = in.place();
            open[r.type()] = null;
            openRecords--;
        }
    }

    /** Outside of records nothing has to stay in memory; a line is kept whole. */
    private void keepNothingBefore() {
        if (openRecords == 0 && !format.lines()) {
            in.keepFromHere();
        }
    }

    private JsonRecord innermost() {
        JsonRecord innermost = null;
        for (JsonRecord r : open) {
            innermost = innermost == null || r != null && r.place > innermost.place ? r : innermost;
        }
        return innermost;
    }

    private void begin(int type) {
        if (inDocument == pool.size()) {
            pool.add(new JsonRecord());
        }
        JsonRecord r = pool.get(inDocument++);
        r.begin(
                type,
                layout.recordTypes().get(type),
                format.lines(),
                in.offset(),
                in.line(),
                format.lines() ? in.column() : 0);
        r.stands(arrays, openArrays);
        r.place = in.place();
        open[type] = r;
        openRecords++;
    }

    private void object(int first, int last, int depth) throws IOException, Broken {
        in.takes('{');
        in.passBlanks();
        if (in.takes('}')) {
            return;
        }
        long number = objects++;
        do {
            keepNothingBefore();
            int below = top;
            takeName(first, last, number);
            in.takeColon();
            walk(below, top, depth + 1);
            top = below;
        } while (in.goesOn('}'));
    }

    private void array(int first, int last, int depth) throws IOException, Broken {
        in.takes('[');
        in.passBlanks();
        if (in.takes(']')) {
            return;
        }
        int of = openArrays++;
        int index = 0;
        do {
            arrays[of] = index;
            int below = top;
            activateElements(first, last, index++);
            walk(below, top, depth + 1);
            top = below;
        } while (in.goesOn(']'));
        openArrays--;
    }

    /** Gives a field the value that was taken: a text without its quotes, anything else as it is written. */
    private void take(JsonPlaces.Wanted wanted, int kind, int from, boolean escapes) {
        JsonRecord r = open[wanted.type()];
        if (r == null) {
            return;
        }
        int quote = kind == '"' ? 1 : 0;
        int to = in.place() - quote;
        if (!r.meet(wanted.field(), from + quote - r.place, to - r.place, quote > 0) || kind == 'n') {
            return;
        }
        if (escapes) {
            byte[] text = JsonText.unescaped(in.bytes(), in.index(from + quote), in.index(to));
            values.put(r, wanted.field(), text, 0, text.length);
        } else {
            values.put(r, wanted.field(), in.bytes(), in.index(from + quote), in.index(to));
        }
    }
}
