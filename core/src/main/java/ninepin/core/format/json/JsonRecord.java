package ninepin.core.format.json;

import java.nio.charset.Charset;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.List;
import ninepin.core.layout.JsonPath;
import ninepin.core.layout.RecordType;
import ninepin.core.record.Fault;
import ninepin.core.record.Locator;
import ninepin.core.record.RecordBuffer;

/** A record of a JSON file. Its bytes are those of the file; its values are gathered one by one, with escapes undone. */
final class JsonRecord extends RecordBuffer {

    /** Something that its layout does not lead into, and the way to it from the record on. */
    private record Breach(Fault fault, String path) {}

    private static final int[] NONE = {};

    private RecordType of;
    private boolean lines;
    private int columnBefore;
    /** Where it starts and ends among the bytes that its reader keeps. */
    int place;

    int end;
    private boolean[] met = {};
    private BitSet twice;
    private List<Breach> breaches;
    /** Which element of each array around it was taken, from the document on. */
    private int[] indexes = NONE;

    /**
     * Makes ready for a record.
     *
     * @param lines whether people find places by their line
     * @param before the characters that stand before it on its first line
     */
    void begin(int newType, RecordType newOf, boolean newLines, long newOffset, long newLine, int before) {
        begin(newOffset, newLine);
        type = newType;
        of = newOf;
        lines = newLines;
        columnBefore = before;
        twice = null;
        breaches = null;
        int fields = newOf.fields().size();
        if (met.length < fields) {
            met = new boolean[fields];
        }
        Arrays.fill(met, 0, fields, false);
        while (fieldCount < fields) {
            add(0, 0, (byte) 0);
        }
        beginValues(fields);
    }

    /** Says that all of it was taken: fields that were not met stand nowhere. */
    void finish() {
        for (int f = 0; f < fieldCount; f++) {
            if (!met[f]) {
                from[f] = 0;
                to[f] = 0;
                marks[f] = 0;
            }
        }
    }

    /** Makes ready for what cannot be read. */
    void beginBroken(long newOffset, long newLine, int before) {
        begin(newOffset, newLine);
        of = null;
        columnBefore = before;
    }

    /** Says which element of each array around it was taken. */
    void stands(int[] arrays, int count) {
        indexes = count == 0 ? NONE : Arrays.copyOf(arrays, count);
    }

    /** A member that is null is there. */
    @Override
    public boolean isMissing(int field) {
        return !met[field];
    }

    /** Notes where the value of a field stands; false where it has one already. */
    boolean meet(int field, int valueFrom, int valueTo, boolean quoted) {
        if (met[field]) {
            if (twice == null) {
                twice = new BitSet();
            }
            twice.set(field);
            return false;
        }
        met[field] = true;
        from[field] = valueFrom;
        to[field] = valueTo;
        marks[field] = quoted ? QUOTED : 0;
        return true;
    }

    @Override
    public int columnBefore() {
        return columnBefore;
    }

    /**
     * Notes that something else stands in it than its layout leads into.
     *
     * @param fault its place counts as {@link #place} does
     * @param path the way to it from the record on
     */
    void breach(Fault fault, String path) {
        if (breaches == null) {
            breaches = new ArrayList<>();
        }
        Fault own = new Fault(
                fault.code(),
                fault.column(),
                fault.from() - place,
                fault.to() - place,
                fault.found(),
                fault.expected(),
                fault.advice());
        breaches.add(new Breach(own, path));
    }

    /** What stands in it of another kind, and values of which another has the same name. */
    @Override
    public List<Fault> breaches() {
        if (twice == null && breaches == null) {
            return List.of();
        }
        List<Fault> faults = new ArrayList<>();
        if (breaches != null) {
            breaches.forEach(b -> faults.add(b.fault()));
        }
        if (twice == null) {
            return faults;
        }
        twice.stream().forEach(f -> faults.add(JsonFaults.twice(f, from[f], to[f])));
        return faults;
    }

    /** In a document of its own a place is found by its path, since all of it may stand on one line. */
    @Override
    public Locator locator(int partFrom, int partTo, Charset charset, boolean breaksLines) {
        if (lines || of == null) {
            return super.locator(partFrom, partTo, charset, breaksLines);
        }
        StringBuilder path = new StringBuilder("$");
        int array = 0;
        for (JsonPath.Step step : JsonPlaces.pathOf(of).steps()) {
            JsonPath.Step taken =
                    step instanceof JsonPath.Each && array < indexes.length ? new JsonPath.At(indexes[array++]) : step;
            path.append(new JsonPath(List.of(taken)).text());
        }
        return Locator.path(line, path.append(inside(partFrom, partTo)).toString());
    }

    /** The way from the record to what stands at a place in it, as far as that is told. */
    private String inside(int partFrom, int partTo) {
        if (breaches != null) {
            for (Breach b : breaches) {
                if (b.fault().from() == partFrom && b.fault().to() == partTo) {
                    return b.path();
                }
            }
        }
        for (int f = 0; f < fieldCount; f++) {
            if (met[f] && from[f] == partFrom && to[f] == partTo) {
                return JsonPlaces.pathOf(of.fields().get(f)).text();
            }
        }
        return "";
    }
}
