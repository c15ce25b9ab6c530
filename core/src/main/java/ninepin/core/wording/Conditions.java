package ninepin.core.wording;

import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import ninepin.core.layout.DataType;

/** Conditions in words: {@code litres is more than 900 and route is not R7}. */
final class Conditions {

    private static final Pattern ONE = Pattern.compile(
            "(?i)(?<field>.+?)\\s+(?:is|are|=)?\\s*(?<how>not blank|not empty|blank|empty|missing|more than|greater than|over|above"
                    + "|less than|below|under|at least|at most|before|after|starting with|starts with|ends with|contains"
                    + "|not|is|are|equals|=)\\s*(?<value>.*)");

    private final Vocabulary words;

    Conditions(Vocabulary words) {
        this.words = words;
    }

    /** The formula that a condition stands for. */
    String formula(String condition) {
        List<String> parts = new ArrayList<>();
        Matcher joints = Pattern.compile("(?i)\\s+(and|or)\\s+").matcher(condition);
        int from = 0;
        while (joints.find()) {
            parts.add(one(condition.substring(from, joints.start())));
            parts.add(joints.group(1).toUpperCase(java.util.Locale.ROOT));
            from = joints.end();
        }
        parts.add(one(condition.substring(from)));
        return String.join(" ", parts);
    }

    private String one(String text) {
        Matcher m = ONE.matcher(text.strip());
        if (!m.matches()) {
            throw new Misunderstood("\"" + text.strip() + "\" is no condition, such as \"litres is more than 900\".");
        }
        String field = words.field(m.group("field"));
        String name = words.inFormula(field);
        String value = m.group("value");
        String how = m.group("how").toLowerCase(java.util.Locale.ROOT);
        switch (how) {
            case "blank", "empty", "missing":
                return words.isText(field) ? "COALESCE(TRIM(" + name + "), '') = ''" : name + " IS NULL";
            case "not blank", "not empty":
                return words.isText(field) ? "TRIM(" + name + ") <> ''" : name + " IS NOT NULL";
            case "starts with", "starting with":
                return name + " LIKE " + text(escaped(value) + "%");
            case "ends with":
                return name + " LIKE " + text("%" + escaped(value));
            case "contains":
                return "POSITION(" + text(Vocabulary.bare(value)) + " IN " + name + ") > 0";
            default:
                return name + " " + sign(how) + " " + literal(field, value);
        }
    }

    private static String sign(String how) {
        return switch (how) {
            case "more than", "greater than", "over", "above", "after" -> ">";
            case "less than", "below", "under", "before" -> "<";
            case "at least" -> ">=";
            case "at most" -> "<=";
            case "not" -> "<>";
            default -> "=";
        };
    }

    private static String escaped(String value) {
        return Vocabulary.bare(value).replace("%", "").replace("_", "");
    }

    private static String text(String value) {
        return "'" + value.replace("'", "''") + "'";
    }

    /** A value as a formula writes it for a field of a type. */
    String literal(String field, String words) {
        String value = Vocabulary.bare(words);
        DataType type = this.words.typeOf(field);
        if (value.isEmpty()) {
            throw new Misunderstood("Say which value " + field + " is to have.");
        }
        if (type instanceof DataType.IntegerNumber || type instanceof DataType.Decimal) {
            String plain = value.replaceAll("(?<=\\d)[,' ](?=\\d{3}\\b)", "");
            if (!plain.matches("-?\\d+(\\.\\d+)?")) {
                throw new Misunderstood(field + " is a number, and \"" + value + "\" is none.");
            }
            return plain;
        }
        if (type instanceof DataType.Date) {
            LocalDate day = Examples.date(value)
                    .orElseThrow(() -> new Misunderstood(field + " is a date, and \"" + value + "\" is none."));
            return "DATE '" + day + "'";
        }
        if (type instanceof DataType.Bool) {
            return value.matches("(?i)true|yes|1") ? "TRUE" : "FALSE";
        }
        return text(value);
    }
}
