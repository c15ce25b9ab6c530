package ninepin.core.check;

import ninepin.core.layout.Severity;
import ninepin.core.value.PlacedParser;
import ninepin.core.value.Value;
import ninepin.core.value.ValueParser;

/** What it takes to type and check one field; all in one object, because each record asks for it. */
final class CheckedField {

    final String name;
    /** The column in which it stands, or a negative number where the file has none. */
    final int slice;

    final ValueParser parser;
    /** What parses the usual case where the layout gives the field a place, or null. */
    final PlacedParser placed;
    /** Whether it is read from the bytes as they are, whatever the charset. */
    final boolean raw;
    /** Whether its sign stands in a digit. */
    final boolean punched;

    final boolean text;
    /** What it weighs when the value is not of its type. */
    final Severity typeSeverity;
    /** What it weighs when it is missing; null where it may be. */
    final Severity required;
    /** What it weighs when it is not there at all; null where that is as good as NULL. */
    final Severity present;

    final FieldCheck[] checks;
    /** The value it has in the latest record. */
    final Value value = new Value();

    CheckedField(
            String name,
            int slice,
            ValueParser parser,
            PlacedParser placed,
            boolean raw,
            boolean punched,
            boolean text,
            Severity typeSeverity,
            Severity required,
            Severity present,
            FieldCheck[] checks) {
        this.name = name;
        this.slice = slice;
        this.parser = parser;
        this.placed = placed;
        this.raw = raw;
        this.punched = punched;
        this.text = text;
        this.typeSeverity = typeSeverity;
        this.required = required;
        this.present = present;
        this.checks = checks;
    }

    /** Whether its value passes all checks. */
    boolean passes() {
        if (value.isNull()) {
            return required == null;
        }
        for (FieldCheck check : checks) {
            if (!check.holds(value)) {
                return false;
            }
        }
        return true;
    }
}
