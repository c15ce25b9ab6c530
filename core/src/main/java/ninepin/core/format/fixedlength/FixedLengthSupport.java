package ninepin.core.format.fixedlength;

import java.io.IOException;
import java.io.OutputStream;
import ninepin.core.bytes.ByteSource;
import ninepin.core.bytes.Bytes;
import ninepin.core.format.lines.LineSupport;
import ninepin.core.layout.FixedLength;
import ninepin.core.layout.Layout;
import ninepin.core.record.Opening;
import ninepin.core.record.RecordWriter;
import ninepin.core.record.RejectForm;
import ninepin.core.record.WriteStyle;

/** Fixed-length files: lines, or blocks of one size. */
public final class FixedLengthSupport extends LineSupport {

    private final FixedLength format;

    public FixedLengthSupport(Layout layout, FixedLength format) {
        super(layout);
        this.format = format;
    }

    @Override
    public String ending() {
        return ".txt";
    }

    @Override
    public Opening open(ByteSource source) throws IOException {
        return FixedOpening.of(source, layout);
    }

    @Override
    public RecordWriter writer(OutputStream out, WriteStyle style) throws IOException {
        return new FixedLengthWriter(out, layout, style);
    }

    @Override
    public int blockSize() {
        return format.blockSize() == null ? 0 : format.blockSize();
    }

    @Override
    public String recordEnd(String usual) {
        return format.blockSize() != null ? "" : usual;
    }

    @Override
    public RejectForm rejects() {
        return new Rejects();
    }

    /** The reason stands behind the record, where it moves no field from its place. */
    private final class Rejects implements RejectForm {

        @Override
        public byte[] record(String reason, byte[] record) {
            return Bytes.joined(record, ("  " + reason + USUAL_END).getBytes(keptCharset()));
        }

        /** Fills up the width that was there before: a number with zeros, if it had some. */
        @Override
        public String fitted(String before, String after) throws DoesNotFit {
            int width = before.length();
            String trimmed = after.stripTrailing();
            if (trimmed.length() > width) {
                throw new DoesNotFit(width);
            }
            boolean zeros = before.matches("0*\\d+") && trimmed.matches("\\d*");
            return zeros
                    ? "0".repeat(width - trimmed.length()) + trimmed
                    : trimmed + " ".repeat(width - trimmed.length());
        }
    }
}
