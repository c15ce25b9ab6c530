package ninepin.server.runs;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import ninepin.core.deliver.Places;
import ninepin.core.deliver.TargetException;
import ninepin.core.deliver.file.WrittenFile;
import ninepin.core.destination.Destinations;
import ninepin.core.destination.support.WritesFiles;
import ninepin.core.job.Job;
import ninepin.core.job.Leg;
import ninepin.server.api.Problems;
import ninepin.server.runs.RunMapper.RunRow;
import ninepin.server.transfer.Outbox;
import org.springframework.core.io.FileSystemResource;
import org.springframework.core.io.Resource;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RestController;

/** The files that a run has written. */
@RestController
class WrittenController {

    /**
     * A file of a run.
     *
     * @param complete whether nothing will be added
     * @param there whether it is where it was written or sent to; not known of a root that is away
     * @param sending how far it is on its way to another machine; null where it needs none
     */
    record WrittenView(
            int leg,
            int number,
            String name,
            String folder,
            long records,
            long length,
            boolean complete,
            boolean there,
            Outbox.SendingView sending) {}

    /** How many files are tried at once. */
    record Sent(int files) {}

    private static final int MOST = 200;

    private final Runs runs;
    private final RunPlans plans;
    private final LegAccounts accounts;
    private final Places places;
    private final Outbox outbox;

    WrittenController(Runs runs, RunPlans plans, LegAccounts accounts, Places places, Outbox outbox) {
        this.runs = runs;
        this.plans = plans;
        this.accounts = accounts;
        this.places = places;
        this.outbox = outbox;
    }

    /** The files that a run has written. */
    @GetMapping("/api/v1/runs/{run}/written")
    List<WrittenView> written(@PathVariable("run") long id) throws IOException, TargetException {
        List<WrittenView> all = new ArrayList<>();
        RunRow row = runs.row(id);
        Job job = plans.definition(row).job();
        for (Leg leg : job.legs()) {
            WritesFiles of = Destinations.files(job, leg).orElse(null);
            if (of == null) {
                continue;
            }
            Map<Integer, Outbox.SendingView> sending = outbox.of(id, leg.number(), 0);
            for (WrittenFile file : of.written(accounts.journal(id, leg.number()))) {
                if (all.size() < MOST) {
                    all.add(new WrittenView(
                            leg.number(),
                            file.number(),
                            file.name(),
                            of.folderLabel(),
                            file.records(),
                            file.size(),
                            file.complete(),
                            file.complete() && isThere(row, leg, of, file),
                            sending.get(file.number())));
                }
            }
        }
        return all;
    }

    private boolean isThere(RunRow row, Leg leg, WritesFiles of, WrittenFile file) {
        try {
            return Files.exists(folder(row, leg.number(), file.number(), of).resolve(file.name()));
        } catch (TargetException e) {
            return false;
        }
    }

    /** Where a file is: in its folder, or here while it is still to be sent there. */
    private Path folder(RunRow row, int leg, int number, WritesFiles of) throws TargetException {
        boolean sent = outbox.has(row.id(), leg) && !outbox.isHere(row.id(), leg, number);
        return sent ? places.folder(of.root(), of.folder()) : of.folder(places, accounts.journal(row.id(), leg));
    }

    /** Tries at once to send the files of a run that wait for a root on another machine. Answers how many there are. */
    @PostMapping("/api/v1/runs/{run}/written/send")
    Sent send(@PathVariable("run") long id) {
        runs.row(id);
        return new Sent(outbox.sendNow(id));
    }

    /** A file as it stands in its folder now. */
    @GetMapping("/api/v1/runs/{run}/written/{leg}/{number}")
    ResponseEntity<Resource> content(@PathVariable("run") long id, @PathVariable int leg, @PathVariable int number)
            throws IOException, TargetException {
        RunRow row = runs.row(id);
        Job job = plans.definition(row).job();
        WritesFiles of = job.legs().stream()
                .filter(l -> l.number() == leg)
                .findFirst()
                .flatMap(l -> Destinations.files(job, l))
                .orElseThrow(() -> Problems.notFound("The run writes no such file."));
        WrittenFile file = of.written(accounts.journal(id, leg)).stream()
                .filter(f -> f.number() == number && f.complete())
                .findFirst()
                .orElseThrow(() -> Problems.notFound("The run has written no such file."));
        Path path = folder(row, leg, number, of).resolve(file.name());
        if (!Files.isRegularFile(path)) {
            throw Problems.notFound(file.name() + " has been moved away since.");
        }
        String name =
                ContentDisposition.attachment().filename(file.name()).build().toString();
        return ResponseEntity.ok()
                .header(HttpHeaders.CONTENT_DISPOSITION, name)
                .contentType(MediaType.APPLICATION_OCTET_STREAM)
                .body(new FileSystemResource(path));
    }
}
