package ninepin.server.pickup;

import static io.swagger.v3.oas.annotations.media.Schema.RequiredMode.REQUIRED;

import io.swagger.v3.oas.annotations.media.Schema;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.Principal;
import java.util.List;
import java.util.Map;
import java.util.OptionalLong;
import ninepin.core.format.Formats;
import ninepin.core.job.Definitions;
import ninepin.core.job.Job;
import ninepin.core.layout.Layout;
import ninepin.doors.Sources;
import ninepin.doors.source.Asked;
import ninepin.doors.source.SourceException;
import ninepin.server.api.Problems;
import ninepin.server.jobs.JobMapper.JobRow;
import ninepin.server.jobs.Jobs;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.databind.JsonNode;

/** Sources that are asked for records, such as a query of a database. */
@RestController
@RequestMapping("/api/v1/jobs/{job}")
class AskedController {

    /** The sheet; whether its layout is to be kept where it is, or made of the columns of the query. */
    record QueryAsked(@Schema(requiredMode = REQUIRED) JsonNode job, JsonNode layout, boolean keepLayout) {
        QueryAsked {
            Problems.needed("job", job);
            if (keepLayout) {
                Problems.needed("layout", layout);
            }
        }
    }

    /** The layout that goes with the query. */
    record QueryTaken(JsonNode layout) {}

    /** The run that was made of the rows; null where there were none. */
    record AskedRun(Long run) {}

    private final Jobs jobs;
    private final PickUps pickUps;

    AskedController(Jobs jobs, PickUps pickUps) {
        this.jobs = jobs;
        this.pickUps = pickUps;
    }

    /** Takes the first rows of a query as the sample, and its columns as the layout where that is asked for. */
    @PostMapping("/query")
    QueryTaken take(@PathVariable("job") String name, @RequestBody QueryAsked asked) throws IOException {
        JobRow row = jobs.get(name);
        Job job = Definitions.job(asked.job().toString());
        Asked source = Sources.asked(job.pickUp())
                .filter(Asked::decided)
                .orElseThrow(() -> Problems.unprocessable("Say in section 1 which database is asked, and for what."));
        Path part = Files.createTempFile("ninepin-sample", ".part");
        try {
            Layout layout = asked.keepLayout()
                    ? Definitions.layout(asked.layout().toString())
                    : source.layout(pickUps.context(job, null, "query"), job.layout());
            String fileName = job.name() + "_sample" + Formats.of(layout).ending();
            source.sample(pickUps.context(job, layout, fileName), part);
            try (InputStream bytes = Files.newInputStream(part)) {
                jobs.setSample(row.name(), fileName, bytes);
            }
            return new QueryTaken(Definitions.mapper().readTree(Definitions.write(layout)));
        } catch (SourceException e) {
            throw Problems.unprocessable(e.getMessage());
        } finally {
            Files.deleteIfExists(part);
        }
    }

    /** Asks now, and runs what comes. */
    @PostMapping("/ask")
    AskedRun ask(@PathVariable("job") String name, @RequestBody Map<String, String> asked, Principal who) {
        JobRow row = jobs.get(name);
        if (row.liveVersion() == null) {
            throw Problems.conflict("Put the job live before it is run.");
        }
        Job job = jobs.version(row.id(), row.liveVersion()).job();
        if (Sources.asked(job.pickUp()).isEmpty()) {
            throw Problems.unprocessable("The live version asks no database.");
        }
        List<String> missing = job.missingAskedValues(asked);
        if (!missing.isEmpty()) {
            throw Problems.unprocessable("A value is asked at start for " + String.join(", ", missing) + ".");
        }
        OptionalLong run = pickUps.ask(row, job.pickUp(), who.getName(), asked);
        return new AskedRun(run.isPresent() ? run.getAsLong() : null);
    }
}
