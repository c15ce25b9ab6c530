package ninepin.server.bench;

import static io.swagger.v3.oas.annotations.media.Schema.RequiredMode.REQUIRED;

import io.swagger.v3.oas.annotations.media.Schema;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.Charset;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import ninepin.core.deliver.Places;
import ninepin.core.deliver.Tally;
import ninepin.core.deliver.Target;
import ninepin.core.deliver.TargetException;
import ninepin.core.deliver.file.FileRehearsal;
import ninepin.core.destination.Destinations;
import ninepin.core.destination.support.WritesFiles;
import ninepin.core.format.Transcripts;
import ninepin.core.job.Definitions;
import ninepin.core.job.Job;
import ninepin.core.job.Leg;
import ninepin.core.layout.Layout;
import ninepin.core.run.Run;
import ninepin.core.run.RunListener;
import ninepin.core.run.RunOutcome;
import ninepin.core.run.StopSignal;
import ninepin.core.shape.ShapingContext;
import ninepin.server.api.Problems;
import ninepin.server.jobs.JobMapper.JobRow;
import ninepin.server.jobs.Jobs;
import ninepin.server.jobs.ShapingContexts;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.databind.JsonNode;

/** The files that a job's sample would give, as they would be written. */
@RestController
@RequestMapping("/api/v1/jobs/{job}")
class FilePreviewController {

    /** The sheet, and the delivery whose files are asked for. */
    record FilesAsked(
            @Schema(requiredMode = REQUIRED) JsonNode job,
            @Schema(requiredMode = REQUIRED) JsonNode layout,
            int delivery) {
        FilesAsked {
            Problems.needed("job", job);
            Problems.needed("layout", layout);
        }
    }

    /** A file; of a long one its beginning. */
    record FileShown(String name, long length, boolean cut, String text) {}

    /** The files, the first ones of many, how many there are, and what became of the sample. */
    record FilesShown(List<FileShown> files, int count, String state, long rejected, String message) {}

    private static final int MOST_FILES = 20;
    private static final int MOST_BYTES = 20_000;
    private static final long MOST_SAMPLE = 50L << 20;

    private final Jobs jobs;
    private final Places places;
    private final ShapingContexts contexts;

    private final Transcripts transcripts;

    FilePreviewController(Jobs jobs, Places places, ShapingContexts contexts, Transcripts transcripts) {
        this.jobs = jobs;
        this.places = places;
        this.contexts = contexts;
        this.transcripts = transcripts;
    }

    /** The files that a delivery would write of the sample. */
    @PostMapping("/files")
    FilesShown files(@PathVariable("job") String name, @RequestBody FilesAsked asked)
            throws IOException, TargetException {
        JobRow row = jobs.get(name);
        Path sample = jobs.neededSample(row);
        if (Files.size(sample) > MOST_SAMPLE) {
            throw Problems.unprocessable("The sample is larger than " + (MOST_SAMPLE >> 20)
                    + " MiB: rehearse the job, or give it a smaller sample to see files of.");
        }
        Job job = Definitions.job(asked.job().toString());
        Layout layout = Definitions.layout(asked.layout().toString());
        Leg leg = job.legs().stream()
                .filter(l -> l.deliveries().contains(asked.delivery()))
                .findFirst()
                .orElse(null);
        WritesFiles of = Optional.ofNullable(leg)
                .flatMap(l -> Destinations.files(job, l))
                .orElseThrow(() -> Problems.unprocessable(
                        "Say in which folder, under which name and by which layout the files are written."));
        ShapingContext context = contexts.sample(job, row.sampleName(), null).context();
        Path journal = Files.createTempFile("ninepin-files", ".ndjson");
        try (Target target = of.rehearsal(places, context.facts())) {
            RunOutcome outcome = new Run(
                            job.plan(layout, context, Tally.ZERO, leg),
                            transcripts.readable(sample, layout),
                            journal,
                            target,
                            RunListener.NONE,
                            new StopSignal())
                    .execute();
            List<Path> written = ((FileRehearsal) target).files();
            Charset charset = of.charset();
            List<FileShown> shown = new ArrayList<>();
            for (Path path : written.subList(0, Math.min(written.size(), MOST_FILES))) {
                long size = Files.size(path);
                shown.add(new FileShown(
                        path.getFileName().toString(), size, size > MOST_BYTES, text(path, charset, of.layout())));
            }
            return new FilesShown(
                    shown,
                    written.size(),
                    outcome.state().name().toLowerCase(),
                    outcome.seen().tally().rejected(),
                    outcome.message());
        } finally {
            Files.deleteIfExists(journal);
        }
    }

    private String text(Path path, Charset charset, Layout layout) throws IOException {
        try (InputStream in = Files.newInputStream(transcripts.readable(path, layout))) {
            return new String(in.readNBytes(MOST_BYTES), charset).replace("\r\n", "\n");
        }
    }
}
