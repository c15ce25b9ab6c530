package ninepin.server.follow;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import ninepin.core.deliver.TargetException;
import ninepin.core.job.Delivery;
import ninepin.core.job.Job;
import ninepin.core.job.Leg;
import ninepin.core.shape.Origin;
import ninepin.core.shape.RunFact;
import ninepin.server.api.Problems;
import ninepin.server.connections.Connections;
import ninepin.server.follow.Trace.Sought.Answer;
import ninepin.server.runs.RunMapper.RunRow;
import ninepin.server.runs.RunPlans;
import ninepin.server.runs.Runs;
import org.springframework.stereotype.Component;

/** Finds the record that a row of a table was made of. */
@Component
class RowOrigin {

    /** Where a row comes from; run 0 where none of the runs that were looked at has made it. */
    record Found(long run, long record, int lookedAt) {}

    private static final int MOST_RUNS = 60;
    private static final long MOST_NANOS = 25_000_000_000L;
    private static final int MOST_CANDIDATES = 1_000;

    private final Runs runs;
    private final Reading reading;
    private final RunPlans plans;
    private final Connections connections;

    RowOrigin(Runs runs, Reading reading, RunPlans plans, Connections connections) {
        this.runs = runs;
        this.reading = reading;
        this.plans = plans;
        this.connections = connections;
    }

    /**
     * Finds the run and the record that a row comes from: the run that the row itself names, or else the latest that made a
     * row of its key.
     *
     * @param key the columns of a unique key, with their values
     */
    Found find(String connection, String table, Map<String, String> key) throws IOException, TargetException {
        Map<String, String> row = connections
                .row(connection, table, key)
                .orElseThrow(() -> Problems.notFound("There is no such row in " + table + " any more."));
        long begun = System.nanoTime();
        int looked = 0;
        for (RunRow run : candidates(connection, table, row)) {
            if (looked == MOST_RUNS || System.nanoTime() - begun > MOST_NANOS) {
                break;
            }
            looked++;
            Job job = plans.definition(run).job();
            Trace trace =
                    new Trace(job.deliveries().size(), (document, rows) -> made(job, connection, table, key, rows));
            reading.visit(run, job, legOf(job, connection, table), trace);
            if (trace.found() && !trace.refused()) {
                long record = trace.foundRows().stream()
                        .filter(r -> made(job, connection, table, key, List.of(r)) == Answer.YES)
                        .map(r -> trace.places().get(r.record()).number())
                        .findFirst()
                        .orElse(trace.places().get(0).number());
                return new Found(run.id(), record, looked);
            }
        }
        return new Found(0, 0, looked);
    }

    /** The runs that may have made a row, the one that the row names first. */
    private List<RunRow> candidates(String connection, String table, Map<String, String> row) {
        List<RunRow> candidates = new ArrayList<>();
        for (RunRow run : runs.delivered(MOST_CANDIDATES)) {
            Job job;
            try {
                job = plans.definition(run).job();
            } catch (RuntimeException e) {
                continue;
            }
            for (Delivery delivery : job.deliveries()) {
                if (!goesTo(delivery, connection, table) || run.keptFile().isEmpty()) {
                    continue;
                }
                boolean named = delivery.shaping().stream()
                        .anyMatch(r -> r.take() instanceof Origin.OfRun of
                                && of.fact() == RunFact.RUN_NUMBER
                                && String.valueOf(run.id())
                                        .equals(Values.of(r.target()).apply(row)));
                candidates.add(named ? 0 : candidates.size(), run);
                break;
            }
        }
        return candidates;
    }

    private static int legOf(Job job, String connection, String table) {
        return job.legs().stream()
                .filter(l -> l.parts().stream().anyMatch(d -> goesTo(d, connection, table)))
                .map(Leg::number)
                .findFirst()
                .orElse(0);
    }

    private static boolean goesTo(Delivery delivery, String connection, String table) {
        return delivery.summary() == null
                && delivery.table() != null
                && delivery.to().connection().equals(connection)
                && delivery.table().equalsIgnoreCase(table);
    }

    private static Answer made(
            Job job, String connection, String table, Map<String, String> key, List<Trace.Row> rows) {
        for (Trace.Row row : rows) {
            Delivery delivery = job.deliveries().get(row.delivery());
            if (goesTo(delivery, connection, table) && has(delivery.columns(), row.values(), key)) {
                return Answer.YES;
            }
        }
        return Answer.NO;
    }

    private static boolean has(List<String> columns, List<String> values, Map<String, String> key) {
        for (Map.Entry<String, String> part : key.entrySet()) {
            boolean is = false;
            for (int c = 0; c < columns.size(); c++) {
                is |= columns.get(c).equalsIgnoreCase(part.getKey()) && Values.same(values.get(c), part.getValue());
            }
            if (!is) {
                return false;
            }
        }
        return true;
    }
}
