package ninepin.core.deliver.database;

import java.sql.SQLException;
import java.util.List;
import ninepin.core.deliver.Batch;
import ninepin.core.deliver.TableLoad;
import ninepin.core.deliver.TableLoad.ParentKey;
import ninepin.core.shape.RowBuffer;

/** Carries the numbers that the database gave to rows of one table into rows of others that belong to them. */
final class ParentKeys {

    private final List<TableLoad> loads;
    private final List<BulkStatement> bulks;
    private final Batch batch;
    /** For each table the numbers of the rows loaded last, and the first of these rows. */
    private final long[][] numbers;

    private final int[] from;

    ParentKeys(List<TableLoad> loads, List<BulkStatement> bulks, Batch batch) {
        this.loads = loads;
        this.bulks = bulks;
        this.batch = batch;
        this.numbers = new long[loads.size()][];
        this.from = new int[loads.size()];
    }

    /** Whether any rows of a table are changed before they are loaded. */
    boolean changes(int table) {
        return !loads.get(table).parents().isEmpty();
    }

    /** Told that rows of a table are in, from one on. */
    void loaded(int table, int first) throws SQLException {
        if (bulks.get(table) instanceof NumberedStatement numbered) {
            numbers[table] = numbered.numbers();
            from[table] = first;
        }
    }

    /** The rows of some documents with the numbers of those they belong to. */
    RowBuffer rows(int table, int firstDocument, int endDocument) {
        List<ParentKey> parents = loads.get(table).parents();
        int[] fields = parents.stream().mapToInt(ParentKey::field).toArray();
        long[] values = new long[fields.length];
        RowBuffer rows = batch.rows(table);
        RowBuffer changed = new RowBuffer();
        for (int d = firstDocument; d < endDocument; d++) {
            for (int row = batch.start(table, d); row < batch.end(table, d); row++) {
                for (int p = 0; p < fields.length; p++) {
                    int load = parents.get(p).load();
                    int parent = batch.start(load, d) + rows.number(row, fields[p]);
                    values[p] = numbers[load][parent - from[load]];
                }
                changed.addWith(rows, row, fields, values);
            }
        }
        return changed;
    }
}
