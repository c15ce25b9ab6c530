package ninepin.core.preview;

import java.nio.charset.Charset;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import ninepin.core.format.Formats;
import ninepin.core.layout.Layout;
import ninepin.core.preview.Preview.Span;
import ninepin.core.record.Opening;
import ninepin.core.record.RawRecord;

/** The text of records as a browser shows it, and where their fields stand in it, counted in UTF-16 units. */
final class SampleText {

    private static final int MOST_TEXT = 20_000;

    private final Charset charset;
    private final boolean columns;
    private final int[][] slices;

    SampleText(Layout layout, Opening opening) {
        this.charset = opening.charset();
        this.columns = Formats.of(layout).hasColumns();
        this.slices = new int[layout.recordTypes().size()][];
        for (int t = 0; t < slices.length; t++) {
            slices[t] = opening.slices(t);
        }
    }

    String of(RawRecord record) {
        return new String(record.buffer(), record.start(), Math.min(record.length(), MOST_TEXT), charset);
    }

    /** Where the fields of a record stand in its text, in the order of the text; columns that no field describes too. */
    List<Span> spans(RawRecord record) {
        int count = record.fieldCount();
        List<int[]> places = new ArrayList<>();
        for (int slice = 0; slice < count; slice++) {
            int field = fieldAt(record.type(), slice);
            if (record.to(slice) <= Math.min(record.length(), MOST_TEXT)
                    && (columns || field >= 0 && record.to(slice) > record.from(slice))) {
                places.add(new int[] {record.from(slice), record.to(slice), field});
            }
        }
        places.sort((a, b) -> a[0] != b[0] ? Integer.compare(a[0], b[0]) : Integer.compare(b[1], a[1]));
        List<Span> spans = new ArrayList<>();
        int bytes = 0;
        int units = 0;
        for (int[] place : places) {
            if (place[0] < bytes && !columns) {
                continue;
            }
            units += units(record, bytes, place[0]);
            int from = units;
            units += units(record, place[0], place[1]);
            bytes = place[1];
            spans.add(new Span(record.number(), place[2], from, units));
        }
        return spans;
    }

    private int fieldAt(int type, int slice) {
        if (type < 0) {
            return -1;
        }
        for (int f = 0; f < slices[type].length; f++) {
            if (slices[type][f] == slice) {
                return f;
            }
        }
        return -1;
    }

    /**
     * Adds the places of a record that stands inside another one to those of the outer.
     *
     * @param outer the places in the outer record's text, which are added to
     * @param outerOffset the byte of the file where the outer record starts; its bytes stand before the inner ones
     */
    void placeInside(List<Span> outer, long outerOffset, RawRecord inner, List<Span> own) {
        int before = (int) (inner.offset() - outerOffset);
        if (before > MOST_TEXT) {
            return;
        }
        int shift = new String(inner.buffer(), inner.start() - before, before, charset).length();
        for (Span s : own) {
            boolean free = outer.stream().allMatch(o -> o.to() <= s.from() + shift || o.from() >= s.to() + shift);
            if (free) {
                outer.add(new Span(s.record(), s.field(), s.from() + shift, s.to() + shift));
            }
        }
        outer.sort(Comparator.comparingInt(Span::from));
    }

    /** The UTF-16 units of the first bytes of a record. */
    int units(RawRecord record, int from, int to) {
        return new String(record.buffer(), record.start() + from, to - from, charset).length();
    }
}
