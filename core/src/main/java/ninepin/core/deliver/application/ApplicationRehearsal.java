package ninepin.core.deliver.application;

import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.BooleanSupplier;
import ninepin.core.deliver.ApplicationAddress;
import ninepin.core.deliver.Batch;
import ninepin.core.deliver.LoadConnection;
import ninepin.core.deliver.Loaded;
import ninepin.core.deliver.Mark;
import ninepin.core.deliver.Refusal;
import ninepin.core.deliver.RowCounts;
import ninepin.core.deliver.TableDescription.Column;
import ninepin.core.deliver.TableDescription.Family;
import ninepin.core.deliver.TakeUp;
import ninepin.core.deliver.TargetException;
import ninepin.core.deliver.TrialConnection;
import ninepin.core.deliver.TrialTarget;
import ninepin.core.deliver.application.ApplicationTarget.Load;
import ninepin.core.deliver.application.Operation.Input;

/**
 * A rehearsal's target for an application: requests are held against its description, and none is sent. So lengths, types
 * and missing values are found; what only the application knows is not.
 */
public final class ApplicationRehearsal implements TrialTarget {

    private final ApplicationTarget described;
    private final List<Load> loads;

    public ApplicationRehearsal(ApplicationAddress address, List<Load> loads) {
        BooleanSupplier never = () -> false;
        this.loads = List.copyOf(loads);
        this.described = new ApplicationTarget(
                address, loads, "rehearsal", java.nio.file.Path.of("rehearsal"), RetryPolicy.USUAL, never);
    }

    @Override
    public Optional<Mark> takeUp(TakeUp as) throws TargetException {
        described.describe();
        return Optional.empty();
    }

    @Override
    public int maxConnections() {
        return 1;
    }

    @Override
    public LoadConnection connect() {
        return (TrialConnection) this::judged;
    }

    private Loaded judged(Batch batch) {
        RowCounts[] counts = Loaded.counts(loads.size());
        List<Refusal> refused = new ArrayList<>();
        for (int d = 0; d < batch.documents(); d++) {
            Refusal refusal = null;
            for (int t = 0; t < loads.size(); t++) {
                for (int row = batch.start(t, d); row < batch.end(t, d); row++) {
                    refusal = refusal == null ? judged(batch, d, t, row) : refusal;
                }
            }
            if (refusal == null) {
                ApplicationTarget.count(batch, d, counts);
            } else {
                refused.add(refusal);
            }
        }
        return Loaded.of(counts, refused);
    }

    private Refusal judged(Batch batch, int document, int table, int row) {
        List<String> values = batch.rows(table).row(row);
        List<Input> inputs = described.inputs(table);
        for (int i = 0; i < values.size(); i++) {
            Column column = inputs.get(i).column();
            String problem = problem(values.get(i), column);
            if (problem != null) {
                return new Refusal(
                        document,
                        table,
                        row,
                        column.name(),
                        "APP-01",
                        "The application's description says: " + problem);
            }
        }
        return null;
    }

    private static String problem(String value, Column column) {
        if (value == null) {
            return column.needsRule() ? column.name() + " must have a value." : null;
        }
        if (column.family() == Family.TEXT && value.codePointCount(0, value.length()) > column.length()) {
            return column.name() + " has at most " + column.length() + " characters.";
        }
        boolean whole = column.family() == Family.WHOLE;
        if (whole || column.family() == Family.EXACT) {
            try {
                BigDecimal number = new BigDecimal(value.strip());
                return whole && number.stripTrailingZeros().scale() > 0 ? column.name() + " is a whole number." : null;
            } catch (NumberFormatException e) {
                return column.name() + " is a number.";
            }
        }
        return null;
    }

    @Override
    public void close() {
        // Nothing is open.
    }
}
