package ninepin.core.infer;

import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import ninepin.core.infer.Proposal.Sureness;
import ninepin.core.layout.DataType;
import ninepin.core.layout.FileCharset;
import ninepin.core.layout.NumberForm;
import ninepin.core.value.Value;
import ninepin.core.value.ValueParser;

/**
 * The type that the values of a field have.
 *
 * @param type the type
 * @param sureness how sure it is
 * @param alternatives other types that fit as well
 * @param values how many values were looked at
 * @param blank how many are blank
 * @param distinct how many differ
 * @param smallest the first in the order of the type
 * @param largest the last
 * @param misfits of a text, values that keep it from being of another type
 * @param likelyKey whether each stands once
 * @param likelyCodes the values where they are few
 * @param note what else is to be known, or null
 */
public record TypeGuess(
        DataType type,
        Sureness sureness,
        List<DataType> alternatives,
        int values,
        int blank,
        int distinct,
        String smallest,
        String largest,
        List<String> misfits,
        boolean likelyKey,
        List<String> likelyCodes,
        String note) {

    private static final double ENOUGH = 0.9;
    /** So many values say which types come into question. */
    private static final int FIRST = 2_000;

    /** Digits without separators that would be a day of another time are rather numbers. */
    private static final int EARLIEST_YEAR = 1967;

    private static final int EARLIEST_SHORT_YEAR = 2007;
    private static final int LATEST_YEAR = 2040;
    private static final List<String> DATES = List.of(
            "yyyy-MM-dd",
            "dd.MM.yyyy",
            "d.M.yyyy",
            "yyyyMMdd",
            "dd/MM/yyyy",
            "MM/dd/yyyy",
            "d/M/yyyy",
            "M/d/yyyy",
            "yyyy/MM/dd",
            "dd-MM-yyyy",
            "MM-dd-yyyy",
            "ddMMyyyy",
            "MMddyyyy",
            "yyMMdd",
            "ddMMyy",
            "dd.MM.yy",
            "d MMM yyyy",
            "d-MMM-yyyy",
            "MMM d yyyy",
            "MMM d, yyyy",
            "d MMMM yyyy",
            "d. MMMM yyyy",
            "MMMM d, yyyy");
    private static final List<String> TIMES =
            List.of("HH:mm:ss", "HH:mm", "HHmmss", "HHmm", "HH:mm:ss[.SSS]", "HH:mm:ss[.SSSSSS]", "h:mm[:ss] a");
    private static final List<String> STAMPS = List.of(
            "yyyy-MM-dd HH:mm:ss",
            "yyyy-MM-dd'T'HH:mm:ss",
            "yyyy-MM-dd HH:mm",
            "dd.MM.yyyy HH:mm:ss",
            "dd.MM.yyyy HH:mm",
            "yyyyMMddHHmmss",
            "yyyyMMddHHmm",
            "yyyy/MM/dd HH:mm:ss",
            "yyyy/MM/dd HH:mm",
            "dd/MM/yyyy HH:mm:ss",
            "dd/MM/yyyy HH:mm",
            "MM/dd/yyyy HH:mm:ss",
            "MM/dd/yyyy HH:mm",
            "d/M/yyyy H:mm[:ss]",
            "M/d/yyyy H:mm[:ss]",
            "d/M/yyyy h:mm[:ss] a",
            "M/d/yyyy h:mm[:ss] a",
            "dd-MM-yyyy HH:mm[:ss]",
            "d-MMM-yyyy HH:mm[:ss]",
            "MMM d yyyy HH:mm[:ss]",
            "yyyy-MM-dd'T'HH:mm[:ss][X]",
            "yyyy-MM-dd'T'HH:mm:ss[.SSS][X]",
            "yyyy-MM-dd'T'HH:mm:ss[.SSSSSS][X]",
            "yyyy-MM-dd'T'HH:mm:ss[.SSSSSSSSS][X]",
            "yyyy-MM-dd HH:mm[:ss][X]",
            "yyyy-MM-dd HH:mm:ss[.SSS][X]",
            "yyyy-MM-dd HH:mm:ss[.SSSSSS][X]",
            "yyyy-MM-dd HH:mm:ss[.SSSSSSSSS][X]");
    private static final List<List<String>> TOKENS = List.of(
            List.of("true", "false"),
            List.of("yes", "no"),
            List.of("Y", "N"),
            List.of("J", "N"),
            List.of("ja", "nein"),
            List.of("T", "F"));

    /**
     * Judges values as they stand in the file.
     *
     * @param all the values
     * @param fixed the width of a fixed-length field, or 0
     */
    public static TypeGuess of(List<String> all, int fixed) {
        List<String> values =
                all.stream().map(String::strip).filter(v -> !v.isEmpty()).toList();
        List<String> first = values.subList(0, Math.min(FIRST, values.size()));
        Map<String, Candidate> fitting = new LinkedHashMap<>();
        Map<String, Candidate> nearly = new LinkedHashMap<>();
        for (Candidate candidate : candidates(values, first, fixed)) {
            if (!values.isEmpty() && candidate.misfits(first) >= 0) {
                int misfits = candidate.misfits(values);
                if (misfits >= 0) {
                    (misfits == 0 ? fitting : nearly).putIfAbsent(words(candidate.type), candidate);
                }
            }
        }
        // What rejects a value of the sample is offered, and not proposed.
        Candidate text = new Candidate(new DataType.CharacterVarying(textLength(all, fixed)));
        Candidate best = fitting.isEmpty() ? text : fitting.values().iterator().next();
        List<DataType> others = fitting.values().stream()
                .skip(1)
                .filter(c -> !c.readsLike(best, first))
                .map(c -> c.type)
                .collect(Collectors.toCollection(ArrayList::new));
        if (best == text) {
            nearly.values().forEach(c -> others.add(c.type));
        } else {
            others.add(text.type);
        }
        return seen(
                all,
                values,
                best,
                best == text ? nearly.values().stream().findFirst().orElse(null) : null,
                others);
    }

    /** A type that a description states. */
    public static TypeGuess unseen(DataType type, Sureness sureness) {
        return new TypeGuess(type, sureness, List.of(), 0, 0, 0, null, null, List.of(), false, List.of(), null);
    }

    /** The types a field may have, its own first. */
    public List<DataType> choices(DataType own) {
        List<DataType> all = new ArrayList<>(List.of(own));
        alternatives.stream().filter(t -> !t.equals(own)).forEach(all::add);
        return all;
    }

    private static TypeGuess seen(
            List<String> all, List<String> values, Candidate best, Candidate nearly, List<DataType> alternatives) {
        DataType type = best.type;
        Set<String> distinct = new HashSet<>(values);
        String smallest = null;
        String largest = null;
        for (String value : distinct) {
            smallest = smallest == null || best.compare(value, smallest) < 0 ? value : smallest;
            largest = largest == null || best.compare(value, largest) > 0 ? value : largest;
        }
        boolean temporal = type instanceof DataType.Date || type instanceof DataType.Timestamp;
        boolean undecided = temporal && alternatives.stream().anyMatch(t -> t.getClass() == type.getClass());
        Sureness sureness = values.isEmpty() || undecided || nearly != null
                ? Sureness.UNSURE
                : values.size() >= 5 ? Sureness.SURE : Sureness.LIKELY;
        boolean text = type instanceof DataType.CharacterVarying;
        boolean few = text && distinct.size() <= 12 && values.size() >= distinct.size() * 4;
        return new TypeGuess(
                type,
                sureness,
                alternatives,
                all.size(),
                all.size() - values.size(),
                distinct.size(),
                smallest,
                largest,
                nearly == null
                        ? List.of()
                        : distinct.stream()
                                .filter(v -> !nearly.fits(v))
                                .sorted()
                                .limit(5)
                                .toList(),
                values.size() >= 3 && distinct.size() == values.size() && values.size() == all.size(),
                few ? distinct.stream().sorted().toList() : List.of(),
                nearly == null ? null : "nearly all values are " + words(nearly.type));
    }

    /** A type that values are tried on. */
    private static final class Candidate {
        final DataType type;
        private final ValueParser parser;
        private final Value value = new Value();

        Candidate(DataType type) {
            this.type = type;
            this.parser = ValueParser.of(type, FileCharset.UTF_8);
        }

        boolean fits(String text) {
            return type instanceof DataType.CharacterVarying || parsed(text).kind() != Value.Kind.NULL;
        }

        /** How many of some values do not fit; -1 where they are too many. */
        int misfits(List<String> values) {
            int most = (int) (values.size() * (1 - ENOUGH));
            int misfits = 0;
            for (String v : values) {
                if (!fits(v) && ++misfits > most) {
                    return -1;
                }
            }
            return misfits;
        }

        /** Whether it is another pattern of the same kind of time, which makes the same of all values. */
        boolean readsLike(Candidate other, List<String> values) {
            return pattern(type) != null
                    && type.getClass() == other.type.getClass()
                    && values.stream().allMatch(v -> order(v).compareTo(other.order(v)) == 0);
        }

        int compare(String a, String b) {
            int order = order(a).compareTo(order(b));
            return order != 0 ? order : a.compareTo(b);
        }

        /** A text as a value, until the next one is asked for; NULL where it does not fit. */
        Value parsed(String text) {
            byte[] bytes = text.getBytes(StandardCharsets.UTF_8);
            if (parser.parse(bytes, 0, bytes.length, value) != null) {
                value.setNull();
            }
            return value;
        }

        /** Where a value stands among others of the type; texts stand as they are sorted already. */
        BigDecimal order(String text) {
            return type instanceof DataType.CharacterVarying || type instanceof DataType.Bool
                    ? BigDecimal.ZERO
                    : parsed(text).ordered();
        }
    }

    /** The types that come into question, the most telling first. */
    private static List<Candidate> candidates(List<String> values, List<String> first, int fixed) {
        List<DataType> all = new ArrayList<>();
        STAMPS.forEach(p -> all.add(new DataType.Timestamp(p)));
        DATES.forEach(p -> all.add(new DataType.Date(p, p.contains("yyyy") ? null : 49)));
        TIMES.forEach(p -> all.add(new DataType.Time(p)));
        // Whole numbers with leading zeros, such as 04711, are often no numbers but codes; in fixed fields they are
        // padded.
        boolean zeros = fixed == 0 && values.stream().anyMatch(v -> v.length() > 1 && v.startsWith("0") && digits(v));
        // A plus in front of numbers that never have a minus is part of a code, such as that of a telephone.
        boolean plus = values.stream().anyMatch(v -> v.startsWith("+"))
                && values.stream().noneMatch(v -> v.startsWith("-"));
        if (!zeros && !(plus && fixed == 0)) {
            all.add(new DataType.IntegerNumber());
            addDecimals(values, all);
        }
        if (fixed > 0) {
            all.add(new DataType.IntegerNumber(new NumberForm(null, NumberForm.Sign.TRAILING, false)));
            all.add(new DataType.IntegerNumber(new NumberForm(null, NumberForm.Sign.OVERPUNCHED, false)));
        }
        for (List<String> pair : TOKENS) {
            all.add(new DataType.Bool(List.of(pair.get(0)), List.of(pair.get(1))));
        }
        return all.stream()
                .map(Candidate::new)
                .filter(c -> !implausible(c, first, fixed))
                .toList();
    }

    private static void addDecimals(List<String> values, List<DataType> all) {
        for (char sign : new char[] {',', '.'}) {
            int scale = 0;
            int before = 1;
            for (String v : values) {
                int at = v.lastIndexOf(sign);
                if (at >= 0) {
                    scale = Math.max(scale, v.length() - at - 1);
                }
                before = Math.max(before, at < 0 ? v.length() : at);
            }
            if (scale > 0 && before + scale <= DataType.Decimal.MOST_DIGITS) {
                int precision = Math.min(DataType.Decimal.MOST_DIGITS, before + scale + 2);
                char grouping = sign == ',' ? '.' : ',';
                all.add(new DataType.Decimal(precision, scale, sign, null));
                all.add(new DataType.Decimal(precision, scale, sign, grouping));
            }
        }
    }

    /** Dates of two-digit years, times and overpunched signs fit too many numbers; they need more to speak for them. */
    private static boolean implausible(Candidate candidate, List<String> values, int fixed) {
        DataType type = candidate.type;
        if (type instanceof DataType.Date d && d.pattern().matches("[A-Za-z]+")) {
            int earliest = d.pivot() != null ? EARLIEST_SHORT_YEAR : EARLIEST_YEAR;
            return values.stream()
                            .filter(candidate::fits)
                            .map(v -> candidate.parsed(v).text(StandardCharsets.UTF_8))
                            .mapToInt(v -> Integer.parseInt(v.substring(0, 4)))
                            .anyMatch(y -> y < earliest || y > LATEST_YEAR)
                    || d.pivot() != null && values.stream().distinct().count() < 3;
        }
        if (type instanceof DataType.Time t && !t.pattern().contains(":")) {
            return fixed == 0 && values.stream().noneMatch(v -> v.startsWith("0"))
                    || values.stream().distinct().count() < 3
                    || values.stream().noneMatch(v -> v.length() == 4 && v.compareTo("0100") > 0)
                            && t.pattern().equals("HHmm");
        }
        if (type instanceof DataType.IntegerNumber n && n.form() != null) {
            return values.stream().allMatch(v -> digits(v.replaceFirst("^[+-]", "")));
        }
        return false;
    }

    private static boolean digits(String v) {
        return !v.isEmpty() && v.chars().allMatch(c -> c >= '0' && c <= '9');
    }

    private static int textLength(List<String> all, int fixed) {
        int longest = all.stream().mapToInt(String::length).max().orElse(0);
        if (fixed > 0) {
            return Math.min(DataType.CharacterVarying.MOST, fixed);
        }
        for (int length : new int[] {10, 20, 40, 80, 120, 255, 1000, 4000}) {
            if (longest <= length * 3 / 4) {
                return length;
            }
        }
        return Math.min(DataType.CharacterVarying.MOST, Math.max(1, longest * 2));
    }

    public static String words(DataType type) {
        String pattern = pattern(type);
        String form = type instanceof DataType.IntegerNumber n && n.form() != null
                ? " sign " + n.form().sign()
                : "";
        String comma = type instanceof DataType.Decimal d && d.decimalSign() == ',' ? " with comma" : "";
        return type.label() + form + comma + (pattern == null ? "" : " " + pattern);
    }

    /** How dates and times of a type are written, or null. */
    public static String pattern(DataType type) {
        if (type instanceof DataType.Date d) {
            return d.pattern();
        }
        if (type instanceof DataType.Time t) {
            return t.pattern();
        }
        return type instanceof DataType.Timestamp s ? s.pattern() : null;
    }
}
