package ninepin.server.runs;

import java.io.IOException;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import java.util.stream.Stream;
import ninepin.core.deliver.DatabaseAddress;
import ninepin.core.deliver.Mark;
import ninepin.core.deliver.RowCounts;
import ninepin.core.deliver.TableDelivery.Mode;
import ninepin.core.deliver.TableDescription;
import ninepin.core.deliver.TableLoad;
import ninepin.core.deliver.TargetException;
import ninepin.core.deliver.database.DatabaseTarget;
import ninepin.core.deliver.database.TakingBack;
import ninepin.core.deliver.file.FileTarget;
import ninepin.core.document.RowSink;
import ninepin.core.job.Definitions;
import ninepin.core.job.Delivery;
import ninepin.core.job.Job;
import ninepin.core.job.Leg;
import ninepin.core.job.LegTargets;
import ninepin.core.run.Delivered;
import ninepin.core.run.RunPlan;
import ninepin.core.shape.Origin;
import ninepin.core.shape.RowBuffer;
import ninepin.server.api.Problems;
import ninepin.server.connections.Connections;
import ninepin.server.runs.RunMapper.NewRun;
import ninepin.server.runs.RunMapper.RunRow;
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

    private static final int CHUNK = 10_000;
    private static final int MOST_LEFT = 100;
    /** How many documents are read between two looks at how far it is. */
    private static final int PROGRESS = 1_000;

    private final RunPlans plans;
    private final Connections connections;
    private final LegTargets targets;
    private final LegAccounts accounts;
    private final RunMapper mapper;
    private final TransactionTemplate transaction;
    private final Clock clock;

    TakeBack(
            RunPlans plans,
            Connections connections,
            LegTargets targets,
            LegAccounts accounts,
            RunMapper mapper,
            TransactionTemplate transaction,
            Clock clock) {
        this.targets = targets;
        this.transaction = transaction;
        this.clock = clock;
        this.plans = plans;
        this.connections = connections;
        this.accounts = accounts;
        this.mapper = mapper;
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
            List<String> against = obstacles(row, leg);
            obstacles.addAll(against);
            if (against.isEmpty()) {
                leg.parts().stream().map(p -> p.to().label()).distinct().forEach(tables::add);
            }
        }
        return new Outlook(!tables.isEmpty(), obstacles, tables);
    }

    private List<String> obstacles(RunRow row, Leg leg) throws TargetException {
        if (leg.kind() == Leg.Kind.FILES) {
            return List.of();
        }
        if (leg.kind() == Leg.Kind.APPLICATION) {
            return List.of("What was sent to " + leg.to().connection()
                    + " is not taken back from here; sent again by a restart, it is taken once.");
        }
        List<String> against = new ArrayList<>();
        for (TableLoad load : leg.tables()) {
            Mode mode = load.delivery().mode();
            String table = load.delivery().table();
            RowCounts rows = accounts.rows(row.id(), leg.number(), table);
            boolean adds = mode == Mode.ADD
                    || (mode == Mode.ADD_OR_CHANGE || mode == Mode.ADD_MISSING)
                            && rows.changed() == 0
                            && rows.unchanged() == 0;
            if (!adds) {
                against.add(
                        "Rows of " + table + " were changed, left or removed, and what they were before is not known.");
                continue;
            }
            TableDescription described = connections
                    .table(load.delivery().connection(), table)
                    .orElseThrow(() -> Problems.conflict("There is no table " + table + " any more."));
            if (TakingBack.keyOf(load, described).isEmpty()) {
                against.add("Rows of " + table + " are known by no unique key that the run gave them.");
            }
        }
        return against;
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
        } catch (Delivered.VisitFailed e) {
            return e.getCause() instanceof TargetException t
                    ? RunEnd.failed(t.code(), t.getMessage(), t.mayPass())
                    : RunEnd.failed("UND-01", "It could not be taken back: " + e.getMessage(), false);
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
    List<TakingBack.Outcome> outcomes(long id) {
        String kept = row(id).outcomes();
        return kept == null ? List.of() : List.of(Definitions.mapper().readValue(kept, TakingBack.Outcome[].class));
    }

    private RunEnd execute(RunRow own, RunRow row, LiveRun live)
            throws TargetException, IOException, InterruptedException, Delivered.VisitFailed {
        Job job = withoutNumbers(plans.definition(row).job());
        List<TakingBack.Outcome> tables = new ArrayList<>();
        List<TakingBack.Outcome> files = new ArrayList<>();
        for (Leg leg : job.legs()) {
            if (leg.kind() == Leg.Kind.TABLES && obstacles(row, leg).isEmpty()) {
                Optional<List<TakingBack.Outcome>> taken = takeBack(own, row, job, leg, live);
                if (taken.isEmpty()) {
                    return RunEnd.of(
                            RunChange.STOP,
                            null,
                            tables.isEmpty()
                                    ? "Stopped before anything was taken back."
                                    : "Stopped. Restart to go on.");
                }
                tables.addAll(taken.get());
                keep(own, tables, files);
            }
        }
        for (Leg leg : job.legs()) {
            if (leg.kind() == Leg.Kind.FILES) {
                files.add(files(row, leg));
                keep(own, tables, files);
            }
        }
        String removed = counted(tables, "row");
        if (!files.isEmpty()) {
            removed = (tables.isEmpty() ? "" : removed + " and ") + counted(files, "file");
        }
        long left = Stream.concat(tables.stream(), files.stream())
                .mapToLong(o -> o.changed() + o.gone())
                .sum();
        String message = removed + " removed"
                + (left == 0 ? "." : "; " + left + " had been changed or were gone, and were left.");
        transaction.executeWithoutResult(status -> {
            if (mapper.takenBack(row.id(), "Taken back by " + own.startedBy() + ": " + message) > 0) {
                accounts.takenBack(row.id());
                mapper.event(row.id(), clock.instant(), "taken back", message, 0);
            }
        });
        return RunEnd.of(RunChange.FINISH, null, message);
    }

    private void keep(RunRow own, List<TakingBack.Outcome> tables, List<TakingBack.Outcome> files) {
        List<TakingBack.Outcome> all = new ArrayList<>(tables);
        all.addAll(files);
        mapper.outcomes(
                own.id(),
                Definitions.mapper().writeValueAsString(all),
                tables.stream().mapToLong(TakingBack.Outcome::removed).sum());
    }

    private static String counted(List<TakingBack.Outcome> outcomes, String thing) {
        long removed = outcomes.stream().mapToLong(TakingBack.Outcome::removed).sum();
        return removed + " " + thing + (removed == 1 ? "" : "s");
    }

    private TakingBack.Outcome files(RunRow row, Leg leg) throws TargetException, IOException {
        FileTarget.TakenBack taken = FileTarget.takeBack(
                targets.folder(leg),
                LegAccounts.key(row.runKey(), leg.number()),
                accounts.journal(row.id(), leg.number()));
        return new TakingBack.Outcome(
                leg.label(),
                taken.removed(),
                taken.changed().size(),
                taken.gone().size(),
                Stream.concat(
                                taken.changed().stream().map(n -> n + " (changed)"),
                                taken.gone().stream().map(n -> n + " (gone)"))
                        .limit(MOST_LEFT)
                        .toList());
    }

    /** Takes back what went to one place, in one transaction of it; empty where it was stopped. */
    private Optional<List<TakingBack.Outcome>> takeBack(RunRow own, RunRow row, Job job, Leg leg, LiveRun live)
            throws TargetException, IOException, InterruptedException, Delivered.VisitFailed {
        DatabaseAddress address = connections.address(leg.to().connection());
        String key = LegAccounts.key(row.runKey(), leg.number());
        String ownKey = LegAccounts.key(own.runKey(), leg.number());
        Optional<List<TakingBack.Outcome>> before = TakingBack.before(address, leg.tables(), ownKey);
        if (before.isPresent()) {
            return before;
        }
        Mark mark;
        try (DatabaseTarget target = new DatabaseTarget(address, leg.tables(), key)) {
            mark = target.look()
                    .orElseThrow(() -> Problems.conflict("The mark of the run is not in its target any more."));
        }
        RunPlan plan = plans.plan(row, job, leg);
        Path journal = accounts.journal(row.id(), leg.number());
        try (TakingBack taking = new TakingBack(address, leg.tables(), key, ownKey)) {
            // Children go before the parents they belong to, which takes a reading for each table.
            int count = leg.tables().size();
            for (int t = count - 1; t >= 0; t--) {
                Rows rows = new Rows(
                        plan.documents().deliveries().size(), leg.deliveries().get(t));
                int table = t;
                long[] documents = {0};
                new Delivered(plan, row.file(), journal, mark).visit(rows, (document, shaper, refused) -> {
                    rows.end(refused);
                    if (++documents[0] % PROGRESS == 0) {
                        live.gathering((int) Math.min(
                                99,
                                ((count - 1 - table) * 100
                                                + document.get(0).offset() * 100 / Math.max(1, row.fileSize()))
                                        / count));
                    }
                    return !live.breaksOff() && (!rows.full() || take(taking, table, rows));
                });
                if (live.breaksOff()) {
                    return Optional.empty();
                }
                take(taking, table, rows);
            }
            return Optional.of(taking.commit());
        }
    }

    private static boolean take(TakingBack taking, int table, Rows rows) throws Delivered.VisitFailed {
        try {
            taking.take(table, rows.wanted);
            rows.wanted.clear();
            rows.kept = 0;
            return true;
        } catch (TargetException e) {
            throw new Delivered.VisitFailed(e);
        }
    }

    /** Keeps the rows of one delivery, and forgets those of the others. */
    private static final class Rows implements RowSink {
        private final RowBuffer[] buffers;
        private final RowBuffer wanted = new RowBuffer();
        private int kept;

        Rows(int deliveries, int of) {
            buffers = new RowBuffer[deliveries];
            for (int d = 0; d < deliveries; d++) {
                buffers[d] = d == of ? wanted : new RowBuffer();
            }
        }

        @Override
        public RowBuffer rows(int delivery) {
            return buffers[delivery];
        }

        @Override
        public void made(int delivery, int record) {
            if (buffers[delivery] != wanted) {
                buffers[delivery].clear();
            }
        }

        void end(boolean refused) {
            if (refused) {
                wanted.truncate(kept);
            } else {
                kept = wanted.rows();
            }
        }

        boolean full() {
            return wanted.rows() >= CHUNK;
        }
    }
}
