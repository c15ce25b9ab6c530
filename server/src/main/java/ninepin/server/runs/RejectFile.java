package ninepin.server.runs;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.Charset;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import ninepin.core.layout.Delimited;
import ninepin.core.layout.Layout;
import ninepin.core.read.DelimitedOpening;
import ninepin.core.source.FileSource;
import ninepin.server.runs.FindingMapper.FindingRow;
import ninepin.server.runs.FindingMapper.RejectRow;
import ninepin.server.runs.RunMapper.RunRow;

/**
 * Writes the rejects of a run in the file's own layout: the header as it came with a column for the reason in front,
 * then each record byte for byte behind its reason.
 */
final class RejectFile {

    private static final int PAGE = 500;

    private final FindingMapper findings;
    private final RunRow run;
    private final Delimited format;
    private final Charset charset;

    RejectFile(FindingMapper findings, RunRow run, Layout layout) {
        this.findings = findings;
        this.run = run;
        this.format = (Delimited) layout.format();
        this.charset = format.charset().charset();
    }

    void write(OutputStream out, Layout layout) throws IOException {
        Path file = Path.of(run.filePath());
        if (format.header() && Files.exists(file)) {
            try (FileSource source = FileSource.open(file)) {
                DelimitedOpening opening = DelimitedOpening.of(source, layout);
                int length = (int) (opening.body().offset() - opening.headerOffset());
                out.write(("Reason" + format.delimiter()).getBytes(charset));
                out.write(source.slice(opening.headerOffset(), length));
            }
        }
        long after = -1;
        List<RejectRow> page;
        while (!(page = findings.rejects(run.id(), null, null, after, PAGE)).isEmpty()) {
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
                out.write((quoted(reason) + format.delimiter()).getBytes(charset));
                out.write(reject.raw());
                out.write("\r\n".getBytes(charset));
            }
            after = page.get(page.size() - 1).record();
        }
    }

    private String quoted(String text) {
        if (format.quote() == null) {
            return text.replace(format.delimiter(), ' ');
        }
        String quote = String.valueOf(format.quote());
        return quote + text.replace(quote, quote + quote) + quote;
    }
}
