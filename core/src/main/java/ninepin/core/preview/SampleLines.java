package ninepin.core.preview;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import ninepin.core.bytes.ByteSource;
import ninepin.core.preview.Preview.Item;
import ninepin.core.preview.Preview.Line;
import ninepin.core.preview.Preview.LineKind;
import ninepin.core.record.Opening;
import ninepin.core.record.RawRecord;
import ninepin.core.record.RecordReader;

/** The lines of a sample that are no records: those before the first one, and all where it cannot be read. */
final class SampleLines {

    private SampleLines() {}

    static List<Line> before(ByteSource source, Opening opening, SampleText texts) throws IOException {
        List<Line> lines = new ArrayList<>();
        RecordReader reader = opening.lines(source).orElse(null);
        while (reader != null
                && reader.offset() < opening.header().offset()
                && reader.next() != RecordReader.Item.END) {
            RawRecord r = reader.record();
            if (r.length() > 0) {
                lines.add(new Line(LineKind.SKIPPED, r.line(), r.offset(), texts.of(r), List.of()));
            }
        }
        RecordReader header = opening.rows(source, opening.header()).orElse(null);
        if (header != null && !opening.columns().isEmpty()) {
            header.next();
            RawRecord r = header.record();
            lines.add(new Line(LineKind.HEADER, r.line(), r.offset(), texts.of(r), texts.spans(r)));
        }
        return lines;
    }

    /** The lines of a sample that cannot be read by the layout, so that one sees why. */
    static List<Item> unread(ByteSource source, Opening opening, SampleText texts, int count) throws IOException {
        List<Item> items = new ArrayList<>();
        RecordReader reader = opening.rows(source, opening.body()).orElse(null);
        while (reader != null && items.size() < count && reader.next() != RecordReader.Item.END) {
            RawRecord r = reader.record();
            items.add(new Item(
                    r.number(),
                    -1,
                    false,
                    0,
                    r.line(),
                    r.offset(),
                    r.fullLength(),
                    texts.of(r),
                    List.of(),
                    List.of(),
                    "unread",
                    null,
                    List.of()));
        }
        return items;
    }
}
