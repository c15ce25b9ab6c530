package ninepin.server.jobs;

import static io.swagger.v3.oas.annotations.media.Schema.RequiredMode.REQUIRED;

import io.swagger.v3.oas.annotations.media.Schema;
import java.io.IOException;
import java.io.InputStream;
import java.security.Principal;
import java.time.Instant;
import java.util.List;
import ninepin.core.job.Definitions;
import ninepin.core.job.Shortcoming;
import ninepin.server.api.Problems;
import ninepin.server.config.FileNames;
import ninepin.server.definitions.JsonDifference;
import ninepin.server.jobs.JobMapper.JobRow;
import ninepin.server.schedule.JobSchedules;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.multipart.MultipartFile;
import tools.jackson.databind.JsonNode;

@RestController
@RequestMapping("/api/v1/jobs")
class JobController {

    /** A draft: job and layout as the schemas in docs/schema describe them, and the revision it was made from. */
    record Draft(
            @Schema(requiredMode = REQUIRED) JsonNode job,
            @Schema(requiredMode = REQUIRED) JsonNode layout,
            int revision) {
        Draft {
            Problems.needed("job", job);
            Problems.needed("layout", layout);
        }
    }

    /** A job with its draft. */
    record JobView(
            String name,
            JsonNode job,
            JsonNode layout,
            int revision,
            Integer liveVersion,
            boolean draftAhead,
            boolean scheduled,
            String sampleName,
            Instant next,
            Instant updatedAt,
            String updatedBy) {}

    /** A version that was put live. */
    record Version(int version, Instant liveAt, String liveBy, boolean live, JsonNode job, JsonNode layout) {}

    /** What became of putting live: the version, or what keeps the draft from it. */
    record LiveResult(Integer version, List<Shortcoming> shortcomings) {}

    private final Jobs jobs;
    private final JobSchedules schedules;

    JobController(Jobs jobs, JobSchedules schedules) {
        this.jobs = jobs;
        this.schedules = schedules;
    }

    /** Makes a job with its layout. */
    @PostMapping
    @ResponseStatus(HttpStatus.CREATED)
    JobView create(@RequestBody Draft draft, Principal who) {
        return view(jobs.create(draft.job(), draft.layout(), who.getName()));
    }

    /** The draft of a job, and which version is live. */
    @GetMapping("/{job}")
    JobView job(@PathVariable("job") String name) {
        return view(jobs.get(name));
    }

    /** Saves the draft, unless somebody has changed it since that revision. */
    @PutMapping("/{job}/draft")
    JobView save(@PathVariable("job") String name, @RequestBody Draft draft, Principal who) {
        return view(jobs.saveDraft(name, draft.revision(), draft.job(), draft.layout(), who.getName()));
    }

    /** How a draft differs from the one that is saved, which somebody else may have changed meanwhile. */
    @PostMapping("/{job}/difference")
    List<JsonDifference.Change> difference(@PathVariable("job") String name, @RequestBody Draft draft) {
        return jobs.difference(jobs.get(name), draft.job(), draft.layout());
    }

    /** What goes with a job when it is deleted. */
    @GetMapping("/{job}/dependents")
    JobMapper.Dependents dependents(@PathVariable("job") String name) {
        return jobs.dependents(name);
    }

    /** Deletes a job with its versions and the record of its runs; refused while one of them is under way. */
    @DeleteMapping("/{job}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void delete(@PathVariable("job") String name) {
        jobs.delete(name);
    }

    /** What keeps the draft from running, and what it could do wrong. */
    @GetMapping("/{job}/check")
    List<Shortcoming> check(@PathVariable("job") String name, @RequestParam(defaultValue = "false") boolean live) {
        return live ? jobs.checkForLive(name) : jobs.checkDraft(jobs.get(name));
    }

    /** What the draft changes of the live version. */
    @GetMapping("/{job}/changes")
    List<JsonDifference.Change> changes(@PathVariable("job") String name) {
        return jobs.changes(jobs.get(name));
    }

    /** Puts the draft live as the next version. Proofs that are red keep it from that. */
    @PostMapping("/{job}/live")
    LiveResult live(@PathVariable("job") String name, Principal who) {
        Integer before = jobs.get(name).liveVersion();
        List<Shortcoming> shortcomings = jobs.putLive(name, who.getName());
        Integer after = jobs.get(name).liveVersion();
        return new LiveResult(after == null || after.equals(before) ? null : after, shortcomings);
    }

    /** The versions that were put live, the latest first. */
    @GetMapping("/{job}/versions")
    List<Version> versions(@PathVariable("job") String name) {
        JobRow row = jobs.get(name);
        return jobs.versions(row).stream()
                .map(v -> new Version(
                        v.version(),
                        v.liveAt(),
                        v.liveBy(),
                        Integer.valueOf(v.version()).equals(row.liveVersion()),
                        Definitions.mapper().readTree(v.definition()),
                        Definitions.mapper().readTree(v.layout())))
                .toList();
    }

    /** Switches the schedule of a job on or off. */
    @PutMapping("/{job}/schedule")
    JobView schedule(@PathVariable("job") String name, @RequestParam boolean on) {
        jobs.schedule(name, on);
        return view(jobs.get(name));
    }

    /** Takes a file as the sample of a job. */
    @PutMapping("/{job}/sample")
    JobView sample(@PathVariable("job") String name, @RequestParam MultipartFile file) throws IOException {
        try (InputStream bytes = file.getInputStream()) {
            jobs.setSample(name, FileNames.plain(file.getOriginalFilename(), "sample"), bytes);
        }
        return view(jobs.get(name));
    }

    private JobView view(JobRow row) {
        return new JobView(
                row.name(),
                Definitions.mapper().readTree(row.draft()),
                Definitions.mapper().readTree(row.draftLayout()),
                row.revision(),
                row.liveVersion(),
                jobs.draftAhead(row),
                row.scheduled(),
                row.sampleName(),
                schedules.next(row.name()).orElse(null),
                row.updatedAt(),
                row.updatedBy());
    }
}
