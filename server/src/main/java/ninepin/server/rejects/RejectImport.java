package ninepin.server.rejects;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import ninepin.core.bytes.MemorySource;
import ninepin.core.format.Formats;
import ninepin.core.format.RefusedFile;
import ninepin.core.format.Transcripts;
import ninepin.core.layout.Layout;
import ninepin.core.record.Opening;
import ninepin.core.record.RecordReader;
import ninepin.core.record.RejectForm;
import ninepin.server.api.Problems;
import ninepin.server.rejects.RejectDesk.RejectKey;
import ninepin.server.rejects.RejectMapper.RejectRow;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * Takes a file of rejects back that was corrected elsewhere: what differs becomes a correction, and the records are sent
 * again, as on the desk.
 */
@Service
class RejectImport {

    /** What became of the file: the new runs, how many records were corrected, sent again, and left open. */
    record Imported(List<Long> runs, int corrected, int sent, int left) {}

    private static final int MOST = 10_000;

    private final RejectMapper mapper;
    private final RejectDesk desk;

    RejectImport(RejectMapper mapper, RejectDesk desk) {
        this.mapper = mapper;
        this.desk = desk;
    }

    /** The open rejects of a run as they stand now, in their own layout. */
    byte[] file(long run) throws IOException {
        RefusedDocuments documents = open(run);
        return Transcripts.composed(documents.file(), documents.layout());
    }

    private RefusedDocuments open(long run) {
        List<RejectRow> rows = mapper.openOf(run, MOST + 1);
        if (rows.isEmpty()) {
            throw Problems.conflict("Run " + run + " has no reject that is open.");
        }
        if (rows.size() > MOST) {
            throw Problems.unprocessable("Run " + run + " has more than " + MOST + " open rejects. Mend the job or the"
                    + " file and run it again; what was delivered is not delivered twice where a key tells.");
        }
        return desk.documents(run, rows);
    }

    /** Corrects the open rejects of a run by a file of them, and sends those that stand in it again. */
    @Transactional
    public Imported take(long run, byte[] file, String who) throws IOException {
        RefusedDocuments documents = open(run);
        List<Integer> places = new ArrayList<>();
        for (int i = 0; i < documents.records().size(); i++) {
            if (documents.carrier(i) == i) {
                places.add(i);
            }
        }
        List<byte[]> records = records(documents.layout(), file);
        List<Integer> matched = matched(documents, places, records);
        RejectForm form = Formats.of(documents.layout()).rejects();
        int corrected = 0;
        List<RejectKey> keys = new ArrayList<>();
        for (int i = 0; i < matched.size(); i++) {
            int at = matched.get(i);
            RejectRow row = documents.records().get(at);
            if (!form.isSame(records.get(i), documents.bytes(documents.now(at)))) {
                desk.correct(row, records.get(i), who);
                corrected++;
            }
            keys.add(new RejectKey(row.runId(), row.leg(), row.record()));
        }
        List<Long> runs = desk.resubmit(keys, who);
        return new Imported(runs, corrected, keys.size(), places.size() - keys.size());
    }

    /** The records of a file, without the reasons that may stand in front of them. */
    private static List<byte[]> records(Layout of, byte[] file) throws IOException {
        Layout layout = RefusedFile.layout(of);
        List<byte[]> records = new ArrayList<>();
        MemorySource source = new MemorySource(Transcripts.text(file, layout));
        Opening opening = Formats.open(source, layout);
        if (opening.fault() != null) {
            throw Problems.unprocessable("The file does not fit the layout " + of.name() + ": "
                    + opening.fault().found() + ", expected " + opening.fault().expected() + "."
                    + (startsWithReason(of, file) ? " Take out the column of reasons in front." : ""));
        }
        try (RecordReader reader = opening.reader(source, opening.body())) {
            for (RecordReader.Item item = reader.next(); item != RecordReader.Item.END; item = reader.next()) {
                if (item == RecordReader.Item.RECORD) {
                    records.add(Formats.of(of)
                            .rejects()
                            .withoutReason(reader.record().fileBytes()));
                }
            }
        }
        return records;
    }

    private static boolean startsWithReason(Layout of, byte[] file) {
        return Formats.of(of).rejects().startsWithReason(file);
    }

    /**
     * The reject that each record of the file stands for: by their order where the file has all of them, by what stands in
     * them where some were taken out.
     */
    private static List<Integer> matched(RefusedDocuments documents, List<Integer> places, List<byte[]> records) {
        if (records.size() == places.size()) {
            return places;
        }
        RejectForm form = Formats.of(documents.layout()).rejects();
        List<Integer> matched = new ArrayList<>();
        for (int at : places) {
            boolean same = matched.size() < records.size()
                    && form.isSame(records.get(matched.size()), documents.bytes(documents.now(at)));
            if (same) {
                matched.add(at);
            }
        }
        if (records.isEmpty() || matched.size() < records.size()) {
            throw Problems.unprocessable("The file has " + records.size() + " records, and " + places.size()
                    + " rejects are open. Where some are taken out, the others have to stand as they were, in their order;"
                    + " otherwise it cannot be told which is which.");
        }
        return matched;
    }
}
