package ninepin.core.format.workbook;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.regex.Pattern;
import ninepin.core.bytes.ByteSource;
import ninepin.core.layout.Format;
import ninepin.core.layout.Layout;
import ninepin.core.record.FormatSupport;
import ninepin.core.record.Opening;
import ninepin.core.record.RecordWriter;
import ninepin.core.record.RejectForm;
import ninepin.core.record.Transcription;
import ninepin.core.record.WriteStyle;

/** Workbooks of sheets. What is opened and written is their transcript. */
public final class WorkbookSupport implements FormatSupport {

    private static final String REASON = "rejected because: ";
    private static final Pattern LITERAL = Pattern.compile(
            "TRUE|FALSE|-?(?:0|[1-9]\\d*)(?:\\.\\d+)?|\\d{4}-\\d\\d-\\d\\d(?:T\\d\\d:\\d\\d:\\d\\d)?|\\d\\d:\\d\\d:\\d\\d");

    private final Layout layout;

    public WorkbookSupport(Layout layout) {
        this.layout = layout;
    }

    @Override
    public Optional<Transcription> transcription() {
        return Optional.of(new Transcribing(SideBySide.of(layout)));
    }

    private record Transcribing(SideBySide sideBySide) implements Transcription {
        @Override
        public String key() {
            return sideBySide.key();
        }

        @Override
        public boolean isText(byte[] first) {
            return Transcript.isOne(first);
        }

        @Override
        public void transcribe(Path file, Path to) throws IOException {
            Transcriber.transcribe(file, sideBySide, to);
        }

        @Override
        public void compose(Path text, Path to) throws IOException {
            WorkbookComposer.compose(text, to);
        }
    }

    @Override
    public String ending() {
        return ".xlsx";
    }

    @Override
    public String mediaType() {
        return "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet";
    }

    @Override
    public Opening open(ByteSource source) throws IOException {
        return WorkbookOpening.of(source, layout);
    }

    @Override
    public RecordWriter writer(OutputStream out, WriteStyle style) throws IOException {
        return new WorkbookWriter(out, layout, "", false);
    }

    @Override
    public RecordWriter onward(OutputStream out, WriteStyle style, String state) throws IOException {
        return new WorkbookWriter(out, layout, state, true);
    }

    @Override
    public Charset charset(ByteSource source) {
        return StandardCharsets.UTF_8;
    }

    @Override
    public boolean hasColumns() {
        return true;
    }

    @Override
    public Optional<String> unsortable() {
        return Optional.empty();
    }

    @Override
    public Charset keptCharset() {
        return StandardCharsets.UTF_8;
    }

    @Override
    public String recordEnd(String usual) {
        return "\n";
    }

    @Override
    public Format ofParts() {
        return layout.format();
    }

    @Override
    public Frame frame(ByteSource original) throws IOException {
        return new Frame(head(original), new byte[0], StandardCharsets.UTF_8);
    }

    private byte[] head(ByteSource original) throws IOException {
        Transcript transcript =
                original == null ? null : Transcript.read(original).orElse(null);
        return transcript == null
                ? WorkbookTables.headOfLayout(layout)
                : new WorkbookTables(original, layout, transcript).headOfParts();
    }

    @Override
    public RejectForm rejects() {
        return new Rejects();
    }

    /** Rows where they stood, under the header; the reason in a cell behind the others. */
    private final class Rejects implements RejectForm {

        @Override
        public byte[] begin(ByteSource original) throws IOException {
            return head(original);
        }

        @Override
        public byte[] record(String reason, byte[] record) {
            byte[] own = withoutReason(record);
            RowBytes row = new RowBytes();
            row.add(own);
            row.add(CellText.SEPARATOR);
            row.add(CellText.quoted(REASON + reason));
            row.add((byte) '\n');
            return Arrays.copyOf(row.bytes, row.length);
        }

        @Override
        public byte[] withoutReason(byte[] record) {
            int from = 0;
            CellScanner scanner = new CellScanner();
            scanner.begin(record, 0, record.length);
            while (scanner.next()) {
                Cell cell = scanner.cell;
                if (cell.text && cell.value(record).startsWith(REASON)) {
                    from = cell.from - 2;
                }
            }
            return from > 0 ? Arrays.copyOf(record, from) : record;
        }

        @Override
        public boolean isSame(byte[] one, byte[] other) {
            return cells(one).equals(cells(other));
        }

        /** The cells with something in them, and what they are; empty ones may stand behind the last or not. */
        private static List<String> cells(byte[] record) {
            List<String> cells = new ArrayList<>();
            CellScanner scanner = new CellScanner();
            scanner.begin(record, 0, record.length);
            while (scanner.next()) {
                if (!scanner.cell.isEmpty()) {
                    cells.add(scanner.column + (scanner.cell.text ? " text " : " ") + scanner.cell.value(record));
                }
            }
            return cells;
        }

        /** Between quotes a text stays one; what stands in no quotes is a number, a date or a truth value, or becomes a text. */
        @Override
        public String placed(String record, int from, String value) {
            if (from > 0 && record.startsWith("\"", from - 1)) {
                return CellText.mended(value);
            }
            return value.isEmpty() || LITERAL.matcher(value).matches() ? value : '"' + CellText.mended(value) + '"';
        }
    }
}
