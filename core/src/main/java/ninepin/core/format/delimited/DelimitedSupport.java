package ninepin.core.format.delimited;

import java.io.IOException;
import java.io.OutputStream;
import java.util.Optional;
import java.util.stream.Collectors;
import ninepin.core.bytes.ByteSource;
import ninepin.core.bytes.Bytes;
import ninepin.core.format.lines.LineSupport;
import ninepin.core.layout.Delimited;
import ninepin.core.layout.Field;
import ninepin.core.layout.FileCharset;
import ninepin.core.layout.Layout;
import ninepin.core.record.Opening;
import ninepin.core.record.RecordWriter;
import ninepin.core.record.RejectForm;
import ninepin.core.record.WriteStyle;

/** Delimited files. */
public final class DelimitedSupport extends LineSupport {

    private final Delimited format;

    public DelimitedSupport(Layout layout, Delimited format) {
        super(layout);
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
    public Opening open(ByteSource source) throws IOException {
        return DelimitedOpening.of(source, layout);
    }

    @Override
    public RecordWriter writer(OutputStream out, WriteStyle style) throws IOException {
        return new DelimitedWriter(out, layout, style).begin();
    }

    @Override
    public RecordWriter onward(OutputStream out, WriteStyle style, String state) throws IOException {
        return new DelimitedWriter(out, layout, style);
    }

    @Override
    public boolean hasColumns() {
        return true;
    }

    @Override
    public String recordEnd(String usual) {
        String own = format.habitsOrNone().recordEnd();
        return own == null ? usual : own;
    }

    @Override
    public Optional<String> unsortable() {
        return format.habitsOrNone().footerLines() > 0 ? Optional.of("a file with footer lines") : super.unsortable();
    }

    /** Lines at the end are passed over, so that some have to stand there. */
    @Override
    protected byte[] foot() {
        return ("." + recordEnd(USUAL_END))
                .repeat(format.habitsOrNone().footerLines())
                .getBytes(keptCharset());
    }

    /** As many lines as are passed over, and the names of the fields. */
    @Override
    protected byte[] headOfLayout() {
        String end = recordEnd(USUAL_END);
        String names = format.header()
                ? layout.firstType().fields().stream()
                                .map(Field::heading)
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
            Opening opening = open(original);
            long from = opening.header().offset();
            byte[] names = original.slice(from, (int) (opening.body().offset() - from));
            return Bytes.joined(
                    mark,
                    (TITLE + format.delimiter()).getBytes(keptCharset()),
                    Bytes.transcribed(names, charset(original), keptCharset()));
        }

        @Override
        public byte[] record(String reason, byte[] record) {
            return Bytes.joined(
                    (quoted(reason) + format.delimiter()).getBytes(keptCharset()),
                    record,
                    recordEnd(USUAL_END).getBytes(keptCharset()));
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
