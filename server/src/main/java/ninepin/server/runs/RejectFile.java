package ninepin.server.runs;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import ninepin.core.bytes.FileSource;
import ninepin.core.format.Formats;
import ninepin.core.format.Transcripts;
import ninepin.core.layout.Layout;
import ninepin.core.record.RejectForm;
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

    private final FindingMapper findings;
    private final RunRow run;
    private final RejectForm form;
    private final Layout layout;
    private final Transcripts transcripts;

    RejectFile(FindingMapper findings, RunRow run, Layout layout, Transcripts transcripts) {
        this.findings = findings;
        this.run = run;
        this.layout = layout;
        this.transcripts = transcripts;
        this.form = Formats.of(layout).rejects();
    }

    void write(OutputStream to) throws IOException {
        Transcripts.compose(this::writeText, layout, to);
    }

    private void writeText(OutputStream out) throws IOException {
        out.write(begin());
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
                out.write(form.record(oneLine(reason), reject.raw()));
            }
            after = page.get(page.size() - 1).record();
            place = page.get(page.size() - 1).leg();
        }
        out.write(form.end());
    }

    private byte[] begin() throws IOException {
        Optional<Path> file = run.keptFile();
        if (file.isEmpty()) {
            return form.begin(null);
        }
        try (FileSource source = transcripts.open(file.get(), layout)) {
            return form.begin(source);
        }
    }

    /** A reason quotes what the file has, which may be anything. */
    private static String oneLine(String reason) {
        return NO_TEXT.matcher(reason).replaceAll("\uFFFD");
    }
}
