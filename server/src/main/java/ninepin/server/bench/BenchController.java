package ninepin.server.bench;

import static io.swagger.v3.oas.annotations.media.Schema.RequiredMode.REQUIRED;

import io.swagger.v3.oas.annotations.media.Schema;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;
import ninepin.core.bytes.FileSource;
import ninepin.core.check.Finding;
import ninepin.core.deliver.Places;
import ninepin.core.deliver.Tally;
import ninepin.core.deliver.Target;
import ninepin.core.deliver.TargetException;
import ninepin.core.destination.Destinations;
import ninepin.core.format.Transcripts;
import ninepin.core.job.Definitions;
import ninepin.core.job.Job;
import ninepin.core.job.Leg;
import ninepin.core.job.Shortcoming;
import ninepin.core.layout.Layout;
import ninepin.core.preview.Preview;
import ninepin.core.preview.Previewer;
import ninepin.core.ready.Readiness;
import ninepin.core.run.Journal;
import ninepin.core.run.RefusedByTargets;
import ninepin.core.run.Run;
import ninepin.core.run.RunAccount;
import ninepin.core.run.RunListener;
import ninepin.core.run.RunOutcome;
import ninepin.core.run.RunPlan;
import ninepin.core.run.StopSignal;
import ninepin.core.shape.ShapingContext;
import ninepin.server.api.Problems;
import ninepin.server.jobs.JobMapper.JobRow;
import ninepin.server.jobs.Jobs;
import ninepin.server.jobs.ShapingContexts;
import ninepin.server.lookups.LookUps;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.databind.JsonNode;

@RestController
@RequestMapping("/api/v1/jobs/{job}")
class BenchController {

    private static final int MOST_MISSING = 500;

    /** The definitions as they stand in the editor. */
    record Sheet(@Schema(requiredMode = REQUIRED) JsonNode job, @Schema(requiredMode = REQUIRED) JsonNode layout) {
        Sheet {
            Problems.needed("job", job);
            Problems.needed("layout", layout);
        }
    }

    /** A value of the sample that is not in a code list, and how often it is asked for. */
    record MissingCode(String list, String value, long count) {}

    /** The bench, what look-ups looked into, what cannot be read, and what it took to compute. */
    record BenchView(
            String sampleName,
            Preview preview,
            List<MissingCode> missing,
            List<LookUps.Read> lookUps,
            List<String> troubles,
            long micros) {}

    /** Findings of a rehearsal that have one reason. */
    record RehearsalReason(String severity, String code, String reason, long count, long firstLine, String example) {}

    /** How a rehearsal ended: as a run would, but that nothing was delivered. */
    record Rehearsal(
            String state,
            RunAccount account,
            String code,
            String message,
            List<RehearsalReason> reasons,
            List<Shortcoming> shortcomings) {}

    private final Jobs jobs;
    private final Places places;
    private final ShapingContexts contexts;

    private final Transcripts transcripts;

    BenchController(Jobs jobs, Places places, ShapingContexts contexts, Transcripts transcripts) {
        this.jobs = jobs;
        this.places = places;
        this.contexts = contexts;
        this.transcripts = transcripts;
    }

    /** What a draft makes of the sample, a part of it with places in file, record and row. */
    @PostMapping("/bench")
    BenchView bench(
            @PathVariable("job") String name,
            @RequestBody Sheet sheet,
            @RequestParam(defaultValue = "1") long from,
            @RequestParam(defaultValue = "500") int count)
            throws IOException {
        long begun = System.nanoTime();
        JobRow row = jobs.get(name);
        Path sample = jobs.neededSample(row);
        Job job = Definitions.job(sheet.job().toString());
        Layout layout = job.withChecks(Definitions.layout(sheet.layout().toString()));
        Map<String, Map<String, Long>> missed = new TreeMap<>();
        ShapingContexts.Sample context = contexts.sample(job, row.sampleName(), missed);
        try (FileSource source = transcripts.open(sample, layout)) {
            Preview preview = Previewer.of(source, layout, job, context.context(), from, Math.min(count, 2_000));
            List<MissingCode> missing = missed.entrySet().stream()
                    .flatMap(l -> l.getValue().entrySet().stream()
                            .map(v -> new MissingCode(l.getKey(), v.getKey(), v.getValue())))
                    .limit(MOST_MISSING)
                    .toList();
            return new BenchView(
                    row.sampleName(),
                    preview,
                    missing,
                    context.lookUps(),
                    context.troubles(),
                    (System.nanoTime() - begun) / 1000);
        }
    }

    /** Runs the draft on the whole sample, against copies of the tables; nothing is delivered. */
    @PostMapping("/rehearsal")
    Rehearsal rehearse(@PathVariable("job") String name) throws IOException, TargetException {
        JobRow row = jobs.get(name);
        Path sample = jobs.neededSample(row);
        Jobs.Definition d = Jobs.draft(row);
        List<Shortcoming> shortcomings = jobs.check(d);
        if (!Readiness.mayRun(shortcomings)) {
            return new Rehearsal("not ready", RunAccount.NONE, null, null, List.of(), shortcomings);
        }
        Path folder = Files.createTempDirectory("ninepin-rehearsal");
        Path journal = folder.resolve("journal.ndjson");
        ShapingContext context =
                contexts.sample(d.job(), row.sampleName(), null).context();
        try {
            List<Leg> legs = d.job().legs();
            RefusedByTargets.Gathering refused = new RefusedByTargets.Gathering(legs.size());
            List<RunOutcome> outcomes = new ArrayList<>();
            for (Leg leg : legs) {
                outcomes.add(rehearse(d, leg, context, sample, journal, refused));
            }
            RunOutcome worst = RunOutcome.worst(outcomes);
            return new Rehearsal(
                    worst.state().name().toLowerCase(Locale.ROOT),
                    Leg.account(legs, outcomes, refused.all()),
                    worst.code(),
                    worst.message(),
                    reasons(journal),
                    shortcomings);
        } finally {
            Files.deleteIfExists(journal);
            Files.deleteIfExists(folder);
        }
    }

    private RunOutcome rehearse(
            Jobs.Definition d,
            Leg leg,
            ShapingContext context,
            Path sample,
            Path journal,
            RefusedByTargets.Gathering refused)
            throws IOException, TargetException {
        Path own = journal.resolveSibling("leg");
        try (Target target = Destinations.of(d.job(), leg).rehearsal(places, context.facts())) {
            RunPlan plan = d.job().plan(d.layout(), context, Tally.ZERO, leg);
            RunOutcome outcome = new Run(
                            plan,
                            transcripts.readable(sample, d.layout()),
                            own,
                            target,
                            RunListener.NONE,
                            new StopSignal())
                    .execute();
            // What a check says is said by the first; the others add what their targets refuse.
            Journal.copy(own, journal, e -> {
                refused.add(leg.number(), e);
                return leg.number() == 0 || e.byTarget();
            });
            return outcome;
        } finally {
            Files.deleteIfExists(own);
        }
    }

    private static List<RehearsalReason> reasons(Path journal) throws IOException {
        if (!Files.exists(journal)) {
            return List.of();
        }
        Map<String, RehearsalReason> reasons = new LinkedHashMap<>();
        Journal.read(journal, 0, Files.size(journal), entry -> {
            for (Finding f : entry.findings()) {
                reasons.merge(
                        f.code() + f.reason(),
                        new RehearsalReason(f.severity().toString(), f.code(), f.reason(), 1, f.line(), f.found()),
                        (a, b) -> new RehearsalReason(
                                a.severity(), a.code(), a.reason(), a.count() + 1, a.firstLine(), a.example()));
            }
        });
        return new ArrayList<>(reasons.values());
    }
}
