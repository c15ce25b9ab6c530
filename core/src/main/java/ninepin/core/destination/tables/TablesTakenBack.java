package ninepin.core.destination.tables;

import java.io.IOException;
import java.util.List;
import java.util.Optional;
import ninepin.core.deliver.DatabaseAddress;
import ninepin.core.deliver.Mark;
import ninepin.core.deliver.TableLoad;
import ninepin.core.deliver.TakenBack;
import ninepin.core.deliver.TargetException;
import ninepin.core.deliver.database.DatabaseTarget;
import ninepin.core.deliver.database.TakingBack;
import ninepin.core.destination.support.PastDelivery;
import ninepin.core.document.RowSink;
import ninepin.core.job.Leg;
import ninepin.core.run.Delivered;
import ninepin.core.shape.RowBuffer;

/**
 * Takes back rows that a run has added, that are known by a unique key, and that are as it left them, in one transaction. They are
 * made of its file once more.
 */
final class TablesTakenBack {

    private static final int CHUNK = 10_000;
    /** How many documents are read between two looks at how far it is. */
    private static final int PROGRESS = 1_000;

    private final Leg leg;
    private final List<TableLoad> loads;
    private final DatabaseAddress address;
    private final PastDelivery of;
    private final PastDelivery.Undoing how;

    TablesTakenBack(
            Leg leg, List<TableLoad> loads, DatabaseAddress address, PastDelivery of, PastDelivery.Undoing how) {
        this.leg = leg;
        this.loads = loads;
        this.address = address;
        this.of = of;
        this.how = how;
    }

    Optional<List<TakenBack>> take() throws TargetException, IOException, InterruptedException {
        Optional<List<TakenBack>> before = TakingBack.before(address, loads, how.ownKey());
        if (before.isPresent()) {
            return before;
        }
        Mark mark;
        try (DatabaseTarget target = new DatabaseTarget(address, loads, of.key())) {
            mark = target.look()
                    .orElseThrow(() -> new TargetException(
                            TargetException.Kind.UNUSABLE,
                            "UND-01",
                            "The mark of the run is not in its target any more.",
                            null));
        }
        try (TakingBack taking = new TakingBack(address, loads, of.key(), how.ownKey())) {
            // Children go before the parents they belong to, which takes a reading for each table.
            for (int table = loads.size() - 1; table >= 0; table--) {
                if (!take(taking, table, mark)) {
                    return Optional.empty();
                }
            }
            return Optional.of(taking.commit());
        } catch (Delivered.VisitFailed e) {
            if (e.getCause() instanceof TargetException refused) {
                throw refused;
            }
            throw new TargetException(
                    TargetException.Kind.UNUSABLE, "UND-01", "It could not be taken back: " + e.getMessage(), e);
        }
    }

    /** Takes the rows of one table; false where it was broken off. */
    private boolean take(TakingBack taking, int table, Mark mark)
            throws TargetException, IOException, InterruptedException, Delivered.VisitFailed {
        int count = loads.size();
        long size = Math.max(1, java.nio.file.Files.size(how.file()));
        Rows rows = new Rows(
                how.plan().documents().deliveries().size(), leg.deliveries().get(table));
        long[] documents = {0};
        new Delivered(how.plan(), how.file(), of.files(), mark).visit(rows, (document, shaper, refused) -> {
            rows.end(refused);
            if (++documents[0] % PROGRESS == 0) {
                long done = document.get(0).offset() * 100 / size;
                how.percent().accept((int) Math.min(99, ((count - 1 - table) * 100 + done) / count));
            }
            return !how.breaksOff().getAsBoolean() && (!rows.full() || gives(taking, table, rows));
        });
        return !how.breaksOff().getAsBoolean() && gives(taking, table, rows);
    }

    private static boolean gives(TakingBack taking, int table, Rows rows) throws Delivered.VisitFailed {
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
