package ninepin.server.jobs;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import ninepin.core.deliver.TableDescription;
import ninepin.core.job.Definitions;
import ninepin.core.job.Job;
import ninepin.core.job.Shortcoming;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.Layout;
import ninepin.core.ready.Readiness;
import ninepin.server.api.Problems;
import ninepin.server.jobs.JobMapper.JobRow;
import ninepin.server.layouts.LayoutUse;
import org.springframework.stereotype.Component;
import tools.jackson.databind.JsonNode;

/** Tells which jobs work with a layout, what a change of it breaks there, and hands it to their drafts. */
@Component
class JobsOfLayout implements LayoutUse {

    private final JobMapper jobs;
    private final ShapingContexts contexts;
    private final java.time.Clock clock;

    JobsOfLayout(JobMapper jobs, ShapingContexts contexts, java.time.Clock clock) {
        this.jobs = jobs;
        this.contexts = contexts;
        this.clock = clock;
    }

    @Override
    public List<Use> of(String layout, JsonNode proposed) {
        return jobs.workingWith(layout).stream()
                .map(row -> {
                    JsonNode job = Definitions.mapper().readTree(row.draft());
                    return new Use(
                            row.name(),
                            job.path("title").asString(row.name()),
                            Definitions.mapper().readTree(row.draftLayout()),
                            row.liveVersion(),
                            proposed == null ? List.of() : breaks(row, proposed));
                })
                .toList();
    }

    /** What keeps the job from running with the proposed layout, and does not keep it now. */
    private List<String> breaks(JobRow row, JsonNode proposed) {
        Set<String> now = Set.copyOf(troubles(row.draft(), row.draftLayout()));
        return troubles(row.draft(), proposed.toString()).stream()
                .filter(t -> !now.contains(t))
                .toList();
    }

    private List<String> troubles(String draft, String layoutJson) {
        try {
            Job job = Definitions.job(draft);
            Layout layout = Definitions.layout(layoutJson);
            List<Optional<TableDescription>> unknown =
                    Collections.nCopies(job.deliveries().size(), Optional.empty());
            return Readiness.check(job, layout, contexts.sample(job, "", null).context(), unknown).stream()
                    .filter(Shortcoming::blocks)
                    .map(Shortcoming::message)
                    .collect(Collectors.toCollection(ArrayList::new));
        } catch (DefinitionException e) {
            return List.of(e.getMessage());
        }
    }

    @Override
    public List<String> lookingInto(String layout) {
        return jobs.lookingInto(layout);
    }

    @Override
    public void give(JsonNode layout, List<String> names, String who) {
        for (String name : names) {
            JobRow row = jobs.find(name).orElseThrow(() -> Problems.notFound("There is no job named " + name + "."));
            if (jobs.saveDraft(row.id(), row.revision(), row.draft(), layout.toString(), clock.instant(), who) == 0) {
                throw Problems.conflict("The draft of " + name + " was changed this very moment. Save once more.");
            }
        }
    }
}
