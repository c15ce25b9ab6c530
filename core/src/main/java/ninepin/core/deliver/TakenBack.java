package ninepin.core.deliver;

import java.util.List;

/**
 * What became of what a run had delivered under one name, when it was taken back.
 *
 * @param table the name, of a table or of files
 * @param removed how many rows, or files, were taken back
 * @param changed how many were left, because they have been changed since
 * @param gone how many are not there any more
 * @param left the first of those that were changed or are gone, and which of the two it is
 */
public record TakenBack(String table, long removed, long changed, long gone, List<String> left) {
    public TakenBack {
        left = left == null ? List.of() : List.copyOf(left);
    }
}
