package ninepin.core.shape;

import java.util.List;
import java.util.Locale;
import ninepin.core.formula.Formula;
import ninepin.core.layout.DefinitionException;

/** Where the value of a target field comes from. */
public sealed interface Origin {

    /** The origin in words. */
    String sentence();

    /** The fields that it names; of a formula only the formula itself knows. */
    default List<String> fields() {
        return List.of();
    }

    /** The code lists that it names. */
    default List<String> codeLists() {
        return List.of();
    }

    /** The value of a field of the record. */
    record OfField(String field) implements Origin {
        public OfField {
            require("take.field", field);
        }

        @Override
        public String sentence() {
            return "the field " + field;
        }

        @Override
        public List<String> fields() {
            return List.of(field);
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

        @Override
        public List<String> codeLists() {
            return Formula.codeLists(formula);
        }
    }

    /**
     * What a code list says of a field's value.
     *
     * @param column the column of the list; null for the first one behind the values
     * @param on the field with the day that counts; null for the day of the run
     */
    record OfCode(String field, String list, String column, String on) implements Origin {
        public OfCode {
            require("take.field", field);
            require("take.list", list);
            column = column == null || column.isBlank() ? null : column;
            on = on == null || on.isBlank() ? null : on;
        }

        @Override
        public String sentence() {
            return (column == null ? "what" : "the " + column + " that") + " the code list " + list + " gives for "
                    + field + (on == null ? "" : " on the day of " + on);
        }

        @Override
        public List<String> fields() {
            return on == null ? List.of(field) : List.of(field, on);
        }

        @Override
        public List<String> codeLists() {
            return List.of(list);
        }
    }

    /** Fields one behind the other, those that are blank left out; NULL where all are. */
    record Joined(List<String> fields, String with) implements Origin {
        public Joined {
            fields = fields == null ? List.of() : List.copyOf(fields);
            if (fields.size() < 2) {
                throw new DefinitionException("take.fields", "at least two fields are joined");
            }
            with = with == null ? "" : with;
        }

        @Override
        public String sentence() {
            String all =
                    String.join(", ", fields.subList(0, fields.size() - 1)) + " and " + fields.get(fields.size() - 1);
            return all + " joined" + (with.isEmpty() ? "" : " with \"" + with + "\"");
        }
    }

    /** One part of a field that is split; NULL where it has fewer parts. */
    record Part(String field, String at, int number) implements Origin {
        public Part {
            require("take.field", field);
            if (at == null || at.isEmpty()) {
                throw new DefinitionException("take.at", "says at what the field is split");
            }
            if (number == 0) {
                throw new DefinitionException("take.number", "parts are counted from 1, or from -1 at the end");
            }
        }

        @Override
        public String sentence() {
            String which = number == -1
                    ? "the last part"
                    : number < 0 ? "part " + -number + " from the end" : "part " + number;
            return which + " of " + field + " split at \"" + at + "\"";
        }

        @Override
        public List<String> fields() {
            return List.of(field);
        }
    }

    /** Which half of a signed amount. */
    enum Side {
        /** The amount where it is not negative, else NULL. */
        POSITIVE,
        /** The amount without its sign where it is negative, else NULL. */
        NEGATIVE;

        @Override
        public String toString() {
            return name().toLowerCase(Locale.ROOT);
        }
    }

    /** One side of a signed amount that is split over two target fields. */
    record Amount(String field, Side side) implements Origin {
        public Amount {
            require("take.field", field);
            side = side == null ? Side.POSITIVE : side;
        }

        @Override
        public String sentence() {
            return side == Side.POSITIVE
                    ? field + " where it is not negative"
                    : field + " without its sign where it is negative";
        }

        @Override
        public List<String> fields() {
            return List.of(field);
        }
    }

    /** A number drawn from a sequence; none is given twice. */
    record Drawn(String sequence, long start) implements Origin {
        public Drawn {
            if (sequence == null || !sequence.matches("[A-Za-z][A-Za-z0-9_-]{0,62}")) {
                throw new DefinitionException(
                        "take.sequence", "a sequence has a name of letters, digits, hyphens and underscores");
            }
            start = start == 0 ? 1 : start;
        }

        @Override
        public String sentence() {
            return "the next number of the sequence " + sequence;
        }
    }

    /**
     * The number that the database gives to a row of another table of the delivery, made of the same record or of the one
     * that it belongs to.
     *
     * @param table the table as its delivery names it
     */
    record OfKey(String table) implements Origin {
        public OfKey {
            require("take.table", table);
        }

        @Override
        public String sentence() {
            return "the key that the database gives its row in " + table;
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

    /** Nothing: the target's own default stands. */
    record TargetDefault() implements Origin {
        @Override
        public String sentence() {
            return "left to the target's default";
        }
    }

    private static void require(String part, String text) {
        if (text == null || text.isBlank()) {
            throw new DefinitionException(part, "must not be empty");
        }
    }
}
