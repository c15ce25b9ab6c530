package ninepin.server.runs;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import ninepin.core.deliver.FileDelivery;
import ninepin.core.deliver.TargetException;
import ninepin.core.deliver.file.FileTarget;
import ninepin.core.deliver.file.WrittenFile;
import ninepin.core.job.Leg;
import ninepin.core.job.LegTargets;
import ninepin.server.api.Problems;
import ninepin.server.runs.RunMapper.RunRow;
import org.springframework.core.io.FileSystemResource;
import org.springframework.core.io.Resource;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RestController;

/** The files that a run has written. */
@RestController
class WrittenController {

    /** A file; whether it is complete, and whether it is there still. */
    record WrittenView(
            int leg,
            int number,
            String name,
            String folder,
            long records,
            long length,
            boolean complete,
            boolean there) {}

    private static final int MOST = 200;

    private final Runs runs;
    private final RunPlans plans;
    private final LegAccounts accounts;
    private final LegTargets targets;

    WrittenController(Runs runs, RunPlans plans, LegAccounts accounts, LegTargets targets) {
        this.runs = runs;
        this.plans = plans;
        this.accounts = accounts;
        this.targets = targets;
    }

    /** The files that a run has written. */
    @GetMapping("/api/v1/runs/{run}/written")
    List<WrittenView> written(@PathVariable("run") long id) throws IOException, TargetException {
        List<WrittenView> all = new ArrayList<>();
        RunRow row = runs.row(id);
        for (Leg leg : plans.definition(row).job().legs()) {
            if (leg.kind() != Leg.Kind.FILES) {
                continue;
            }
            Path folder = targets.folder(leg);
            FileDelivery.OutFile of = ((FileDelivery) leg.to()).file();
            for (WrittenFile file : FileTarget.writtenBy(accounts.journal(id, leg.number()))) {
                if (all.size() < MOST) {
                    all.add(new WrittenView(
                            leg.number(),
                            file.number(),
                            file.name(),
                            of.root() + (of.folder().isEmpty() ? "" : "/" + of.folder()),
                            file.records(),
                            file.length(),
                            file.complete(),
                            file.complete() && Files.exists(folder.resolve(file.name()))));
                }
            }
        }
        return all;
    }

    /** A file as it stands in its folder now. */
    @GetMapping("/api/v1/runs/{run}/written/{leg}/{number}")
    ResponseEntity<Resource> content(@PathVariable("run") long id, @PathVariable int leg, @PathVariable int number)
            throws IOException, TargetException {
        RunRow row = runs.row(id);
        List<Leg> legs = plans.definition(row).job().legs();
        if (leg < 0 || leg >= legs.size() || legs.get(leg).kind() != Leg.Kind.FILES) {
            throw Problems.notFound("The run writes no such file.");
        }
        WrittenFile file = FileTarget.writtenBy(accounts.journal(id, leg)).stream()
                .filter(f -> f.number() == number && f.complete())
                .findFirst()
                .orElseThrow(() -> Problems.notFound("The run has written no such file."));
        Path path = targets.folder(legs.get(leg)).resolve(file.name());
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
