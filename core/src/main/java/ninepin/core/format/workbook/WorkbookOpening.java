package ninepin.core.format.workbook;

import java.io.IOException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.List;
import ninepin.core.bytes.ByteSource;
import ninepin.core.format.lines.LineCuts;
import ninepin.core.layout.Layout;
import ninepin.core.record.Fault;
import ninepin.core.record.Locator;
import ninepin.core.record.Opening;
import ninepin.core.record.Position;
import ninepin.core.record.RecordReader;

/** A transcript of a workbook, and where in it the rows of a layout stand. */
record WorkbookOpening(Layout layout, Position body, WorkbookTables tables, Fault fault) implements Opening {

    static WorkbookOpening of(ByteSource source, Layout layout) throws IOException {
        Transcript transcript = Transcript.read(source).orElse(null);
        if (transcript == null) {
            Fault none = new Fault(
                    "WBK-01",
                    -1,
                    0,
                    0,
                    source.size() == 0 ? "an empty file (0 bytes)" : "a file that is no transcript of a workbook",
                    "rows of a workbook",
                    "Ask the sender for the file again.");
            return new WorkbookOpening(layout, Position.START, null, none);
        }
        WorkbookTables tables = new WorkbookTables(source, layout, transcript);
        long line = transcript.parts()
                ? 2L + transcript.sheets().size() + transcript.ranges().size()
                : 2;
        return new WorkbookOpening(layout, new Position(transcript.head(), line, 0), tables, tables.openingFault());
    }

    @Override
    public Charset charset() {
        return StandardCharsets.UTF_8;
    }

    @Override
    public Locator locator() {
        return Locator.path(body.line(), WorkbookRecord.WORKBOOK);
    }

    @Override
    public List<Fault> notes() {
        return tables == null ? List.of() : tables.notes();
    }

    @Override
    public List<String> columns() {
        return tables == null ? List.of() : tables.columns();
    }

    @Override
    public RecordReader reader(ByteSource source, Position from) {
        return new WorkbookReader(source, from, body.offset(), layout, tables);
    }

    @Override
    public long[] cuts(ByteSource source, int pieces) throws IOException {
        return LineCuts.of(this, 0, source, pieces);
    }
}
