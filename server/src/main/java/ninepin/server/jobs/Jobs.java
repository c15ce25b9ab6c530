package ninepin.server.jobs;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import ninepin.core.deliver.Places;
import ninepin.core.deliver.TableDescription;
import ninepin.core.deliver.TargetException;
import ninepin.core.destination.Destinations;
import ninepin.core.job.Definitions;
import ninepin.core.job.Delivery;
import ninepin.core.job.Job;
import ninepin.core.job.Shortcoming;
import ninepin.core.job.Upgrades;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.Layout;
import ninepin.core.pickup.PickUp;
import ninepin.core.ready.Readiness;
import ninepin.core.ready.StatementReadiness;
import ninepin.core.ready.TargetChanges;
import ninepin.core.shape.RunFacts;
import ninepin.doors.Sources;
import ninepin.doors.source.SourceContext;
import ninepin.server.api.Problems;
import ninepin.server.config.Folders;
import ninepin.server.definitions.JsonDifference;
import ninepin.server.definitions.NormalForm;
import ninepin.server.jobs.JobMapper.JobRow;
import ninepin.server.jobs.JobMapper.VersionRow;
import ninepin.server.layouts.LayoutLibrary;
import ninepin.server.schedule.Cron;
import ninepin.server.schedule.JobSchedules;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ObjectNode;

/** The jobs: drafts save themselves in whatever state they are; only what is whole can be put live. */
@Service
public class Jobs {

    /** A job and its layout, read and valid. */
    public record Definition(Job job, Layout layout) {}

    private final JobMapper mapper;
    private final ShapingContexts contexts;
    private final JobSchedules schedules;
    private final LayoutLibrary library;
    private final Places places;
    private final Folders folders;
    private final ObjectProvider<LiveGate> gates;
    private final Clock clock;

    Jobs(
            JobMapper mapper,
            ShapingContexts contexts,
            JobSchedules schedules,
            LayoutLibrary library,
            Places places,
            Folders folders,
            ObjectProvider<LiveGate> gates,
            Clock clock) {
        this.gates = gates;
        this.mapper = mapper;
        this.contexts = contexts;
        this.schedules = schedules;
        this.library = library;
        this.places = places;
        this.folders = folders;
        this.clock = clock;
    }

    public List<JobRow> all() {
        return mapper.all();
    }

    public Optional<JobRow> byId(long id) {
        return mapper.byId(id);
    }

    public JobRow get(String name) {
        return mapper.find(name).orElseThrow(() -> Problems.notFound("There is no job named " + name + "."));
    }

    /**
     * Makes a job. Its layout is kept in the library too: as the one of its name when the two say the same, else as a
     * new one, under a free name.
     */
    @Transactional
    public JobRow create(JsonNode job, JsonNode layout, String who) {
        Job definition = Definitions.job(job.toString());
        if (mapper.find(definition.name()).isPresent()) {
            throw Problems.conflict("There is a job named " + definition.name() + " already.");
        }
        Layout kept = library.keep(Definitions.layout(layout.toString()), who);
        ObjectNode own =
                SqlAuthors.noted(Upgrades.job(job), null, who).asObject().put("layout", kept.name());
        mapper.add(definition.name(), own.toString(), Definitions.write(kept), clock.instant(), who);
        return get(definition.name());
    }

    public JobRow saveDraft(String name, int revision, JsonNode job, JsonNode layout, String who) {
        JobRow row = get(name);
        if (!name.equals(job.path("name").asString(""))) {
            throw Problems.unprocessable("A draft keeps the name of its job, " + name + ".");
        }
        if (mapper.saveDraft(
                        row.id(),
                        revision,
                        SqlAuthors.noted(Upgrades.job(job), row.draft(), who).toString(),
                        layout.toString(),
                        clock.instant(),
                        who)
                == 0) {
            throw Problems.conflict("The draft was changed by " + row.updatedBy()
                    + " meanwhile. Load it again; your own change is still in this window.");
        }
        return get(name);
    }

    public JobMapper.Dependents dependents(String name) {
        return mapper.dependents(get(name).id());
    }

    /** Deletes a job with its versions and the record of its runs; refused while one of them is under way. */
    public void delete(String name) {
        JobRow row = get(name);
        if (mapper.dependents(row.id()).underWay() > 0) {
            throw Problems.conflict(
                    "A run of " + name
                            + " is waiting or under way, or has files that are still to be sent. Stop it, or take it back, first.");
        }
        schedules.remove(name);
        mapper.delete(row.id());
    }

    /** The draft, read; a {@link DefinitionException} where it is not valid yet. */
    public static Definition draft(JobRow row) {
        return new Definition(Definitions.job(row.draft()), Definitions.layout(row.draftLayout()));
    }

    public Definition version(long jobId, int version) {
        VersionRow row = mapper.version(jobId, version)
                .orElseThrow(() -> Problems.notFound("There is no version " + version + "."));
        return new Definition(Definitions.job(row.definition()), Definitions.layout(row.layout()));
    }

    public List<VersionRow> versions(JobRow row) {
        return mapper.versions(row.id());
    }

    /** Everything that keeps a definition from running, asked of the real target. */
    public List<Shortcoming> check(Definition d) {
        List<Shortcoming> found = new ArrayList<>();
        List<Optional<TableDescription>> tables = new ArrayList<>();
        boolean asked = true;
        for (Delivery delivery : d.job().deliveries()) {
            Optional<TableDescription> table = Optional.empty();
            if (delivery.to() != null && delivery.to().decided() && asked) {
                try {
                    table = Destinations.describe(delivery.to(), places);
                } catch (TargetException | org.springframework.web.ErrorResponseException e) {
                    asked = false;
                    found.add(new Shortcoming(true, 5, -1, delivery.to().connection(), "JOB-20", detail(e))
                            .passing(e instanceof TargetException t && t.mayPass()));
                }
            }
            tables.add(table);
        }
        ShapingContexts.Sample sample = contexts.sample(d.job(), "", null);
        sample.troubles().forEach(t -> found.add(new Shortcoming(true, 4, -1, null, "JOB-30", t).passing(true)));
        for (Shortcoming s : Readiness.check(d.job(), d.layout(), sample.context(), tables)) {
            if (asked || !s.code().equals("JOB-07")) {
                found.add(s);
            }
        }
        found.addAll(StatementReadiness.check(d.job(), sample.context().facts(), places));
        found.addAll(ofPlaces(d.job(), sample.context().facts()));
        if (d.job().pickUp() != null) {
            checkPickUp(d, sample.context().facts(), found);
        }
        return found;
    }

    private List<Shortcoming> ofPlaces(Job job, RunFacts facts) {
        try {
            return Destinations.check(job, facts, places);
        } catch (DefinitionException | org.springframework.web.ErrorResponseException e) {
            // That there is no such connection is said where its tables are asked for.
            return List.of();
        }
    }

    /** Everything that keeps a draft from running, and what has changed in the targets of the live version. */
    List<Shortcoming> checkDraft(JobRow row) {
        List<Shortcoming> found = check(draft(row));
        if (row.liveVersion() != null) {
            changedTargets(row.id(), row.liveVersion())
                    .forEach(c -> found.add(new Shortcoming(
                            false,
                            5,
                            -1,
                            null,
                            "JOB-51",
                            "Changed since version " + row.liveVersion() + " went live: " + c + ".")));
        }
        return found;
    }

    private void checkPickUp(Definition d, RunFacts facts, List<Shortcoming> found) {
        PickUp pickUp = d.job().pickUp();
        try {
            if (pickUp.schedule().cron() != null) {
                Cron.toQuartz(pickUp.schedule().cron());
            }
            found.addAll(Sources.of(pickUp.from())
                    .check(new SourceContext(d.job(), d.layout(), facts, places, SourceContext.FIRST_LOOK, clock)));
        } catch (RuntimeException e) {
            found.add(new Shortcoming(true, 1, -1, null, "JOB-22", detail(e)));
        }
    }

    private static String detail(Exception e) {
        return e instanceof org.springframework.web.ErrorResponseException r
                ? r.getBody().getDetail()
                : e.getMessage();
    }

    /** How the draft differs from the live version; everything where nothing is live. */
    public List<JsonDifference.Change> changes(JobRow row) {
        if (row.liveVersion() == null) {
            return List.of();
        }
        VersionRow live = mapper.version(row.id(), row.liveVersion()).orElseThrow();
        return changes(live.definition(), live.layout(), row.draft(), row.draftLayout());
    }

    private static List<JsonDifference.Change> changes(String job, String layout, String laterJob, String laterLayout) {
        List<JsonDifference.Change> changes =
                new ArrayList<>(JsonDifference.between(NormalForm.ofJob(job), NormalForm.ofJob(laterJob)));
        JsonDifference.between(NormalForm.ofLayout(layout), NormalForm.ofLayout(laterLayout))
                .forEach(c -> changes.add(new JsonDifference.Change("layout › " + c.part(), c.before(), c.after())));
        return changes;
    }

    /** How a draft differs from the one that is saved. */
    List<JsonDifference.Change> difference(JobRow row, JsonNode job, JsonNode layout) {
        return changes(row.draft(), row.draftLayout(), job.toString(), layout.toString());
    }

    public boolean draftAhead(JobRow row) {
        return row.liveVersion() == null || !changes(row).isEmpty();
    }

    /** What keeps the draft from going live, red proofs among it. */
    public List<Shortcoming> checkForLive(String name) {
        JobRow row = get(name);
        return withGates(row, draft(row), checkDraft(row));
    }

    private List<Shortcoming> withGates(JobRow row, Definition draft, List<Shortcoming> found) {
        if (Readiness.mayRun(found)) {
            for (LiveGate gate : gates) {
                found.addAll(gate.against(row, draft));
            }
        }
        return found;
    }

    /** Puts the draft live when nothing keeps it from running; returns what does otherwise. */
    @Transactional
    public List<Shortcoming> putLive(String name, String who) {
        JobRow row = get(name);
        Definition draft = draft(row);
        List<Shortcoming> shortcomings = withGates(row, draft, check(draft));
        if (!Readiness.mayRun(shortcomings)) {
            return shortcomings;
        }
        int version = mapper.versions(row.id()).stream()
                        .mapToInt(VersionRow::version)
                        .max()
                        .orElse(0)
                + 1;
        mapper.addVersion(new VersionRow(
                row.id(),
                version,
                Definitions.write(draft.job()),
                Definitions.write(draft.layout()),
                clock.instant(),
                who));
        mapper.keepTargets(row.id(), version, Definitions.mapper().writeValueAsString(described(draft.job())));
        mapper.setLive(row.id(), version);
        if (row.scheduled()) {
            schedules.put(name, draft.job().pickUp());
        }
        return shortcomings;
    }

    /** What the targets of a job's deliveries are like now; null for one that is not there or cannot be asked. */
    private List<TableDescription> described(Job job) {
        List<TableDescription> all = new ArrayList<>();
        for (Delivery delivery : job.deliveries()) {
            try {
                boolean asked = delivery.to() != null
                        && delivery.to().decided()
                        && Destinations.of(job, delivery).isDescribedElsewhere();
                all.add(asked ? Destinations.describe(delivery.to(), places).orElse(null) : null);
            } catch (TargetException | org.springframework.web.ErrorResponseException e) {
                all.add(null);
            }
        }
        return all;
    }

    /** What has changed in the targets of a version since it went live, a sentence for each of them. */
    public List<String> changedTargets(long jobId, int version) {
        TableDescription[] before = mapper.targets(jobId, version)
                .map(t -> Definitions.mapper().readValue(t, TableDescription[].class))
                .orElse(new TableDescription[0]);
        Job job = version(jobId, version).job();
        List<TableDescription> now = before.length == 0 ? List.of() : described(job);
        List<String> changed = new ArrayList<>();
        for (int d = 0; d < Math.min(before.length, now.size()); d++) {
            if (before[d] != null && now.get(d) != null) {
                List<String> changes = TargetChanges.between(before[d], now.get(d));
                if (!changes.isEmpty()) {
                    changed.add(job.deliveries().get(d).to().label() + ": " + String.join("; ", changes));
                }
            }
        }
        return changed.stream().distinct().toList();
    }

    /** Lets the schedule run the live version, or not. */
    public void schedule(String name, boolean on) {
        JobRow row = get(name);
        if (!on) {
            schedules.remove(name);
        } else {
            if (row.liveVersion() == null) {
                throw Problems.conflict("Put the job live before it is scheduled.");
            }
            Job live = version(row.id(), row.liveVersion()).job();
            if (live.pickUp() == null) {
                throw Problems.unprocessable("The live version has no pick-up: it takes files given by hand.");
            }
            schedules.put(name, live.pickUp());
        }
        mapper.setScheduled(row.id(), on);
    }

    /** Keeps a file as the sample of a job; its layout in the library takes it too while it has none. */
    public void setSample(String name, String fileName, InputStream bytes) throws IOException {
        JobRow row = get(name);
        Path sample = folders.sample(Long.toString(row.id()));
        folders.keepSample(sample, bytes);
        mapper.setSample(row.id(), fileName);
        library.offerSample(
                Definitions.mapper().readTree(row.draft()).path("layout").asString(""), fileName, sample);
    }

    /** The sample of a job; empty when there is none. */
    public Optional<Path> sample(JobRow row) {
        Path sample = folders.sample(Long.toString(row.id()));
        return row.sampleName() != null && Files.exists(sample) ? Optional.of(sample) : Optional.empty();
    }

    /** The sample of a job of which something is to be made. */
    public Path neededSample(JobRow row) {
        return sample(row)
                .orElseThrow(() -> Problems.conflict("The job has no sample yet. Give it a file to look at."));
    }
}
