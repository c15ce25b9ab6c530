package ninepin.core.formula;

import java.util.Collection;
import java.util.Comparator;
import java.util.Locale;
import java.util.Optional;

/** Finds the name that was probably meant. */
final class NearNames {

    private NearNames() {}

    /** A hint to stand behind a message: the nearest of the names, or nothing where none is near. */
    static String hint(String wanted, Collection<String> names) {
        return nearest(wanted, names).map(n -> " Is " + n + " meant?").orElse("");
    }

    static Optional<String> nearest(String wanted, Collection<String> names) {
        String low = wanted.toLowerCase(Locale.ROOT);
        return names.stream()
                .filter(n -> distance(low, n.toLowerCase(Locale.ROOT)) <= Math.max(1, wanted.length() / 3))
                .min(Comparator.comparing(n -> distance(low, n.toLowerCase(Locale.ROOT))));
    }

    /** The number of characters to change, add or take away; two that changed places count once. */
    private static int distance(String a, String b) {
        int[][] d = new int[a.length() + 1][b.length() + 1];
        for (int i = 0; i <= a.length(); i++) {
            for (int j = 0; j <= b.length(); j++) {
                if (i == 0 || j == 0) {
                    d[i][j] = i + j;
                    continue;
                }
                int change = a.charAt(i - 1) == b.charAt(j - 1) ? 0 : 1;
                d[i][j] = Math.min(Math.min(d[i - 1][j], d[i][j - 1]) + 1, d[i - 1][j - 1] + change);
                if (i > 1 && j > 1 && a.charAt(i - 1) == b.charAt(j - 2) && a.charAt(i - 2) == b.charAt(j - 1)) {
                    d[i][j] = Math.min(d[i][j], d[i - 2][j - 2] + 1);
                }
            }
        }
        return d[a.length()][b.length()];
    }
}
