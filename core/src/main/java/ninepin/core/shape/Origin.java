package ninepin.core.shape;

import ninepin.core.layout.DefinitionException;

/** Where the value of a target field comes from. */
public sealed interface Origin {

    /** The origin in words. */
    String sentence();

    /** The value of a field of the record. */
    record OfField(String field) implements Origin {
        public OfField {
            require("take.field", field);
        }

        @Override
        public String sentence() {
            return "the field " + field;
        }
    }

    /** The same text for every row; the target's type decides how it is read. */
    record Constant(String value) implements Origin {
        public Constant {
            if (value == null) {
                throw new DefinitionException("take.constant", "must not be empty; leave the rule out for NULL");
            }
        }

        @Override
        public String sentence() {
            return "always \"" + value + "\"";
        }
    }

    /** What a formula gives; kept as it was written. */
    record OfFormula(String formula) implements Origin {
        public OfFormula {
            require("take.formula", formula);
        }

        @Override
        public String sentence() {
            return "what " + formula.strip().replaceAll("\\s+", " ") + " gives";
        }
    }

    /** A fact of the run. */
    record OfRun(RunFact fact) implements Origin {
        public OfRun {
            if (fact == null) {
                throw new DefinitionException("take.fact", "says which fact of the run");
            }
        }

        @Override
        public String sentence() {
            return fact.words();
        }
    }

    /** A value that the person or the schedule supplies when the run starts. */
    record Asked(String name) implements Origin {
        public Asked {
            require("take.asked", name);
        }

        @Override
        public String sentence() {
            return "what is asked at start as " + name;
        }
    }

    private static void require(String part, String text) {
        if (text == null || text.isBlank()) {
            throw new DefinitionException(part, "must not be empty");
        }
    }
}
