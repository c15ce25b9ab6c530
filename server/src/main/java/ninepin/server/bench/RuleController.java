package ninepin.server.bench;

import static io.swagger.v3.oas.annotations.media.Schema.RequiredMode.REQUIRED;

import io.swagger.v3.oas.annotations.media.Schema;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import ninepin.core.bytes.FileSource;
import ninepin.core.deliver.Destination;
import ninepin.core.deliver.Places;
import ninepin.core.deliver.TableDescription;
import ninepin.core.deliver.TargetException;
import ninepin.core.destination.Destinations;
import ninepin.core.format.Transcripts;
import ninepin.core.job.Definitions;
import ninepin.core.job.Job;
import ninepin.core.layout.Layout;
import ninepin.core.preview.Grouped;
import ninepin.core.preview.RuleProbe;
import ninepin.core.preview.RuleProposer;
import ninepin.core.shape.ShapingContext;
import ninepin.core.wording.Wording;
import ninepin.server.api.Problems;
import ninepin.server.jobs.JobMapper.JobRow;
import ninepin.server.jobs.Jobs;
import ninepin.server.jobs.ShapingContexts;
import org.springframework.web.ErrorResponseException;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.databind.JsonNode;

/** Rules while they are written: what each gives, what is proposed, and instructions in ordinary English. */
@RestController
@RequestMapping("/api/v1/jobs/{job}")
class RuleController {

    /** The rules of a delivery as they are written, and conditions, to be tried on a record. */
    record RulesAsked(
            @Schema(requiredMode = REQUIRED) JsonNode job,
            @Schema(requiredMode = REQUIRED) JsonNode layout,
            int delivery,
            long record,
            List<RuleProbe.Asked> conditions) {
        RulesAsked {
            Problems.needed("job", job);
            Problems.needed("layout", layout);
        }
    }

    /** A proposed rule as the schema in docs/schema describes it, how sure it is, and what speaks for it. */
    record ProposedRule(JsonNode rule, String sentence, String sureness, String why) {}

    /** Instructions about a delivery. */
    record WordingAsked(
            @Schema(requiredMode = REQUIRED) JsonNode job,
            @Schema(requiredMode = REQUIRED) JsonNode layout,
            int delivery,
            long record,
            @Schema(requiredMode = REQUIRED) String text) {
        WordingAsked {
            Problems.needed("job", job);
            Problems.needed("layout", layout);
        }
    }

    /** What an instruction stands for, and what its rules give for the record. */
    record InstructionView(
            String line,
            List<JsonNode> rules,
            JsonNode aside,
            JsonNode delivery,
            List<String> sentences,
            List<RuleProbe.Said> gives,
            String problem,
            String nearest) {}

    private final Jobs jobs;
    private final Places places;
    private final ShapingContexts contexts;

    private final Transcripts transcripts;

    RuleController(Jobs jobs, Places places, ShapingContexts contexts, Transcripts transcripts) {
        this.jobs = jobs;
        this.places = places;
        this.contexts = contexts;
        this.transcripts = transcripts;
    }

    /** Says of each rule of a delivery what it gives, or why it gives nothing, on a record of the sample. */
    @PostMapping("/rules")
    RuleProbe rules(@PathVariable("job") String name, @RequestBody RulesAsked asked) throws IOException {
        JobRow row = jobs.get(name);
        Job job = Definitions.job(asked.job().toString());
        Layout layout = job.withChecks(Definitions.layout(asked.layout().toString()));
        String file = row.sampleName() == null ? "sample" : row.sampleName();
        ShapingContext context = contexts.sample(job, file, null).context();
        List<RuleProbe.Asked> conditions = asked.conditions() == null
                ? List.of()
                : asked.conditions().stream()
                        .map(c -> c == null ? new RuleProbe.Asked(null, null, null) : c)
                        .toList();
        Optional<Path> sample = jobs.sample(row);
        try (FileSource source = sample.isPresent() ? transcripts.open(sample.get(), layout) : null) {
            return RuleProbe.ofDelivery(source, layout, job, context, asked.delivery(), asked.record(), conditions);
        }
    }

    /** Proposes rules for the target fields of a delivery that have none. */
    @PostMapping("/proposal")
    List<ProposedRule> propose(@PathVariable("job") String name, @RequestBody RulesAsked asked)
            throws IOException, TargetException {
        JobRow row = jobs.get(name);
        Job job = Definitions.job(asked.job().toString());
        Layout layout = job.withChecks(Definitions.layout(asked.layout().toString()));
        TableDescription table = table(job, asked.delivery());
        ShapingContext context = contexts.sample(job, "sample", null).context();
        Optional<Path> sample = jobs.sample(row);
        try (FileSource source = sample.isPresent() ? transcripts.open(sample.get(), layout) : null) {
            return RuleProposer.of(job, layout, asked.delivery(), table, source, context).stream()
                    .map(p -> new ProposedRule(
                            json(p.rule()), p.sentence(), p.sureness().toString(), p.why()))
                    .toList();
        }
    }

    /** Reads instructions in ordinary English; says what rules each stands for, and what they give on a record. */
    @PostMapping("/wording")
    List<InstructionView> wording(@PathVariable("job") String name, @RequestBody WordingAsked asked)
            throws IOException {
        JobRow row = jobs.get(name);
        Job job = Definitions.job(asked.job().toString());
        Layout layout = job.withChecks(Definitions.layout(asked.layout().toString()));
        ShapingContext context = contexts.withAllLists(job, "sample");
        if (job.deliveries().isEmpty()) {
            throw Problems.unprocessable("Choose a delivery in section 5 first: its columns are the target fields.");
        }
        List<String> targets = targets(job, asked.delivery());
        Layout shaped = job.ofDocuments().shaped(layout);
        List<InstructionView> views = new ArrayList<>();
        Optional<Path> sample = jobs.sample(row);
        try (FileSource source = sample.isPresent() ? transcripts.open(sample.get(), layout) : null) {
            Grouped grouped = Grouped.of(job, layout, context, asked.delivery(), source);
            List<Wording.Understood> all = grouped == null
                    ? Wording.of(asked.text(), job, shaped, asked.delivery(), targets, context)
                    : Wording.of(asked.text(), grouped.job(), grouped.layout(), 0, targets, grouped.context());
            for (Wording.Understood u : all) {
                List<RuleProbe.Said> gives =
                        RuleProbe.of(source, layout, job, context, asked.delivery(), asked.record(), u.rules());
                views.add(new InstructionView(
                        u.line(),
                        u.rules().stream().map(RuleController::json).toList(),
                        u.aside() == null ? null : json(u.aside()),
                        u.delivery() == null ? null : json(u.delivery()),
                        u.sentences(),
                        gives,
                        u.problem(),
                        u.nearest()));
            }
        }
        return views;
    }

    private static JsonNode json(Object part) {
        return Definitions.mapper().valueToTree(part);
    }

    private TableDescription table(Job job, int delivery) throws TargetException {
        Destination to = has(job, delivery) ? job.deliveries().get(delivery).to() : null;
        if (to == null || !to.decided()) {
            throw Problems.unprocessable("Choose a delivery in section 5 first: its columns are the target fields.");
        }
        return Destinations.describe(to, places)
                .orElseThrow(() -> Problems.notFound("There is no " + to.label() + " in " + to.connection() + "."));
    }

    private static boolean has(Job job, int delivery) {
        return delivery >= 0 && delivery < job.deliveries().size();
    }

    /** The target fields: the columns of the table if it is there, and those that have a rule. */
    private List<String> targets(Job job, int delivery) {
        List<String> targets = new ArrayList<>();
        try {
            table(job, delivery).columns().stream().filter(c -> !c.generated()).forEach(c -> targets.add(c.name()));
        } catch (TargetException | ErrorResponseException e) {
            if (!has(job, delivery)) {
                throw Problems.unprocessable("The job has no delivery number " + (delivery + 1) + ".");
            }
            job.deliveries().get(delivery).shaping().forEach(r -> targets.add(r.target()));
        }
        return targets;
    }
}
