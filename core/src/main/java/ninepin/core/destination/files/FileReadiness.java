package ninepin.core.destination.files;

import java.util.ArrayList;
import java.util.List;
import ninepin.core.deliver.FileDelivery;
import ninepin.core.deliver.FileDelivery.OutFile;
import ninepin.core.deliver.FileDelivery.Per;
import ninepin.core.deliver.file.FileDescription;
import ninepin.core.deliver.file.FileName;
import ninepin.core.job.Delivery;
import ninepin.core.job.Leg;
import ninepin.core.job.Shortcoming;
import ninepin.core.layout.DefinitionException;

/** What keeps a leg from writing its files. */
final class FileReadiness {

    private final Leg leg;
    private final OutFile of;
    private final List<Shortcoming> found = new ArrayList<>();

    FileReadiness(Leg leg) {
        this.leg = leg;
        this.of = ((FileDelivery) leg.to()).file();
    }

    List<Shortcoming> check() {
        for (Delivery delivery : leg.parts()) {
            FileDelivery to = (FileDelivery) delivery.to();
            if (!to.file().equals(of)) {
                blocks("JOB-42", "Two deliveries go to " + of.name() + " and say different things about these files.");
            }
            if (FileDescription.countsBeforeRecords(to)) {
                blocks(
                        "JOB-41",
                        "The record " + to.recordType().name() + " stands at the beginning of " + of.name()
                                + " and says what is known only at its end. Let it stand last.");
            }
        }
        checkName();
        if (of.per() == Per.GROUP && (of.by() == null || !fills(of.by()))) {
            blocks("JOB-40", "Say by which target field the records of " + of.name() + " are told apart into files.");
        }
        if (of.per() == Per.RECORDS && of.records() == null) {
            blocks("JOB-40", "Say how many records a file has.");
        }
        return found;
    }

    private boolean fills(String field) {
        return leg.parts().stream().anyMatch(d -> d.columns().contains(field));
    }

    private void checkName() {
        FileName name;
        try {
            name = FileName.parse(of.name());
        } catch (DefinitionException e) {
            blocks("JOB-38", e.getMessage());
            return;
        }
        name.fields().stream()
                .filter(f -> !fills(f))
                .forEach(f -> blocks(
                        "JOB-38",
                        "The name " + of.name() + " takes " + f
                                + ", which is no target field of the delivery that a rule fills."));
        if (of.per() != Per.RUN && !name.tellsFilesApart()) {
            blocks(
                    "JOB-38",
                    "All files of a run would be called " + of.name()
                            + ". Let {number} or a target field tell them apart.");
        } else if (!name.tellsRunsApart() && !of.replace()) {
            found.add(new Shortcoming(
                    false,
                    5,
                    -1,
                    of.name(),
                    "JOB-39",
                    "Each run writes " + of.name() + ": the next one fails while the file of the one before is there."
                            + " Let {date} or {run} tell them apart, or allow that it gives way."));
        }
    }

    private void blocks(String code, String message) {
        found.add(new Shortcoming(true, 5, -1, of.name(), code, message));
    }
}
