package ninepin.core.format.json;

import java.io.IOException;
import java.io.OutputStream;
import java.net.URLDecoder;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import ninepin.core.layout.DataType;
import ninepin.core.layout.Field;
import ninepin.core.layout.Json;
import ninepin.core.layout.JsonPath;
import ninepin.core.layout.JsonPath.Step;
import ninepin.core.layout.Layout;
import ninepin.core.layout.RecordType;
import ninepin.core.record.RecordWriter;
import ninepin.core.record.WriteStyle;
import ninepin.core.value.UnwritableException;
import ninepin.core.value.ValueFormat;

/**
 * Writes JSON. A record is held until the next one that stands in no other begins, so that those inside it are put into their
 * arrays in whatever order they come; the arrays around records are opened as they are needed and closed at the end.
 */
final class JsonWriter implements RecordWriter {

    private static final Pattern NUMBER = Pattern.compile("-?(?:0|[1-9]\\d*)(?:\\.\\d+)?");
    private static final String INDENT = "  ";

    /** A value that is written as it stands here. */
    private record Literal(String text) {}

    private static final Literal NULL = new Literal("null");

    /** An object or array that is open around records. */
    private static final class Level {
        final boolean array;
        /** The names that were written, the last one open. */
        final Set<String> names = new LinkedHashSet<>();

        String current;
        boolean any;

        Level(boolean array) {
            this.array = array;
        }

        boolean isIn(Step step) {
            return step instanceof JsonPath.Member member
                    ? !array && member.name().equals(current)
                    : array;
        }
    }

    private final boolean withoutNulls;
    private final OutputStream out;
    private final Layout layout;
    private final boolean lines;
    private final boolean indented;
    private final String end;
    private final List<List<Step>> paths;
    private final List<List<List<Step>>> fields;
    private final List<Level> levels = new ArrayList<>();
    /** For each record type the record that came last, to which others may belong. */
    private final Object[] latest;

    private final StringBuilder text = new StringBuilder();
    private Object pending;
    private int pendingType;
    private boolean written;

    /**
     * @param state what {@link #state} gave behind the record written last; empty for a new file
     */
    JsonWriter(OutputStream out, Layout layout, WriteStyle style, String state) {
        this.out = out;
        this.layout = layout;
        this.lines = ((Json) layout.format()).lines();
        this.indented = style.indented() && !lines;
        this.end = style.lineEndOr(WriteStyle.LineEnd.LF);
        this.paths = layout.recordTypes().stream()
                .map(t -> JsonPlaces.pathOf(t).steps())
                .toList();
        this.withoutNulls = ((Json) layout.format()).withoutNulls();
        this.fields = layout.recordTypes().stream()
                .map(t -> t.fields().stream()
                        .map(f -> JsonPlaces.pathOf(f).steps())
                        .toList())
                .toList();
        this.latest = new Object[layout.recordTypes().size()];
        goOn(state);
    }

    private void goOn(String state) {
        written = !state.isEmpty();
        for (String level : state.isEmpty() || state.equals("-") ? new String[0] : state.split("/")) {
            Level open = new Level(level.startsWith("["));
            open.any = true;
            for (String name : open.array ? new String[0] : level.substring(1).split(",")) {
                open.current = URLDecoder.decode(name, StandardCharsets.UTF_8);
                open.names.add(open.current);
            }
            levels.add(open);
        }
    }

    @Override
    public String state() throws IOException {
        flush();
        if (!written) {
            return "";
        }
        return levels.isEmpty() ? "-" : levels.stream().map(JsonWriter::state).collect(Collectors.joining("/"));
    }

    private static String state(Level level) {
        return level.array
                ? "["
                : "{"
                        + level.names.stream()
                                .map(n -> URLEncoder.encode(n, StandardCharsets.UTF_8))
                                .collect(Collectors.joining(","));
    }

    @Override
    public void write(int type, List<String> values) throws IOException {
        Object record = record(type, values);
        int parent = parentOf(type);
        if (parent < 0) {
            flush();
            pending = record;
            pendingType = type;
        } else {
            List<Step> below = paths.get(type)
                    .subList(paths.get(parent).size(), paths.get(type).size());
            put(type, latest[parent], below, record);
        }
        latest[type] = record;
    }

    /** The record type that a type's records stand in, or -1. */
    private int parentOf(int type) {
        int parent = layout.parentIndex(type);
        if (parent < 0) {
            return -1;
        }
        List<Step> around = paths.get(parent);
        List<Step> own = paths.get(type);
        return around.size() < own.size() && own.subList(0, around.size()).equals(around) ? parent : -1;
    }

    private Object record(int type, List<String> values) {
        RecordType of = layout.recordTypes().get(type);
        Object record = new LinkedHashMap<String, Object>();
        for (int f = 0; f < values.size(); f++) {
            Object literal = literal(of.fields().get(f), values.get(f));
            List<Step> path = fields.get(type).get(f);
            if (literal == NULL && withoutNulls && isMember(path)) {
                continue;
            }
            if (path.isEmpty()) {
                record = literal;
            } else {
                put(type, record, path, literal);
            }
        }
        return record;
    }

    private static boolean isMember(List<Step> path) {
        return !path.isEmpty() && path.get(path.size() - 1) instanceof JsonPath.Member;
    }

    private static Literal literal(Field field, String value) {
        if (value == null) {
            return NULL;
        }
        String text = ValueFormat.text(field, value);
        boolean number = field.type() instanceof DataType.IntegerNumber || field.type() instanceof DataType.Decimal;
        boolean truth = field.type() instanceof DataType.Bool && (text.equals("true") || text.equals("false"));
        return new Literal(
                truth || number && NUMBER.matcher(text).matches() ? text : '"' + JsonText.escaped(text) + '"');
    }

    /** Puts a value into another, with the objects and arrays on the way to it. */
    @SuppressWarnings("unchecked")
    private void put(int type, Object into, List<Step> path, Object value) {
        Object at = into;
        for (int i = 0; i < path.size(); i++) {
            boolean last = i == path.size() - 1;
            Step step = path.get(i);
            if (step instanceof JsonPath.Member member && at instanceof Map<?, ?>) {
                Map<String, Object> object = (Map<String, Object>) at;
                if (last) {
                    object.put(member.name(), value);
                } else {
                    Step inIt = path.get(i + 1);
                    at = object.computeIfAbsent(member.name(), n -> container(inIt));
                }
            } else if (!(step instanceof JsonPath.Member) && at instanceof List<?>) {
                List<Object> array = (List<Object>) at;
                int index = step instanceof JsonPath.At element
                        ? element.index()
                        : last ? array.size() : Math.max(0, array.size() - 1);
                while (array.size() <= index) {
                    array.add(NULL);
                }
                if (last) {
                    array.set(index, value);
                } else {
                    if (array.get(index) == NULL) {
                        array.set(index, container(path.get(i + 1)));
                    }
                    at = array.get(index);
                }
            } else {
                throw new UnwritableException(
                        layout.recordTypes().get(type).name(),
                        "an object, an array and a plain value cannot stand in one place");
            }
        }
    }

    private static Object container(Step inIt) {
        return inIt instanceof JsonPath.Member ? new LinkedHashMap<String, Object>() : new ArrayList<>();
    }

    /** Writes the record that is held, in the array or object that it belongs to. */
    private void flush() throws IOException {
        if (pending == null) {
            return;
        }
        List<Step> path = lines ? List.of() : paths.get(pendingType);
        if (path.isEmpty() && written && !lines) {
            throw new UnwritableException(
                    layout.recordTypes().get(pendingType).name(),
                    "a JSON file is one value; write a file for each record");
        }
        int stays = 0;
        while (stays < levels.size()
                && stays < path.size() - 1
                && levels.get(stays).isIn(path.get(stays))) {
            stays++;
        }
        closeTo(Math.min(levels.size(), stays + 1));
        for (int i = stays; i < path.size(); i++) {
            open(i, path.get(i));
        }
        append(pending, levels.size());
        if (lines) {
            text.append(end);
        }
        written = true;
        pending = null;
        drain();
    }

    /** Begins an element or a member of an object or array around records, which is opened where it is not yet. */
    private void open(int at, Step step) {
        if (at == levels.size()) {
            levels.add(new Level(!(step instanceof JsonPath.Member)));
            text.append(step instanceof JsonPath.Member ? '{' : '[');
        }
        Level level = levels.get(at);
        String name = step instanceof JsonPath.Member member ? member.name() : null;
        if (level.array != (name == null) || name != null && !level.names.add(name)) {
            throw new UnwritableException(
                    layout.recordTypes().get(pendingType).name(),
                    "records of a type have to stand together in a JSON file");
        }
        text.append(level.any ? "," : "");
        newLine(at + 1);
        level.any = true;
        level.current = name;
        if (name != null) {
            text.append('"').append(JsonText.escaped(name)).append(indented ? "\": " : "\":");
        }
    }

    private void closeTo(int depth) {
        while (levels.size() > depth) {
            Level level = levels.remove(levels.size() - 1);
            newLine(levels.size());
            text.append(level.array ? ']' : '}');
        }
    }

    private void newLine(int depth) {
        text.append(end).append(indented ? INDENT.repeat(depth) : "");
    }

    private void append(Object value, int depth) {
        if (value instanceof Literal literal) {
            text.append(literal.text());
            return;
        }
        boolean array = value instanceof List<?>;
        text.append(array ? '[' : '{');
        boolean any = false;
        if (value instanceof List<?> list) {
            for (Object element : list) {
                between(any, depth + 1);
                append(element, depth + 1);
                any = true;
            }
        } else if (value instanceof Map<?, ?> object) {
            for (Map.Entry<?, ?> member : object.entrySet()) {
                between(any, depth + 1);
                text.append('"')
                        .append(JsonText.escaped((String) member.getKey()))
                        .append(indented ? "\": " : "\":");
                append(member.getValue(), depth + 1);
                any = true;
            }
        }
        if (any && indented) {
            newLine(depth);
        }
        text.append(array ? ']' : '}');
    }

    private void between(boolean any, int depth) {
        text.append(any ? "," : "");
        if (indented) {
            newLine(depth);
        }
    }

    private void drain() throws IOException {
        out.write(text.toString().getBytes(StandardCharsets.UTF_8));
        text.setLength(0);
    }

    @Override
    public void close() throws IOException {
        try (out) {
            flush();
            if (!lines) {
                if (!written) {
                    empty();
                }
                closeTo(0);
                text.append(end);
                drain();
            }
        }
    }

    /** A file without a record has the arrays around records, or no value where a record would be the whole of it. */
    private void empty() {
        List<Step> path = paths.get(0);
        for (int i = 0; i < path.size() - 1; i++) {
            open(i, path.get(i));
        }
        if (path.isEmpty() || path.get(path.size() - 1) instanceof JsonPath.Member) {
            text.append("null");
        } else {
            text.append("[]");
        }
    }
}
