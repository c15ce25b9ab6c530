package ninepin.server.rejects;

import java.io.IOException;
import java.nio.charset.Charset;
import java.util.ArrayList;
import java.util.List;
import ninepin.core.bytes.MemorySource;
import ninepin.core.format.Formats;
import ninepin.core.format.RefusedFile;
import ninepin.core.format.Transcripts;
import ninepin.core.layout.Format;
import ninepin.core.layout.Layout;
import ninepin.core.preview.Preview;
import ninepin.core.preview.Previewer;
import ninepin.server.jobs.Jobs;
import ninepin.server.jobs.ShapingContexts;
import ninepin.server.rejects.RejectMapper.RejectRow;
import ninepin.server.runs.RunMapper.RunRow;

/**
 * Records that one run refused, whole documents of them, as a file of their own that can be looked at and run. Elements
 * inside others stand in their text, so that only the outermost are written; {@link #carriers} says which those are.
 */
final class RefusedDocuments {

    /** The most records that are told one by one. */
    static final int MOST_SHOWN = 2_000;

    private final Layout layout;
    private final Charset charset;
    private final Jobs.Definition definition;
    private final RefusedFile files;
    private final List<RejectRow> records;
    /** For each record the index of the one whose text it stands in, which is mostly itself. */
    private final int[] carriers;

    RefusedDocuments(RunRow run, Jobs.Definition definition, List<RejectRow> records, Transcripts transcripts)
            throws IOException {
        this.definition = definition;
        this.layout = definition.layout();
        this.charset = Formats.of(layout).keptCharset();
        this.records = records;
        this.files = RefusedFile.like(layout, run.file(), transcripts);
        this.carriers = new int[records.size()];
        for (int i = 0; i < carriers.length; i++) {
            RejectRow before = i == 0 ? null : records.get(carriers[i - 1]);
            boolean inside = Formats.of(layout).nests()
                    && before != null
                    && records.get(i).byteOffset() < before.byteOffset() + before.byteLength();
            carriers[i] = inside ? carriers[i - 1] : i;
        }
    }

    Layout layout() {
        return layout;
    }

    /** Files like the one they came in. */
    RefusedFile files() {
        return files;
    }

    /** How the records are written. */
    Format format() {
        return layout.format();
    }

    /** The name of the job. */
    String job() {
        return definition.job().name();
    }

    List<RejectRow> records() {
        return records;
    }

    /** The index of the record in whose text a record stands. */
    int carrier(int record) {
        return carriers[record];
    }

    String text(byte[] bytes) {
        return new String(bytes, charset);
    }

    byte[] bytes(String text) {
        return text.getBytes(charset);
    }

    /** The text of a record as it stands now: corrected, or as it came. */
    String now(int record) {
        RejectRow row = records.get(record);
        return text(row.corrected() != null ? row.corrected() : row.raw());
    }

    /** The index of a record by its number in its run. */
    int indexOf(long record) {
        for (int i = 0; i < records.size(); i++) {
            if (records.get(i).record() == record) {
                return i;
            }
        }
        throw new IllegalArgumentException("no record " + record);
    }

    /** Which of the records that carry themselves a record is, counted from 0. */
    int placeAmongCarriers(int record) {
        int place = 0;
        for (int i = 0; i < record; i++) {
            place += carriers[i] == i ? 1 : 0;
        }
        return place;
    }

    /** A file of the records as they stand now. */
    byte[] file() {
        return files.of(now());
    }

    /** What stands in the file, one for each record that carries itself. */
    private List<byte[]> now() {
        List<byte[]> bytes = new ArrayList<>();
        for (int i = 0; i < records.size(); i++) {
            if (carriers[i] == i) {
                bytes.add(
                        records.get(i).corrected() != null
                                ? records.get(i).corrected()
                                : records.get(i).raw());
            }
        }
        return bytes;
    }

    /** Looks at the records as they stand now, as a run would. */
    Preview preview(ShapingContexts contexts) throws IOException {
        return preview(contexts, file());
    }

    /** Looks at other texts for the records that carry themselves, in their order. */
    Preview preview(ShapingContexts contexts, List<String> texts) throws IOException {
        return preview(contexts, files.of(texts.stream().map(this::bytes).toList()));
    }

    private Preview preview(ShapingContexts contexts, byte[] file) throws IOException {
        Layout loose = RefusedFile.layout(layout);
        return Previewer.of(
                new MemorySource(file),
                definition.job().withChecks(loose),
                definition.job(),
                contexts.sample(definition.job(), "rejects", null).context(),
                1,
                MOST_SHOWN);
    }
}
