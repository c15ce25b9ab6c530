package ninepin.server.follow;

import java.math.BigDecimal;
import java.util.Map;
import java.util.Objects;
import java.util.function.Function;

/** Values as they were delivered, and as a database writes them. */
final class Values {

    private Values() {}

    /** Takes the value of a column, whose name is compared without regard to case; null where it is NULL or not there. */
    static Function<Map<String, String>, String> of(String name) {
        return row -> row.entrySet().stream()
                .filter(e -> e.getKey().equalsIgnoreCase(name))
                .map(Map.Entry::getValue)
                .filter(Objects::nonNull)
                .findFirst()
                .orElse(null);
    }

    /** Whether a value as it was delivered and as the database writes it are the same. */
    static boolean same(String delivered, String there) {
        if (delivered == null || there == null) {
            return delivered == null && there == null;
        }
        if (delivered.equals(there)) {
            return true;
        }
        String a = delivered.replace('T', ' ').replaceAll("\\.0+$", "");
        String b = there.replace('T', ' ').replaceAll("\\.0+$", "");
        if (a.equals(b) || bit(a).equals(bit(b))) {
            return true;
        }
        try {
            return new BigDecimal(delivered.strip()).compareTo(new BigDecimal(there.strip())) == 0;
        } catch (NumberFormatException e) {
            return false;
        }
    }

    private static String bit(String text) {
        return switch (text) {
            case "t", "true" -> "1";
            case "f", "false" -> "0";
            default -> text;
        };
    }
}
