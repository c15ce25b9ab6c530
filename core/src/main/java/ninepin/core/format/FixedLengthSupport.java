package ninepin.core.format;

import java.io.IOException;
import java.nio.charset.Charset;
import ninepin.core.layout.FixedLength;
import ninepin.core.layout.Format;
import ninepin.core.layout.Layout;
import ninepin.core.source.ByteSource;

/** Fixed-length files: lines, or blocks of one size. */
final class FixedLengthSupport implements FormatSupport {

    private final Layout layout;
    private final FixedLength format;

    FixedLengthSupport(Layout layout, FixedLength format) {
        this.layout = layout;
        this.format = format;
    }

    @Override
    public String ending() {
        return ".txt";
    }

    @Override
    public String mediaType() {
        return "text/plain";
    }

    @Override
    public boolean nests() {
        return false;
    }

    @Override
    public Charset keptCharset() {
        return format.charset().charset();
    }

    @Override
    public String recordEnd(String usual) {
        return format.blockSize() != null ? "" : usual;
    }

    @Override
    public Format ofParts() {
        return format;
    }

    @Override
    public Frame frame(ByteSource original) throws IOException {
        return original == null
                ? new Frame(new byte[0], new byte[0], keptCharset())
                : LineFrames.like(original, layout, new byte[0], keptCharset());
    }

    @Override
    public RejectForm rejects() {
        return new Rejects();
    }

    /** The reason stands behind the record, where it moves no field from its place. */
    private final class Rejects implements RejectForm {

        @Override
        public byte[] begin(ByteSource original) {
            return new byte[0];
        }

        @Override
        public byte[] record(String reason, byte[] record) {
            return Bytes.joined(record, ("  " + reason + RefusedFile.USUAL_END).getBytes(keptCharset()));
        }

        @Override
        public byte[] end() {
            return new byte[0];
        }

        @Override
        public boolean startsWithReason(byte[] file) {
            return false;
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
