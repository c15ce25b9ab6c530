package ninepin.server.runs;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.Charset;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import ninepin.core.job.RefusedFile;
import ninepin.core.layout.Delimited;
import ninepin.core.layout.FileCharset;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Xml;
import ninepin.core.read.Opening;
import ninepin.core.source.FileSource;
import ninepin.server.runs.FindingMapper.FindingRow;
import ninepin.server.runs.FindingMapper.RejectRow;
import ninepin.server.runs.RunMapper.RunRow;

/**
 * Writes the rejects of a run in the file's own layout, each record byte for byte beside its reason: in a column in
 * front of delimited records, under the header as it came; behind fixed-length ones; in a comment before elements.
 */
final class RejectFile {

    private static final int PAGE = 500;
    /** What stands in no line, or in no XML document at all. */
    private static final Pattern NO_TEXT = Pattern.compile("[\\p{Cntrl}\\u0085\\u2028\\u2029\\p{Cs}\\uFFFE\\uFFFF]");

    private static final Pattern HYPHENS = Pattern.compile("-(?=-|$)");

    private final FindingMapper findings;
    private final RunRow run;
    private final Layout layout;
    private final Charset charset;

    RejectFile(FindingMapper findings, RunRow run, Layout layout) {
        this.findings = findings;
        this.run = run;
        this.layout = layout;
        this.charset = RefusedFile.charset(layout);
    }

    void write(OutputStream out) throws IOException {
        if (layout.format().charset() == FileCharset.UTF_16) {
            out.write("\ufeff".getBytes(charset));
        }
        header(out);
        long after = -1;
        int place = 0;
        List<RejectRow> page;
        while (!(page = findings.rejects(run.id(), null, null, after, place, PAGE)).isEmpty()) {
            Map<Long, List<FindingRow>> reasons =
                    findings
                            .ofRecords(
                                    run.id(),
                                    page.stream().map(RejectRow::record).toList())
                            .stream()
                            .collect(Collectors.groupingBy(FindingRow::record));
            for (RejectRow reject : page) {
                String reason = reasons.getOrDefault(reject.record(), List.of()).stream()
                        .map(FindingRow::message)
                        .collect(Collectors.joining(" | "));
                record(out, oneLine(reason), reject.raw());
            }
            after = page.get(page.size() - 1).record();
            place = page.get(page.size() - 1).leg();
        }
        if (layout.format() instanceof Xml) {
            out.write("</rejects>\n".getBytes(charset));
        }
    }

    private void header(OutputStream out) throws IOException {
        if (layout.format() instanceof Xml xml) {
            StringBuilder root = new StringBuilder("<rejects");
            xml.namespaces().forEach((prefix, uri) -> root.append(" xmlns:")
                    .append(prefix)
                    .append("=\"")
                    .append(uri.replace("&", "&amp;").replace("<", "&lt;").replace("\"", "&quot;"))
                    .append('"'));
            out.write(root.append(">\n").toString().getBytes(charset));
        }
        Optional<Path> file = run.keptFile();
        if (layout.format() instanceof Delimited format && format.header() && file.isPresent()) {
            try (FileSource source = FileSource.open(file.get())) {
                Opening opening = Opening.of(source, layout);
                long from = opening.header().offset();
                out.write(("Reason" + format.delimiter()).getBytes(charset));
                byte[] names = source.slice(from, (int) (opening.body().offset() - from));
                out.write(RefusedFile.like(layout, source).kept(names));
            }
        }
    }

    private void record(OutputStream out, String reason, byte[] raw) throws IOException {
        if (layout.format() instanceof Delimited format) {
            out.write((quoted(format, reason) + format.delimiter()).getBytes(charset));
            out.write(raw);
        } else if (layout.format() instanceof Xml) {
            out.write(("<!-- " + inComment(reason) + " -->\n").getBytes(charset));
            out.write(raw);
        } else {
            // Behind the record, where it moves no field from its place.
            out.write(raw);
            out.write(("  " + reason).getBytes(charset));
        }
        out.write(RefusedFile.end(layout).getBytes(charset));
    }

    /** A reason quotes what the file has, which may be anything. */
    private static String oneLine(String reason) {
        return NO_TEXT.matcher(reason).replaceAll("\uFFFD");
    }

    /** Two hyphens end a comment, and so would one at its end. */
    private static String inComment(String reason) {
        return HYPHENS.matcher(reason).replaceAll("- ");
    }

    private static String quoted(Delimited format, String text) {
        if (format.quote() == null) {
            return text.replace(format.delimiter(), " ");
        }
        String quote = String.valueOf(format.quote());
        return quote + text.replace(quote, quote + quote) + quote;
    }
}
