package ninepin.core.proof;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import ninepin.core.bytes.FlatFolder;
import ninepin.core.deliver.Batch;
import ninepin.core.deliver.LoadConnection;
import ninepin.core.deliver.Loaded;
import ninepin.core.deliver.RowCounts;
import ninepin.core.deliver.Tally;
import ninepin.core.deliver.Target;
import ninepin.core.deliver.TrialConnection;
import ninepin.core.deliver.TrialTarget;
import ninepin.core.format.Transcripts;
import ninepin.core.job.Delivery;
import ninepin.core.job.Job;
import ninepin.core.layout.Layout;
import ninepin.core.proof.Proof.Found;
import ninepin.core.proof.Proof.Made;
import ninepin.core.proof.Proof.Row;
import ninepin.core.run.Journal;
import ninepin.core.run.Run;
import ninepin.core.run.RunListener;
import ninepin.core.run.RunOutcome;
import ninepin.core.run.RunPlan;
import ninepin.core.run.StopSignal;
import ninepin.core.shape.ShapingContext;

/** Makes of a sample what a run would make of it, up to where its rows leave for their targets. */
public final class Proving {

    /** The most records of a sample; a proof is read by people. */
    public static final int MOST_RECORDS = 20_000;

    private final Job job;
    private final Layout layout;

    public Proving(Job job, Layout layout) {
        this.job = job;
        this.layout = layout;
    }

    /**
     * What becomes of a sample.
     *
     * @param context what rules can take; numbers of sequences begin anew
     * @throws ninepin.core.layout.DefinitionException where the job cannot be run at all
     */
    public Made made(Path sample, ShapingContext context) throws IOException {
        Path journal = Files.createTempFile("ninepin-proof", ".ndjson");
        Path texts = Files.createTempDirectory("ninepin-proof");
        List<Row> rows = new ArrayList<>();
        try (Target collecting = new Collecting(job.deliveries(), rows)) {
            RunPlan plan = job.plan(layout, context, Tally.ZERO, null);
            Path read = new Transcripts(texts).readable(sample, layout);
            RunOutcome outcome = new Run(plan, read, journal, collecting, RunListener.NONE, new StopSignal()).execute();
            List<Found> findings = new ArrayList<>();
            Journal.read(journal, 0, outcome.seen().journalLength(), e -> e.findings()
                    .forEach(f -> findings.add(new Found(f.record(), f.code(), f.message()))));
            Tally tally = outcome.seen().tally();
            String ended = outcome.state() == RunOutcome.State.FINISHED
                    ? "finished"
                    : outcome.state().name().toLowerCase(java.util.Locale.ROOT) + ": " + outcome.message();
            return new Made(ended, tally.read(), tally.rejected(), tally.setAside(), rows, findings);
        } finally {
            Files.deleteIfExists(journal);
            FlatFolder.remove(texts);
        }
    }

    /** Keeps rows in memory. */
    private record Collecting(List<Delivery> deliveries, List<Row> rows) implements TrialTarget {

        @Override
        public int maxConnections() {
            return 1;
        }

        @Override
        public LoadConnection connect() {
            return (TrialConnection) batch -> {
                RowCounts[] taken = Loaded.counts(batch.tables());
                for (int t = 0; t < taken.length; t++) {
                    taken[t] = RowCounts.added(batch.rows(t).rows());
                }
                for (int d = 0; d < batch.documents(); d++) {
                    add(batch, d);
                }
                return Loaded.of(taken, List.of());
            };
        }

        private void add(Batch batch, int document) {
            for (int t = 0; t < batch.tables(); t++) {
                Delivery delivery = deliveries.get(t);
                List<String> columns = delivery.columns();
                String to = delivery.to() == null || delivery.to().label().isBlank()
                        ? "delivery " + (t + 1)
                        : delivery.to().label();
                for (int row = batch.start(t, document); row < batch.end(t, document); row++) {
                    List<String> values = batch.rows(t).row(row);
                    Map<String, String> named = new LinkedHashMap<>();
                    for (int c = 0; c < columns.size(); c++) {
                        named.put(columns.get(c), values.get(c));
                    }
                    rows.add(new Row(batch.number(document), to, named));
                }
            }
        }

        @Override
        public void close() {
            // Nothing is open.
        }
    }
}
