package ninepin.core.shape;

/** Writes rows as rules would. */
public final class TestRows {

    private TestRows() {}

    /** Adds a row; null for NULL. */
    public static void add(RowBuffer rows, String... values) {
        for (String value : values) {
            rows.textOr(value, null);
        }
        rows.endRow();
    }
}
