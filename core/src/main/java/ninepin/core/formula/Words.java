package ninepin.core.formula;

import java.util.Locale;
import java.util.Set;

/** Words that are part of the language, and so cannot name a field without double quotes. */
final class Words {

    private static final Set<String> RESERVED = Set.of(
            "AND",
            "OR",
            "NOT",
            "CASE",
            "WHEN",
            "THEN",
            "ELSE",
            "END",
            "IS",
            "NULL",
            "IN",
            "LIKE",
            "LIKE_REGEX",
            "BETWEEN",
            "TRUE",
            "FALSE",
            "UNKNOWN",
            "FROM",
            "FOR",
            "AS",
            "CAST",
            "ESCAPE",
            "INTERVAL",
            "CURRENT_DATE",
            "SELECT");

    private Words() {}

    static boolean isReserved(String word) {
        return RESERVED.contains(word.toUpperCase(Locale.ROOT));
    }
}
