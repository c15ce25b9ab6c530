package ninepin.core.formula;

/** The order of values of one kind. Texts are ordered by the code points of their characters, blanks included. */
final class Comparison {

    private Comparison() {}

    static int compare(SqlType.Kind kind, Datum a, Datum b) {
        switch (kind) {
            case CHARACTER:
                return text(a.text, b.text);
            case NUMERIC:
                return Numbers.compare(a, b);
            case TIMESTAMP:
                int days = Long.compare(a.number, b.number);
                return days != 0 ? days : Long.compare(a.nanos, b.nanos);
            default:
                return Long.compare(a.number, b.number);
        }
    }

    /** By code points: {@link String#compareTo} would put characters beyond U+FFFF before some that are below. */
    private static int text(String a, String b) {
        int end = Math.min(a.length(), b.length());
        for (int i = 0; i < end; i++) {
            char c = a.charAt(i);
            char d = b.charAt(i);
            if (c != d) {
                boolean bothBelow = !Character.isSurrogate(c) && !Character.isSurrogate(d);
                return bothBelow || Character.isSurrogate(c) && Character.isSurrogate(d)
                        ? Character.compare(c, d)
                        : Character.isSurrogate(c) ? 1 : -1;
            }
        }
        return Integer.compare(a.length(), b.length());
    }
}
