package ninepin.server.runs;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import ninepin.core.deliver.Places;
import ninepin.core.deliver.TargetException;
import ninepin.core.deliver.file.WrittenFile;
import ninepin.core.destination.Destinations;
import ninepin.core.destination.support.WritesFiles;
import ninepin.core.job.Job;
import ninepin.core.job.Leg;
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
    private final Places places;

    WrittenController(Runs runs, RunPlans plans, LegAccounts accounts, Places places) {
        this.runs = runs;
        this.plans = plans;
        this.accounts = accounts;
        this.places = places;
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
            Path folder = of.folder(places);
            for (WrittenFile file : of.written(accounts.journal(id, leg.number()))) {
                if (all.size() < MOST) {
                    all.add(new WrittenView(
                            leg.number(),
                            file.number(),
                            file.name(),
                            of.folderLabel(),
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
        Path path = of.folder(places).resolve(file.name());
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
