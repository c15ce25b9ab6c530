package ninepin.core.testing;

import java.io.IOException;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import ninepin.core.bytes.MemorySource;
import ninepin.core.check.RecordChecker;
import ninepin.core.format.Formats;
import ninepin.core.format.Transcripts;
import ninepin.core.layout.Layout;
import ninepin.core.record.Opening;
import ninepin.core.record.RecordReader;

/** Reads bytes by a layout as a run does, and keeps what came of it. */
public final class Reading {

    public static final LocalDate TODAY = LocalDate.of(2026, 11, 23);

    /** For each record its type's name and its values. */
    public final List<List<String>> records = new ArrayList<>();

    /** The messages of all findings. */
    public final List<String> findings = new ArrayList<>();

    private Reading() {}

    public static Reading of(Layout layout, byte[] bytes) throws IOException {
        Reading reading = new Reading();
        MemorySource source = new MemorySource(Transcripts.text(bytes, layout));
        Opening opening = Formats.open(source, layout);
        if (opening.fault() != null) {
            reading.findings.add(
                    opening.fault().found() + ", expected " + opening.fault().expected());
            return reading;
        }
        RecordChecker checker = new RecordChecker(layout, opening, TODAY);
        RecordReader reader = opening.reader(source, opening.body());
        for (RecordReader.Item i = reader.next(); i != RecordReader.Item.END; i = reader.next()) {
            if (i == RecordReader.Item.BLANK) {
                continue;
            }
            checker.check(reader.record());
            checker.findings().forEach(f -> reading.findings.add(f.message()));
            if (reader.record().fault() == null) {
                int type = reader.record().type();
                List<String> values =
                        new ArrayList<>(List.of(layout.recordTypes().get(type).name()));
                Arrays.stream(checker.values()[type])
                        .map(v -> v.text(layout.format().charset().ofValues().charset()))
                        .forEach(values::add);
                reading.records.add(values);
            }
        }
        checker.atEnd().forEach(f -> reading.findings.add(f.message()));
        return reading;
    }
}
