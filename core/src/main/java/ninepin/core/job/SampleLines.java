package ninepin.core.job;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import ninepin.core.job.Preview.Item;
import ninepin.core.job.Preview.Line;
import ninepin.core.job.Preview.LineKind;
import ninepin.core.layout.Delimited;
import ninepin.core.read.DelimitedRows;
import ninepin.core.read.Opening;
import ninepin.core.read.Position;
import ninepin.core.read.RawRecord;
import ninepin.core.read.RecordReader;
import ninepin.core.source.ByteSource;

/** The lines of a delimited sample that are no records: those before the first one, and all where it cannot be read. */
final class SampleLines {

    private SampleLines() {}

    static List<Line> before(ByteSource source, Delimited format, Opening opening, SampleText texts)
            throws IOException {
        List<Line> lines = new ArrayList<>();
        RecordReader reader = DelimitedRows.of(source, format.plainLines(), Position.START);
        while (reader.offset() < opening.header().offset() && reader.next() != RecordReader.Item.END) {
            RawRecord r = reader.record();
            if (r.length() > 0) {
                lines.add(new Line(LineKind.SKIPPED, r.line(), r.offset(), texts.of(r), List.of()));
            }
        }
        if (format.header() && !opening.columns().isEmpty()) {
            RecordReader header = DelimitedRows.of(source, format, opening.header());
            header.next();
            RawRecord r = header.record();
            lines.add(new Line(LineKind.HEADER, r.line(), r.offset(), texts.of(r), texts.spans(r)));
        }
        return lines;
    }

    /** The lines of a sample that cannot be read by the layout, so that one sees why. */
    static List<Item> unread(ByteSource source, Delimited format, Opening opening, SampleText texts, int count)
            throws IOException {
        List<Item> items = new ArrayList<>();
        RecordReader reader = DelimitedRows.of(source, format, opening.body());
        while (items.size() < count && reader.next() != RecordReader.Item.END) {
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
