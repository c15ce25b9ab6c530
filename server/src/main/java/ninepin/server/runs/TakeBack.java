package ninepin.server.runs;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;
import ninepin.core.deliver.DatabaseAddress;
import ninepin.core.deliver.Mark;
import ninepin.core.deliver.TableDelivery.Mode;
import ninepin.core.deliver.TableDescription;
import ninepin.core.deliver.TableLoad;
import ninepin.core.deliver.Tally;
import ninepin.core.deliver.TargetException;
import ninepin.core.deliver.database.DatabaseTarget;
import ninepin.core.deliver.database.TakingBack;
import ninepin.core.deliver.file.FileTarget;
import ninepin.core.document.RowSink;
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
import ninepin.server.runs.RunMapper.RunRow;
import org.springframework.stereotype.Service;

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

    private final Runs runs;
    private final RunPlans plans;
    private final Connections connections;
    private final LegTargets targets;
    private final LegAccounts accounts;
    private final RunMapper mapper;
    private final Clock clock;

    TakeBack(
            Runs runs,
            RunPlans plans,
            Connections connections,
            LegTargets targets,
            LegAccounts accounts,
            RunMapper mapper,
            Clock clock) {
        this.targets = targets;
        this.clock = clock;
        this.runs = runs;
        this.plans = plans;
        this.connections = connections;
        this.accounts = accounts;
        this.mapper = mapper;
    }

    /** What stands in the way. */
    Outlook outlook(long id) throws TargetException {
        RunRow row = runs.row(id);
        List<String> obstacles = new ArrayList<>();
        List<String> tables = new ArrayList<>();
        if (row.commits() == 0) {
            return new Outlook(false, List.of("It has delivered nothing."), tables);
        }
        if (!row.state().over()) {
            return new Outlook(false, List.of("It is waiting or under way."), tables);
        }
        if (!Files.exists(Path.of(row.filePath()))) {
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
        Tally tally = leg.number() == 0
                ? RunView.tally(row)
                : accounts.of(row.id()).get(leg.number()).tally();
        for (TableLoad load : leg.tables()) {
            Mode mode = load.delivery().mode();
            String table = load.delivery().table();
            boolean adds = mode == Mode.ADD
                    || (mode == Mode.ADD_OR_CHANGE || mode == Mode.ADD_MISSING)
                            && tally.changed() == 0
                            && tally.unchanged() == 0;
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

    /** Takes back all that can be, and what could not be is listed. */
    List<TakingBack.Outcome> execute(long id, String who) throws TargetException {
        Outlook outlook = outlook(id);
        if (!outlook.possible()) {
            throw Problems.conflict(String.join(" ", outlook.obstacles()));
        }
        RunRow row = runs.row(id);
        try {
            return runs.whileQuiet(row, () -> execute(row, who));
        } catch (TargetException | RuntimeException e) {
            throw e;
        } catch (Exception e) {
            throw Problems.conflict("It could not be taken back: " + e.getMessage() + ". Nothing was changed.");
        }
    }

    private List<TakingBack.Outcome> execute(RunRow row, String who) throws Exception {
        List<TakingBack.Outcome> outcomes = new ArrayList<>();
        Job job = withoutNumbers(plans.definition(row).job());
        for (Leg leg : job.legs()) {
            if (leg.kind() == Leg.Kind.TABLES && obstacles(row, leg).isEmpty()) {
                outcomes.addAll(takeBack(row, job, leg));
            }
        }
        String removed = counted(outcomes, "row");
        List<TakingBack.Outcome> files = new ArrayList<>();
        for (Leg leg : job.legs()) {
            if (leg.kind() == Leg.Kind.FILES) {
                files.add(files(row, leg));
            }
        }
        if (!files.isEmpty()) {
            removed = (outcomes.isEmpty() ? "" : removed + " and ") + counted(files, "file");
        }
        outcomes.addAll(files);
        long left = outcomes.stream().mapToLong(o -> o.changed() + o.gone()).sum();
        String message = "Taken back by " + who + ": " + removed + " removed"
                + (left == 0 ? "." : "; " + left + " had been changed or were gone, and were left.");
        mapper.takenBack(row.id(), clock.instant(), message);
        accounts.takenBack(row.id());
        mapper.event(row.id(), clock.instant(), "taken back", message, 0);
        return outcomes;
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

    private List<TakingBack.Outcome> takeBack(RunRow row, Job job, Leg leg)
            throws TargetException, IOException, InterruptedException, Delivered.VisitFailed {
        DatabaseAddress address = connections.address(leg.to().connection());
        String key = LegAccounts.key(row.runKey(), leg.number());
        Mark mark;
        try (DatabaseTarget target = new DatabaseTarget(address, leg.tables(), key)) {
            mark = target.look()
                    .orElseThrow(() -> Problems.conflict("The mark of the run is not in its target any more."));
        }
        RunPlan plan = plans.plan(row, job, leg);
        Path journal = accounts.journal(row.id(), leg.number());
        try (TakingBack taking = new TakingBack(address, leg.tables(), key)) {
            // Children go before the parents they belong to, which takes a reading for each table.
            for (int t = leg.tables().size() - 1; t >= 0; t--) {
                Rows rows = new Rows(
                        plan.documents().deliveries().size(), leg.deliveries().get(t));
                int table = t;
                new Delivered(plan, Path.of(row.filePath()), journal, mark).visit(rows, (document, shaper, refused) -> {
                    rows.end(refused);
                    return rows.full() ? take(taking, table, rows) : true;
                });
                take(taking, table, rows);
            }
            return taking.commit();
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
