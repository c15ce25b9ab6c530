package ninepin.server.runs;

import java.io.IOException;
import java.time.Clock;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.stream.Collectors;
import ninepin.core.deliver.Places;
import ninepin.core.deliver.TakenBack;
import ninepin.core.deliver.TargetException;
import ninepin.core.destination.Destinations;
import ninepin.core.destination.support.DestinationSupport;
import ninepin.core.destination.support.PastDelivery;
import ninepin.core.destination.support.PastDelivery.Undoing;
import ninepin.core.destination.support.WritesFiles;
import ninepin.core.format.Transcripts;
import ninepin.core.job.Definitions;
import ninepin.core.job.Delivery;
import ninepin.core.job.Job;
import ninepin.core.job.Leg;
import ninepin.core.run.RunPlan;
import ninepin.core.shape.Origin;
import ninepin.server.api.Problems;
import ninepin.server.runs.RunMapper.NewRun;
import ninepin.server.runs.RunMapper.RunRow;
import ninepin.server.transfer.Outbox;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionTemplate;
import org.springframework.web.ErrorResponseException;

/**
 * Takes back what a run has delivered to tables: rows that it added, that are known by a unique key, and that are as it left
 * them. The rows are made of its file once more.
 */
@Service
class TakeBack {

    /**
     * Whether a run can be taken back.
     *
     * @param obstacles why not, or not all of it
     * @param tables the tables whose rows would be taken back
     */
    record Outlook(boolean possible, List<String> obstacles, List<String> tables) {}

    private final RunPlans plans;
    private final Places places;
    private final LegAccounts accounts;
    private final RunMapper mapper;
    private final Outbox outbox;
    private final TransactionTemplate transaction;
    private final Clock clock;

    private final Transcripts transcripts;

    TakeBack(
            RunPlans plans,
            Places places,
            LegAccounts accounts,
            RunMapper mapper,
            Outbox outbox,
            TransactionTemplate transaction,
            Clock clock,
            Transcripts transcripts) {
        this.places = places;
        this.transaction = transaction;
        this.clock = clock;
        this.plans = plans;
        this.accounts = accounts;
        this.mapper = mapper;
        this.outbox = outbox;
        this.transcripts = transcripts;
    }

    /** What stands in the way. */
    Outlook outlook(long id) throws TargetException {
        RunRow row = row(id);
        List<String> obstacles = new ArrayList<>();
        List<String> tables = new ArrayList<>();
        if (row.takesBack()) {
            return new Outlook(false, List.of("It took another run back; restart that one instead."), tables);
        }
        if (row.commits() == 0) {
            return new Outlook(false, List.of("It has delivered nothing."), tables);
        }
        if (!row.state().over()) {
            return new Outlook(false, List.of("It is waiting or under way."), tables);
        }
        if (row.keptFile().isEmpty()) {
            return new Outlook(false, List.of("Its file is not kept any more."), tables);
        }
        Job job = withoutNumbers(plans.definition(row).job());
        for (Leg leg : job.legs()) {
            List<String> against = Destinations.of(job, leg).obstacles(of(row, leg));
            obstacles.addAll(against);
            if (against.isEmpty()) {
                leg.parts().stream().map(p -> p.to().label()).distinct().forEach(tables::add);
            }
        }
        return new Outlook(!tables.isEmpty(), obstacles, tables);
    }

    private PastDelivery of(RunRow row, Leg leg) {
        return new PastDelivery(
                places,
                LegAccounts.key(row.runKey(), leg.number()),
                accounts.journal(row.id(), leg.number()),
                table -> accounts.rows(row.id(), leg.number(), table));
    }

    /** Numbers of a sequence or a database are not given twice, so they say nothing of a row that is made again. */
    private static Job withoutNumbers(Job job) {
        List<Delivery> deliveries = job.deliveries().stream()
                .map(d -> new Delivery(
                        d.of(),
                        d.lane(),
                        d.summary(),
                        d.to(),
                        d.shaping().stream()
                                .filter(r -> !(r.take() instanceof Origin.Drawn || r.take() instanceof Origin.OfKey))
                                .toList()))
                .toList();
        return job.withDeliveries(deliveries);
    }

    /**
     * Puts a run on record that takes another one back: all that can be, and what could not be is listed.
     *
     * @return the number of the new run
     */
    @Transactional
    public long start(long id, String who) throws TargetException {
        Outlook outlook = outlook(id);
        if (!outlook.possible()) {
            throw Problems.conflict(String.join(" ", outlook.obstacles()));
        }
        RunRow row = row(id);
        if (mapper.takeBack(id, RunChange.TAKE_BACK) == 0) {
            throw Problems.conflict("Run " + id + " is " + row(id).state().words() + " by now.");
        }
        NewRun run = new NewRun();
        run.runKey = UUID.randomUUID().toString();
        run.jobId = row.jobId();
        run.version = row.version();
        run.state = RunState.WAITING;
        run.startedBy = who;
        run.fileName = "take back of run " + id;
        run.filePath = "";
        run.fileHome = "";
        run.fileSize = row.fileSize();
        run.asked = row.asked();
        run.today = row.today();
        run.createdAt = clock.instant();
        run.undoes = id;
        mapper.add(run);
        mapper.event(id, clock.instant(), "taking back", "Run " + run.id + " takes it back, asked by " + who, 0);
        return run.id;
    }

    private RunRow row(long id) {
        return mapper.find(id).orElseThrow(() -> Problems.notFound("There is no run " + id + "."));
    }

    /** Takes a run back, on the calling thread; what an earlier try has done is known and not done again. */
    RunEnd execute(RunRow own, LiveRun live) {
        RunRow row = row(own.undoes());
        try {
            return execute(own, row, live);
        } catch (TargetException e) {
            return RunEnd.failed(e.code(), e.getMessage(), e.mayPass());
        } catch (ErrorResponseException e) {
            return RunEnd.failed("UND-01", e.getBody().getDetail(), false);
        } catch (IOException e) {
            return RunEnd.failed("FIL-03", "The file or the journal cannot be read: " + e.getMessage(), true);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            return RunEnd.of(RunChange.STOP, null, "Stopped.");
        }
    }

    /** A run that takes another one back has ended; where nothing was taken back, the other is what it was before. */
    void ended(RunRow own, RunChange how) {
        boolean over = how == RunChange.STOP || how == RunChange.FAIL;
        if (over && row(own.id()).outcomes() == null) {
            mapper.keep(own.undoes());
        }
    }

    /** What a run took back, so far; empty where it has taken nothing back yet. */
    List<TakenBack> outcomes(long id) {
        String kept = row(id).outcomes();
        return kept == null ? List.of() : List.of(Definitions.mapper().readValue(kept, TakenBack[].class));
    }

    private RunEnd execute(RunRow own, RunRow row, LiveRun live)
            throws TargetException, IOException, InterruptedException {
        Job job = withoutNumbers(plans.definition(row).job());
        List<Leg> legs = new ArrayList<>(job.legs());
        legs.sort(Comparator.comparingInt(leg -> Destinations.of(job, leg).turn()));
        Map<String, List<TakenBack>> taken = new LinkedHashMap<>();
        for (Leg leg : legs) {
            DestinationSupport support = Destinations.of(job, leg);
            PastDelivery what = of(row, leg);
            if (!support.obstacles(what).isEmpty()) {
                continue;
            }
            Optional<TakenBack> sent = sentFrom(row, job, leg);
            RunPlan plan = plans.plan(row, job, leg);
            Optional<List<TakenBack>> one = support.takeBack(
                    what,
                    new Undoing(
                            LegAccounts.key(own.runKey(), leg.number()),
                            plan,
                            transcripts.readable(row.file(), plan.layout()),
                            live::breaksOff,
                            live::gathering));
            if (one.isEmpty()) {
                return RunEnd.of(
                        RunChange.STOP,
                        null,
                        taken.isEmpty() ? "Stopped before anything was taken back." : "Stopped. Restart to go on.");
            }
            taken.computeIfAbsent(support.unit(), u -> new ArrayList<>())
                    .addAll(sent.map(List::of).orElse(one.get()));
            keep(own, taken);
        }
        String removed = taken.entrySet().stream()
                .map(t -> counted(t.getValue(), t.getKey()))
                .collect(Collectors.joining(" and "));
        long left = taken.values().stream()
                .flatMap(List::stream)
                .mapToLong(o -> o.changed() + o.gone())
                .sum();
        String message = (removed.isEmpty() ? "Nothing" : removed) + " removed"
                + (left == 0 ? "." : "; " + left + " had been changed or were gone, and were left.");
        transaction.executeWithoutResult(status -> {
            if (mapper.takenBack(row.id(), "Taken back by " + own.startedBy() + ": " + message) > 0) {
                accounts.takenBack(row.id());
                outbox.forget(row.id());
                mapper.event(row.id(), clock.instant(), "taken back", message, 0);
            }
        });
        return RunEnd.of(RunChange.FINISH, null, message);
    }

    /** Takes back what was or is to be sent to another machine; only what lies here is left for the place itself. */
    private Optional<TakenBack> sentFrom(RunRow row, Job job, Leg leg) throws TargetException {
        Optional<WritesFiles> files = Destinations.files(job, leg).filter(of -> outbox.has(row.id(), leg.number()));
        return files.isEmpty()
                ? Optional.empty()
                : Optional.of(outbox.takeBack(leg.label(), row.id(), leg.number(), files.get()));
    }

    private void keep(RunRow own, Map<String, List<TakenBack>> taken) {
        List<TakenBack> all = taken.values().stream().flatMap(List::stream).toList();
        long rows = taken.getOrDefault("row", List.of()).stream()
                .mapToLong(TakenBack::removed)
                .sum();
        mapper.outcomes(own.id(), Definitions.mapper().writeValueAsString(all), rows);
    }

    private static String counted(List<TakenBack> outcomes, String thing) {
        long removed = outcomes.stream().mapToLong(TakenBack::removed).sum();
        return removed + " " + thing + (removed == 1 ? "" : "s");
    }
}
