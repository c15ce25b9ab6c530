package ninepin.core.preview;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import org.apache.commons.text.similarity.LevenshteinDistance;

/** How alike two names are that people gave to the same thing: {@code farm_no} and {@code FarmNumber}. */
public final class Likeness {

    /** The distance of two words where it is one letter at most; else -1. */
    private static final LevenshteinDistance ONE_LETTER = new LevenshteinDistance(1);

    /** Words that people shorten; each is known by its long form. */
    private static final Map<String, String> LONG = Map.ofEntries(
            Map.entry("no", "number"),
            Map.entry("nr", "number"),
            Map.entry("num", "number"),
            Map.entry("qty", "quantity"),
            Map.entry("amt", "amount"),
            Map.entry("dt", "date"),
            Map.entry("desc", "description"),
            Map.entry("descr", "description"),
            Map.entry("addr", "address"),
            Map.entry("temp", "temperature"),
            Map.entry("cust", "customer"),
            Map.entry("acct", "account"),
            Map.entry("acc", "account"),
            Map.entry("tel", "phone"),
            Map.entry("telephone", "phone"),
            Map.entry("org", "organisation"),
            Map.entry("cat", "category"),
            Map.entry("curr", "currency"),
            Map.entry("ccy", "currency"),
            Map.entry("ref", "reference"),
            Map.entry("id", "number"),
            Map.entry("on", "date"),
            Map.entry("day", "date"),
            Map.entry("at", "time"));

    /** Words that say little. */
    private static final Set<String> SLIGHT = Set.of("the", "of", "a", "an", "is", "source", "value", "field");

    private Likeness() {}

    /** The words of a name, in their long form, lower case. */
    static List<String> words(String name) {
        String spaced = name.replaceAll("(?<=\\p{Ll})(?=\\p{Lu})|(?<=\\p{Lu})(?=\\p{Lu}\\p{Ll})", " ")
                .replaceAll("(?<=\\p{L})(?=\\p{Nd})|[^\\p{L}\\p{Nd}]+", " ");
        List<String> words = new ArrayList<>();
        for (String word : spaced.strip().toLowerCase(Locale.ROOT).split(" +")) {
            if (!word.isEmpty()) {
                String singular = word.length() > 3 && word.endsWith("s") && !word.endsWith("ss")
                        ? word.substring(0, word.length() - 1)
                        : word;
                words.add(LONG.getOrDefault(word, LONG.getOrDefault(singular, singular)));
            }
        }
        return words;
    }

    /**
     * How alike two names are: 1 where they have the same words, 0 where they have none in common.
     *
     * @param around words that go without saying, such as the name of the record
     */
    public static double of(String a, String b, Set<String> around) {
        if (plain(a).equals(plain(b))) {
            return 1;
        }
        List<String> left = words(a);
        List<String> right = words(b);
        if (left.equals(right)) {
            return 0.97;
        }
        double together = 0;
        double all = 0;
        Set<String> taken = new HashSet<>();
        for (String word : left) {
            double weight = weight(word, around);
            double best = 0;
            String with = null;
            for (String other : right) {
                double same = taken.contains(other) ? 0 : alike(word, other);
                if (same > best) {
                    best = same;
                    with = other;
                }
            }
            if (with != null) {
                taken.add(with);
            }
            together += weight * best;
            all += weight;
        }
        for (String word : right) {
            all += taken.contains(word) ? 0 : weight(word, around);
        }
        double likeness = all == 0 ? 0 : Math.min(0.95, together / all);
        // The number of a voucher is often called the voucher.
        return sameButForNumber(left, right) ? Math.max(0.85, likeness) : likeness;
    }

    private static boolean sameButForNumber(List<String> a, List<String> b) {
        List<String> left = a.stream().filter(w -> !w.equals("number")).toList();
        return !left.isEmpty()
                && left.equals(b.stream().filter(w -> !w.equals("number")).toList());
    }

    private static double weight(String word, Set<String> around) {
        return word.equals("number") ? 0.5 : SLIGHT.contains(word) ? 0.2 : around.contains(word) ? 0.35 : 1;
    }

    private static String plain(String name) {
        return name.toLowerCase(Locale.ROOT).replaceAll("[^\\p{L}\\p{Nd}]", "");
    }

    /** How alike two words are. */
    private static double alike(String a, String b) {
        if (a.equals(b)) {
            return 1;
        }
        int shorter = Math.min(a.length(), b.length());
        if (shorter >= 3 && (a.startsWith(b) || b.startsWith(a))) {
            return 0.8;
        }
        boolean typo = shorter >= 4 && ONE_LETTER.apply(a, b) >= 0;
        return typo ? 0.85 : 0;
    }
}
