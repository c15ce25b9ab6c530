package ninepin.core.format.lines;

import java.nio.charset.Charset;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.stream.Collectors;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Recognition;
import ninepin.core.layout.RecordType;
import ninepin.core.layout.Shown;
import ninepin.core.record.Fault;
import ninepin.core.record.RawRecord;
import ninepin.core.record.RecordBuffer;

/** Tells the record types of a delimited or fixed-length file apart, by the bytes of their tags. */
public final class TypeTags {

    /** No type. */
    public static final int UNKNOWN = -1;

    private final List<String> names;
    private final List<byte[]> tags = new ArrayList<>();
    private final List<Integer> types = new ArrayList<>();
    private final List<Integer> places = new ArrayList<>();
    private final int first;
    private final int last;
    private final int only;
    /** The type by the byte of the tag, where all tags are one byte at one place; else null. */
    private final byte[] byByte;

    public TypeTags(Layout layout) {
        List<RecordType> all = layout.recordTypes();
        this.names = all.stream().map(RecordType::name).toList();
        int firstLine = UNKNOWN;
        int lastLine = UNKNOWN;
        for (int t = 0; t < all.size(); t++) {
            Recognition when = all.get(t).when();
            if (when instanceof Recognition.FirstLine) {
                firstLine = t;
            } else if (when instanceof Recognition.LastLine) {
                lastLine = t;
            } else if (when instanceof Recognition.Tag tag) {
                for (String value : tag.values()) {
                    tags.add(value.getBytes(layout.format().charset().held().charset()));
                    types.add(t);
                    places.add(tag.column() != null ? tag.column() - 1 : tag.start() - 1);
                }
            }
        }
        this.first = firstLine;
        this.last = lastLine;
        this.byByte = singleBytes();
        this.only = all.size() == 1 && tags.isEmpty() && first == UNKNOWN && last == UNKNOWN ? 0 : UNKNOWN;
    }

    private byte[] singleBytes() {
        boolean single = tags.stream().allMatch(t -> t.length == 1)
                && places.stream().distinct().count() == 1
                && names.size() < Byte.MAX_VALUE;
        if (!single) {
            return null;
        }
        byte[] table = new byte[256];
        Arrays.fill(table, (byte) UNKNOWN);
        for (int i = 0; i < tags.size(); i++) {
            table[tags.get(i)[0] & 0xff] = types.get(i).byteValue();
        }
        return table;
    }

    /** Whether every record is of the one type there is. */
    public boolean trivial() {
        return only == 0;
    }

    /** Whether a record has to know that it is the last one. */
    public boolean asksForLast() {
        return last != UNKNOWN;
    }

    /** The type by the place in the file, or {@link #UNKNOWN} where tags decide. */
    public int byPlace(boolean isFirst, boolean isLast) {
        if (only == 0) {
            return 0;
        }
        return isFirst && first != UNKNOWN ? first : isLast ? last : UNKNOWN;
    }

    /** The type by the tag in a column of a record whose columns are known. */
    public int byColumn(RecordBuffer r, Charset charset) {
        int type = inColumn(r);
        if (type == UNKNOWN) {
            int column = Math.min(firstPlace(), r.fieldCount() - 1);
            r.fault(unknown(r, r.from(column), r.to(column), charset));
        }
        return type;
    }

    private int inColumn(RawRecord r) {
        for (int i = 0; i < tags.size(); i++) {
            int column = places.get(i);
            if (column < r.fieldCount()
                    && matches(tags.get(i), r.buffer(), r.start() + r.from(column), r.start() + r.to(column))) {
                return types.get(i);
            }
        }
        return UNKNOWN;
    }

    /** The type by the tag at a position; positions of tags count bytes. */
    public int byPosition(byte[] bytes, int start, int length) {
        if (byByte != null) {
            int place = firstPlace();
            return place < length ? byByte[bytes[start + place] & 0xff] : UNKNOWN;
        }
        for (int i = 0; i < tags.size(); i++) {
            byte[] tag = tags.get(i);
            int from = places.get(i);
            if (from + tag.length <= length && matches(tag, bytes, start + from, start + from + tag.length)) {
                return types.get(i);
            }
        }
        return UNKNOWN;
    }

    private static boolean matches(byte[] tag, byte[] bytes, int from, int to) {
        return Arrays.equals(tag, 0, tag.length, bytes, from, to);
    }

    /** Where the first tag stands that a record could have, to show what is there instead. */
    public int firstPlace() {
        return places.isEmpty() ? 0 : places.get(0);
    }

    /** The length in bytes of the first tag. */
    public int firstLength() {
        return tags.isEmpty() ? 0 : tags.get(0).length;
    }

    /**
     * What there is to say of a record whose tag is not known.
     *
     * @param from where what stands instead of the tag starts in the record
     * @param to where it ends
     */
    public Fault unknown(RawRecord r, int from, int to, Charset charset) {
        String found = new String(r.buffer(), r.start() + from, to - from, charset);
        String known = tags.stream().map(t -> new String(t, charset)).distinct().collect(Collectors.joining(", "));
        if (tags.isEmpty()) {
            return new Fault("TAG-01", -1, from, to, "a record of no type", "one of " + String.join(", ", names), null);
        }
        return new Fault(
                "TAG-01",
                Fault.NO_FIELD,
                from,
                to,
                (found.isEmpty() ? "nothing" : "the tag " + Shown.quoted(found)),
                "one of the tags " + known,
                "Add a record type for it to the layout if it is right.");
    }
}
