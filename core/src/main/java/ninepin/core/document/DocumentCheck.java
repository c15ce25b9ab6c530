package ninepin.core.document;

import java.util.Locale;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.Severity;

/** What has to hold across the records of a document. */
public sealed interface DocumentCheck {

    /** How much a breach weighs; a halt makes no sense for one document and is a reject. */
    Severity severity();

    /** What has to hold, in words, to stand after "expected that". */
    String sentence();

    /** The condition as a formula seen from the head of the document. */
    String condition();

    /** What is shown of a document that breaks it, as a formula; null where the condition says it. */
    String shown();

    /** A field of the lines adds up to zero. */
    record SumIsZero(String field, Severity severity) implements DocumentCheck {
        public SumIsZero {
            require("documentChecks.field", field);
            severity = notHalt(severity);
        }

        @Override
        public String sentence() {
            return "the " + field + " of all lines add up to 0";
        }

        @Override
        public String condition() {
            return "COALESCE(" + shown() + ", 0) = 0";
        }

        @Override
        public String shown() {
            return "SUM(" + quoted(field) + ")";
        }
    }

    /** A field of the lines adds up to what the head says. */
    record SumEquals(String field, String total, Severity severity) implements DocumentCheck {
        public SumEquals {
            require("documentChecks.field", field);
            require("documentChecks.total", total);
            severity = notHalt(severity);
        }

        @Override
        public String sentence() {
            return "the " + field + " of all lines add up to " + total;
        }

        @Override
        public String condition() {
            return "COALESCE(" + shown() + ", 0) = " + quoted(total);
        }

        @Override
        public String shown() {
            return "SUM(" + quoted(field) + ")";
        }
    }

    /**
     * How many lines there are.
     *
     * @param of the record type of the lines
     * @param min the fewest, or null
     * @param max the most, or null
     */
    record Count(String of, Integer min, Integer max, Severity severity) implements DocumentCheck {
        public Count {
            require("documentChecks.of", of);
            severity = notHalt(severity);
            if (min == null && max == null || min != null && max != null && min > max) {
                throw new DefinitionException("documentChecks.min", "says how many lines there are to be");
            }
        }

        @Override
        public String sentence() {
            String many = min == null
                    ? "at most " + max
                    : max == null ? "at least " + min : min.equals(max) ? "" + min : "from " + min + " to " + max;
            return "there are " + many + " " + of + " records";
        }

        @Override
        public String condition() {
            return (min == null ? "" : shown() + " >= " + min)
                    + (min != null && max != null ? " AND " : "")
                    + (max == null ? "" : shown() + " <= " + max);
        }

        @Override
        public String shown() {
            return "COUNT(" + quoted(of) + ".*)";
        }
    }

    /** A field is the same in all lines. */
    record Same(String field, Severity severity) implements DocumentCheck {
        public Same {
            require("documentChecks.field", field);
            severity = notHalt(severity);
        }

        @Override
        public String sentence() {
            return field + " is the same in all lines";
        }

        @Override
        public String condition() {
            return shown() + " <= 1";
        }

        @Override
        public String shown() {
            return "COUNT(DISTINCT " + quoted(field) + ")";
        }
    }

    /**
     * A condition of one's own.
     *
     * @param holds a formula seen from the head of the document; a breach is where it is false
     * @param says what has to hold, in words; null for the formula itself
     */
    record Holds(String holds, String says, Severity severity) implements DocumentCheck {
        public Holds {
            require("documentChecks.holds", holds);
            severity = notHalt(severity);
            says = says == null || says.isBlank() ? null : says.strip();
        }

        @Override
        public String sentence() {
            return says != null ? says : holds.strip().replaceAll("\\s+", " ");
        }

        @Override
        public String condition() {
            return holds;
        }

        @Override
        public String shown() {
            return null;
        }
    }

    private static Severity notHalt(Severity severity) {
        return severity == Severity.NOTE ? Severity.NOTE : Severity.REJECT;
    }

    /** A field as a formula names it, with its record type before the point. */
    private static String quoted(String field) {
        StringBuilder out = new StringBuilder();
        for (String part : field.split("\\.", 2)) {
            out.append(out.isEmpty() ? "" : ".")
                    .append('"')
                    .append(part.replace("\"", "\"\""))
                    .append('"');
        }
        return out.toString();
    }

    private static void require(String part, String text) {
        if (text == null || text.isBlank()) {
            throw new DefinitionException(part.toLowerCase(Locale.ROOT), "must not be empty");
        }
    }
}
