package ninepin.core.format;

import java.io.IOException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.stream.Collectors;
import ninepin.core.layout.Delimited;
import ninepin.core.layout.FileCharset;
import ninepin.core.layout.Format;
import ninepin.core.layout.Layout;
import ninepin.core.read.Opening;
import ninepin.core.source.ByteSource;

/** Delimited files. */
final class DelimitedSupport implements FormatSupport {

    private final Layout layout;
    private final Delimited format;

    DelimitedSupport(Layout layout, Delimited format) {
        this.layout = layout;
        this.format = format;
    }

    @Override
    public String ending() {
        return ".csv";
    }

    @Override
    public String mediaType() {
        return "text/csv";
    }

    @Override
    public boolean nests() {
        return false;
    }

    @Override
    public Charset keptCharset() {
        Charset own = format.charset().charset();
        return own.equals(StandardCharsets.UTF_16) ? StandardCharsets.UTF_16BE : own;
    }

    @Override
    public String recordEnd(String usual) {
        String own = format.habitsOrNone().recordEnd();
        return own == null ? usual : own;
    }

    @Override
    public Format ofParts() {
        return format;
    }

    @Override
    public Frame frame(ByteSource original) throws IOException {
        // Lines at the end are passed over, so that some have to stand there.
        byte[] foot = ("." + recordEnd(RefusedFile.USUAL_END))
                .repeat(format.habitsOrNone().footerLines())
                .getBytes(keptCharset());
        return original == null
                ? new Frame(headOfLayout(), foot, keptCharset())
                : LineFrames.like(original, layout, foot, keptCharset());
    }

    /** Where the file is gone: as many lines as are passed over, and the names of the fields. */
    private byte[] headOfLayout() {
        String end = recordEnd(RefusedFile.USUAL_END);
        String names = format.header()
                ? layout.firstType().fields().stream()
                                .map(f -> f.header() == null ? f.name() : f.header())
                                .collect(Collectors.joining(format.delimiter()))
                        + end
                : "";
        return (mark() + end.repeat(format.skipLines()) + names).getBytes(keptCharset());
    }

    private String mark() {
        return format.charset() == FileCharset.UTF_16 ? "\ufeff" : "";
    }

    @Override
    public RejectForm rejects() {
        return new Rejects();
    }

    /** The reason stands in a column before the others. */
    private final class Rejects implements RejectForm {

        private static final String TITLE = "Reason";

        @Override
        public byte[] begin(ByteSource original) throws IOException {
            byte[] mark = mark().getBytes(keptCharset());
            if (!format.header() || original == null) {
                return mark;
            }
            Opening opening = Opening.of(original, layout);
            long from = opening.header().offset();
            byte[] names = original.slice(from, (int) (opening.body().offset() - from));
            return Bytes.joined(
                    mark,
                    (TITLE + format.delimiter()).getBytes(keptCharset()),
                    RefusedFile.like(layout, original).kept(names));
        }

        @Override
        public byte[] record(String reason, byte[] record) {
            return Bytes.joined(
                    (quoted(reason) + format.delimiter()).getBytes(keptCharset()),
                    record,
                    recordEnd(RefusedFile.USUAL_END).getBytes(keptCharset()));
        }

        @Override
        public byte[] end() {
            return new byte[0];
        }

        private String quoted(String text) {
            if (format.quote() == null) {
                return text.replace(format.delimiter(), " ");
            }
            String quote = String.valueOf(format.quote());
            return quote + text.replace(quote, quote + quote) + quote;
        }

        @Override
        public boolean startsWithReason(byte[] file) {
            return new String(file, 0, Math.min(file.length, 100), keptCharset())
                    .startsWith(TITLE + format.delimiter());
        }

        @Override
        public String fitted(String before, String after) {
            return after;
        }

        /** Puts quotes around a value that has come to need them, and doubles those in it. */
        @Override
        public String placed(String record, int from, String value) {
            if (format.quote() == null) {
                return value;
            }
            String quote = String.valueOf(format.quote());
            if (from > 0 && record.startsWith(quote, from - 1)) {
                return value.replace(quote + quote, quote).replace(quote, quote + quote);
            }
            boolean needs = value.contains(format.delimiter())
                    || value.contains(quote)
                    || value.contains("\n")
                    || value.contains("\r");
            return needs ? quote + value.replace(quote, quote + quote) + quote : value;
        }
    }
}
