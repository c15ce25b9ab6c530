package ninepin.core.check;

import java.util.Arrays;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import ninepin.core.layout.Severity;
import ninepin.core.record.Locator;

/**
 * What there is to say about one place in a file.
 *
 * @param severity how much it weighs
 * @param code the stable code of the message, such as {@code NUM-01}
 * @param at where it stands
 * @param record the number of the record, from 1; 0 when it concerns no record
 * @param field the field's name, or null
 * @param target the target column, where a target refused the row; or null
 * @param offset the byte of the file where the place starts
 * @param length the bytes it takes
 * @param found what was found, fit to be shown
 * @param expected what was expected
 * @param advice what to do, or null
 */
public record Finding(
        Severity severity,
        String code,
        Locator at,
        long record,
        String field,
        String target,
        long offset,
        int length,
        String found,
        String expected,
        String advice) {

    private static final Map<Severity, Finding> WEIGHTS = Arrays.stream(Severity.values())
            .collect(Collectors.toMap(
                    s -> s, s -> new Finding(s, "", Locator.FILE, 0, null, null, 0, 0, "", null, null)));

    /** The codes of reasons that only the rest of the file gives: a key that stands twice, a document that comes again. */
    private static final Set<String> OF_FILE = Set.of("UNQ-01", "DOC-03", "SEQ-01", "STR-02");

    /** Whether a reason is given by the rest of the file, so that the record may fit in a file of its own. */
    public static boolean hangsOnFile(String code) {
        return OF_FILE.contains(code);
    }

    /** One that says no more than how much it weighs. */
    static Finding weight(Severity severity) {
        return WEIGHTS.get(severity);
    }

    /** The line where it starts, from 1; 0 when it concerns the file. */
    public long line() {
        return at.line();
    }

    /** Where, what was found, what was expected, what to do, code: the message people read. */
    public String message() {
        StringBuilder out = new StringBuilder(where()).append(": found ").append(found);
        if (expected != null) {
            out.append(", expected ").append(expected);
        }
        if (out.charAt(out.length() - 1) != '.') {
            out.append('.');
        }
        if (advice != null) {
            out.append(' ').append(advice);
        }
        return out.append(" [").append(code).append(']').toString();
    }

    /** The place in words, such as {@code line 14 · Volume (columns 23–28)}. */
    public String where() {
        return at.words(field, target);
    }

    /** The reason apart from the place: findings of one reason differ only in where and what was found. */
    public String reason() {
        String subject = field != null ? field + ": " : target != null ? target + ": " : "";
        return subject + (expected == null ? found : "expected " + expected);
    }
}
