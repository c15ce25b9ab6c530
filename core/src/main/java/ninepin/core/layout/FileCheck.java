package ninepin.core.layout;

/**
 * A rule that the file as a whole has to satisfy. With {@link Severity#HALT} the file is read and checked to its end
 * before anything of it is delivered. Fields are named with their record type: {@code trailer.count}.
 */
public sealed interface FileCheck {

    Severity severity();

    /** How the rule reads as a sentence. */
    String sentence();

    /** A field, such as of a trailer, says how many records of a type there are. */
    record Count(String field, String of, Severity severity) implements FileCheck {
        public Count {
            Names.requireText("fileChecks.field", field);
            Names.requireText("fileChecks.of", of);
            severity = noteOrHalt(severity);
        }

        @Override
        public String sentence() {
            return field + " is the number of " + of + " records";
        }
    }

    /** A field says what the values of another one add up to. */
    record Total(String field, String of, Severity severity) implements FileCheck {
        public Total {
            Names.requireText("fileChecks.field", field);
            Names.requireText("fileChecks.of", of);
            severity = noteOrHalt(severity);
        }

        @Override
        public String sentence() {
            return field + " is the total of " + of;
        }
    }

    /** A whole number goes up by one from record to record. */
    record Sequence(String field, Severity severity) implements FileCheck {
        public Sequence {
            Names.requireText("fileChecks.field", field);
            severity = severity == null ? Severity.REJECT : severity;
        }

        @Override
        public String sentence() {
            return field + " goes up by one, without a gap";
        }
    }

    /** The number of records of a type lies between two bounds, either of which may be missing. */
    record Records(String of, Long min, Long max, Severity severity) implements FileCheck {
        public Records {
            Names.requireText("fileChecks.of", of);
            severity = noteOrHalt(severity);
            if (min == null && max == null || min != null && max != null && min > max) {
                throw new DefinitionException("fileChecks.records", "says from how many to how many records");
            }
        }

        @Override
        public String sentence() {
            return "there are "
                    + (max == null ? "at least " + min : min == null ? "at most " + max : min + " to " + max) + " " + of
                    + " records";
        }
    }

    /** Two fields, such as of header and trailer, have the same value. */
    record Same(String field, String as, Severity severity) implements FileCheck {
        public Same {
            Names.requireText("fileChecks.field", field);
            Names.requireText("fileChecks.as", as);
            severity = noteOrHalt(severity);
        }

        @Override
        public String sentence() {
            return field + " is the same as " + as;
        }
    }

    /** A date lies at most so many days before the day of the run. */
    record NotOlder(String field, int days, Severity severity) implements FileCheck {
        public NotOlder {
            Names.requireText("fileChecks.field", field);
            severity = noteOrHalt(severity);
            if (days < 0) {
                throw new DefinitionException("fileChecks.days", "must not be negative");
            }
        }

        @Override
        public String sentence() {
            return field + " is at most " + days + " days before the run";
        }
    }

    /** At the end of a file there is no record to reject. */
    private static Severity noteOrHalt(Severity severity) {
        if (severity == Severity.REJECT) {
            throw new DefinitionException("fileChecks.severity", "a check of the file as a whole notes or halts");
        }
        return severity == null ? Severity.HALT : severity;
    }
}
