package ninepin.core.lookup;

import java.util.List;

/**
 * The look-ups of a job with what they look into.
 *
 * @param tables in the order in which they are made; the key of one may name fields of those before it
 */
public record LookUpTables(List<LookUpTable> tables) {

    public static final LookUpTables NONE = new LookUpTables(List.of());

    public LookUpTables {
        tables = List.copyOf(tables);
    }

    /** The first ones. */
    public LookUpTables first(int count) {
        return new LookUpTables(tables.subList(0, count));
    }
}
