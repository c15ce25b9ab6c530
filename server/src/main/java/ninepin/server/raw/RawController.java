package ninepin.server.raw;

import java.io.IOException;
import java.nio.charset.Charset;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import ninepin.core.bytes.FileSource;
import ninepin.core.bytes.LineIndex;
import ninepin.core.bytes.RawPiece;
import ninepin.core.format.Formats;
import ninepin.core.format.Transcripts;
import ninepin.core.job.Definitions;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.Delimited;
import ninepin.core.layout.Field;
import ninepin.core.layout.Layout;
import ninepin.core.layout.RecordType;
import ninepin.server.api.Problems;
import ninepin.server.jobs.JobMapper.JobRow;
import ninepin.server.jobs.Jobs;
import ninepin.server.layouts.LayoutLibrary;
import ninepin.server.layouts.LayoutMapper.LayoutRow;
import ninepin.server.runs.RunMapper.RunRow;
import ninepin.server.runs.Runs;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** The raw view of samples and of the files of runs, in files of any size. */
@RestController
@RequestMapping("/api/v1/raw")
class RawController {

    /** A piece of a file: its name, how it is written, how many lines it has in all, and the piece. */
    record RawView(String file, String charset, long lines, RawPiece piece) {}

    private record Opened(String name, Path path, Layout layout) {}

    private static final int INDEXES = 16;

    private static final Layout PLAIN_TEXT = new Layout(
            "plain-text",
            null,
            new Delimited(null, ';', null, false, 0, null),
            List.of(new RecordType("line", List.of(Field.inColumn(1, "text", null)))));

    private final Jobs jobs;
    private final LayoutLibrary library;
    private final Runs runs;
    /** The indexes of the files looked at last; what changes its size or time gets a new one. */
    private final Map<String, LineIndex> indexes = new LinkedHashMap<>(INDEXES, 0.75f, true) {
        @Override
        protected boolean removeEldestEntry(Map.Entry<String, LineIndex> eldest) {
            return size() > INDEXES;
        }
    };

    private final Transcripts transcripts;

    RawController(Jobs jobs, LayoutLibrary library, Runs runs, Transcripts transcripts) {
        this.jobs = jobs;
        this.library = library;
        this.runs = runs;
        this.transcripts = transcripts;
    }

    /** A piece from a line (from 1) or a byte (from 0) on. */
    @GetMapping("/{owner}/{id}")
    RawView piece(
            @PathVariable String owner,
            @PathVariable String id,
            @RequestParam(required = false) Long line,
            @RequestParam(defaultValue = "0") long offset,
            @RequestParam(defaultValue = "300") int count)
            throws IOException {
        Opened file = open(owner, id);
        try (FileSource source = transcripts.open(file.path(), file.layout())) {
            Charset charset = Formats.of(file.layout()).charset(source);
            LineIndex index = index(file, charset);
            long at = line == null ? offset : index.offsetOf(source, line);
            RawPiece piece = RawPiece.of(source, index, charset, at, Math.max(1, Math.min(count, 2_000)));
            return new RawView(file.name(), charset.name(), index.lines(source), piece);
        }
    }

    /** Looks for a text, or for bytes written as {@code x'0D0A'}, from a byte on. */
    @GetMapping("/{owner}/{id}/find")
    RawPiece.Hit find(
            @PathVariable String owner,
            @PathVariable String id,
            @RequestParam String text,
            @RequestParam(defaultValue = "0") long from)
            throws IOException {
        Opened file = open(owner, id);
        try (FileSource source = transcripts.open(file.path(), file.layout())) {
            Charset charset = Formats.of(file.layout()).charset(source);
            return RawPiece.find(source, index(file, charset), wanted(text, charset), from);
        }
    }

    private static byte[] wanted(String text, Charset charset) {
        if (text.isEmpty()) {
            throw Problems.unprocessable("Say what to look for.");
        }
        if (text.matches("(?i)x'([0-9a-f]{2})+'")) {
            return HexFormat.of().parseHex(text.substring(2, text.length() - 1));
        }
        if (!charset.newEncoder().canEncode(text)) {
            throw Problems.unprocessable("\"" + text + "\" cannot be written in " + charset.name() + ".");
        }
        return text.getBytes(charset);
    }

    /** The sample of a job or a layout, or the file of a run. */
    private Opened open(String owner, String id) {
        switch (owner) {
            case "job" -> {
                JobRow row = jobs.get(id);
                Path path = jobs.sample(row).orElseThrow(RawController::noSample);
                return new Opened(row.sampleName(), path, layout(row.draftLayout()));
            }
            case "layout" -> {
                LayoutRow row = library.get(id);
                Path path = library.sample(row).orElseThrow(RawController::noSample);
                return new Opened(row.sampleName(), path, layout(row.draft()));
            }
            case "run" -> {
                RunRow row = runs.row(number(id));
                return new Opened(
                        row.fileName(),
                        Runs.requireFile(row),
                        jobs.version(row.jobId(), row.version()).layout());
            }
            default -> throw Problems.notFound("Files belong to a job, a layout or a run; there is no " + owner + ".");
        }
    }

    private static long number(String id) {
        try {
            return Long.parseLong(id);
        } catch (NumberFormatException e) {
            throw Problems.notFound("There is no run " + id + ".");
        }
    }

    private static RuntimeException noSample() {
        return Problems.notFound("There is no sample yet.");
    }

    /** The layout of the file; of a plain text where the draft is none yet. */
    private static Layout layout(String draft) {
        try {
            return Definitions.layout(draft);
        } catch (DefinitionException e) {
            return PLAIN_TEXT;
        }
    }

    private LineIndex index(Opened file, Charset charset) throws IOException {
        String key = file.path() + "|" + Files.size(file.path()) + "|"
                + Files.getLastModifiedTime(file.path()).toMillis() + "|"
                + file.layout().format();
        synchronized (indexes) {
            return indexes.computeIfAbsent(
                    key, k -> new LineIndex(Formats.of(file.layout()).blockSize(), charset));
        }
    }
}
