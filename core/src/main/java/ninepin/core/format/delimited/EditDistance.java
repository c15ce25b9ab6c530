package ninepin.core.format.delimited;

/** The number of letters to insert, delete or change to make one name of another (Levenshtein 1965). */
public final class EditDistance {

    private EditDistance() {}

    /** The distance, or {@code limit} when it is that or more. */
    public static int of(String a, String b, int limit) {
        if (Math.abs(a.length() - b.length()) >= limit) {
            return limit;
        }
        int[] row = new int[b.length() + 1];
        for (int j = 0; j <= b.length(); j++) {
            row[j] = j;
        }
        for (int i = 1; i <= a.length(); i++) {
            int diagonal = row[0];
            row[0] = i;
            for (int j = 1; j <= b.length(); j++) {
                int change = diagonal + (a.charAt(i - 1) == b.charAt(j - 1) ? 0 : 1);
                diagonal = row[j];
                row[j] = Math.min(change, Math.min(row[j], row[j - 1]) + 1);
            }
        }
        return Math.min(row[b.length()], limit);
    }
}
