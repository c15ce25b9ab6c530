package ninepin.core.format.fixedlength;

import java.io.IOException;
import java.util.List;
import ninepin.core.bytes.ByteSource;
import ninepin.core.format.lines.TypeTags;
import ninepin.core.format.lines.WindowReader;
import ninepin.core.layout.Field;
import ninepin.core.layout.FixedLength;
import ninepin.core.layout.Layout;
import ninepin.core.layout.NumberForm;
import ninepin.core.layout.Place;
import ninepin.core.record.Fault;
import ninepin.core.record.Position;

/**
 * Reads fixed-length records, lines or blocks, and cuts them into the fields of their type.
 */
final class FixedLengthReader extends WindowReader {

    private final FixedLength format;
    private final int[][] starts;
    private final int[][] ends;
    private final int[] lengths;
    private final boolean characters;
    /** Whether some bytes are no text, so that nothing can be told of a record whose bytes are those of blanks. */
    private final boolean raw;

    private int[] bytesAt = new int[256];

    /**
     * @param source the bytes, closed with the reader
     * @param layout a fixed-length layout
     * @param start where to start
     * @param body where the first record of the file starts
     */
    FixedLengthReader(ByteSource source, Layout layout, Position start, long body) {
        super(source, start, body, layout.format().charset(), layout.format().blankRows(), new TypeTags(layout));
        this.format = (FixedLength) layout.format();
        int types = layout.recordTypes().size();
        this.starts = new int[types][];
        this.ends = new int[types][];
        this.lengths = new int[types];
        for (int t = 0; t < types; t++) {
            List<Field> fields = layout.recordTypes().get(t).fields();
            starts[t] = fields.stream().mapToInt(f -> span(f).start() - 1).toArray();
            ends[t] = fields.stream().mapToInt(f -> span(f).end()).toArray();
            lengths[t] = format.length() != null
                    ? format.length()
                    : fields.stream().mapToInt(f -> span(f).end()).max().orElse(0);
        }
        this.characters = format.countsCharacters();
        this.raw = layout.recordTypes().stream()
                .flatMap(t -> t.fields().stream())
                .anyMatch(f -> NumberForm.of(f.type()).raw());
    }

    /** Passes over one record, whatever it holds; false at the end of the file. */
    boolean passRecord() throws IOException {
        if (atEnd()) {
            return false;
        }
        cut();
        return true;
    }

    /** Behind the last block a line end or an end-of-file mark (0x1A) may stand; they are no record. */
    @Override
    protected void passOver() throws IOException {
        if (format.blockSize() == null) {
            return;
        }
        fetchBlock();
        int held = held();
        if (held >= format.blockSize() || held > 3) {
            return;
        }
        for (int i = 0; i < held; i++) {
            if (!endsFile(byteAt(i))) {
                return;
            }
        }
        pass(held());
    }

    private void fetchBlock() throws IOException {
        while (held() < format.blockSize() && more()) {
            // Fetches until a whole block is held or the file ends.
        }
    }

    @Override
    protected void cut() throws IOException {
        if (format.blockSize() != null) {
            fetchBlock();
            take(Math.min(format.blockSize(), held()));
            line++;
            return;
        }
        super.cut();
    }

    @Override
    protected boolean isBlank() {
        return !raw && super.isBlank();
    }

    @Override
    protected int typeByTag(TypeTags known) {
        int type = known.byPosition(record.buffer(), record.start(), record.length());
        if (type == TypeTags.UNKNOWN) {
            int from = Math.min(known.firstPlace(), record.length());
            int to = Math.min(from + known.firstLength(), record.length());
            record.fault(known.unknown(record, from, to, format.charset().charset()));
        }
        return type;
    }

    @Override
    protected void become(int type) {
        super.become(type);
        if (type != TypeTags.UNKNOWN) {
            slice(type);
        }
    }

    private void slice(int type) {
        int units = record.length();
        boolean wide = characters && !asciiOnly();
        if (wide) {
            units = countCharacters();
        }
        int wanted = lengths[type];
        if (units < wanted && !format.shortRecords()) {
            record.fault(new Fault(
                    "LEN-04",
                    -1,
                    0,
                    record.length(),
                    "a record of " + units + " " + format.units(),
                    wanted + " " + format.units(),
                    "The line may be cut short; or say in the layout that records may end early."));
            return;
        }
        if (units > wanted && !blankFrom(wide ? bytesAt[wanted] : wanted)) {
            record.fault(new Fault(
                    "LEN-05",
                    -1,
                    0,
                    record.length(),
                    "a record of " + units + " " + format.units(),
                    wanted + " " + format.units(),
                    "What stands behind the last field belongs to no field; give the layout the whole length."));
            return;
        }
        int[] start = starts[type];
        int[] end = ends[type];
        if (!wide && units >= wanted) {
            record.takePlaces(start, end);
            return;
        }
        record.misplace();
        for (int f = 0; f < start.length; f++) {
            int from = Math.min(start[f], units);
            int to = Math.min(end[f], units);
            record.add(wide ? bytesAt[from] : from, wide ? bytesAt[to] : to, (byte) 0);
        }
    }

    private boolean blankFrom(int from) {
        for (int i = from; i < record.length(); i++) {
            if (record.buffer()[record.start() + i] != blank) {
                return false;
            }
        }
        return true;
    }

    private boolean asciiOnly() {
        int all = 0;
        for (int i = record.start(); i < record.start() + record.length(); i++) {
            all |= record.buffer()[i];
        }
        return all >= 0;
    }

    /** Notes where each character of UTF-8 starts, and behind them the end; a stray byte counts as a character. */
    private int countCharacters() {
        if (bytesAt.length < record.length() + 1) {
            bytesAt = new int[record.length() + 64];
        }
        int count = 0;
        for (int i = 0; i < record.length(); i++) {
            if (count == 0 || (record.buffer()[record.start() + i] & 0xc0) != 0x80) {
                bytesAt[count++] = i;
            }
        }
        bytesAt[count] = record.length();
        return count;
    }

    private static Place.Span span(Field field) {
        return (Place.Span) field.place();
    }
}
