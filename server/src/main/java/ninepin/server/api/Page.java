package ninepin.server.api;

import java.util.Arrays;
import java.util.List;
import java.util.function.Function;

/**
 * A part of a list that may be long.
 *
 * @param items what stands in it, in the order of the list
 * @param next what the request for the part behind it says as {@code after}; null where this is the last
 */
public record Page<T>(List<T> items, String next) {

    /** As many as anybody gets at once. */
    public static final int MOST = 300;

    /**
     * A page of rows, of which one more was asked for than are given.
     *
     * @param rows the rows, one more than {@code most} where there are more
     * @param cursor the place of a row in the list
     */
    public static <R, T> Page<T> of(List<R> rows, int most, Function<R, Cursor> cursor, Function<R, T> item) {
        boolean more = rows.size() > most;
        List<R> shown = more ? rows.subList(0, most) : rows;
        return new Page<>(
                shown.stream().map(item).toList(),
                more ? cursor.apply(shown.get(most - 1)).toString() : null);
    }

    /** How many are given where so many were asked for. */
    public static int most(Integer asked, int usual) {
        return asked == null ? usual : Math.max(1, Math.min(asked, MOST));
    }

    /** A place in a list: numbers in the order in which the list is sorted. Opaque to those who ask. */
    public record Cursor(List<Long> parts) {

        /** Of some numbers. */
        public static Cursor of(long... numbers) {
            return new Cursor(Arrays.stream(numbers).boxed().toList());
        }

        /**
         * A cursor as it was given.
         *
         * @param text the text; null for the beginning of the list
         * @param parts how many numbers it has
         * @return null at the beginning
         */
        public static Cursor read(String text, int parts) {
            if (text == null || text.isEmpty()) {
                return null;
            }
            if (!text.matches("-?\\d{1,18}(\\.-?\\d{1,18}){" + (parts - 1) + "}")) {
                throw Problems.unprocessable(
                        "\"" + text + "\" is no place in this list. Give what a page said as next.");
            }
            return new Cursor(
                    Arrays.stream(text.split("\\.")).map(Long::valueOf).toList());
        }

        /** One of its numbers, or another where there is no cursor. */
        public static long part(Cursor cursor, int number, long otherwise) {
            return cursor == null ? otherwise : cursor.parts().get(number);
        }

        @Override
        public String toString() {
            return String.join(".", parts.stream().map(String::valueOf).toList());
        }
    }
}
