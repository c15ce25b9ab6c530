package ninepin.core.check;

import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Objects;
import ninepin.core.layout.Check;
import ninepin.core.layout.DataType;
import ninepin.core.layout.Field;
import ninepin.core.layout.FileCharset;
import ninepin.core.layout.Severity;
import ninepin.core.value.Value;
import ninepin.core.value.ValueParser;

/** The checks that a layout makes of a field, asked of a value before it is written. What only is a note is let pass. */
public final class OutgoingCheck {

    private final boolean required;
    private final List<FieldCheck> checks;
    private final ValueParser parser;
    private final Value value = new Value();

    public OutgoingCheck(Field field) {
        this.required = field.checks().stream().anyMatch(c -> c instanceof Check.Required r && weighs(r.severity()));
        DataType plain = plain(field.type());
        this.checks = field.checks().stream()
                .filter(c -> weighs(c.severity()))
                .map(c -> FieldCheck.of(c, field.type(), StandardCharsets.UTF_8))
                .filter(Objects::nonNull)
                .toList();
        this.parser = checks.isEmpty() ? null : ValueParser.of(plain, FileCharset.UTF_8);
    }

    private static boolean weighs(Severity severity) {
        return severity != Severity.NOTE;
    }

    /** The type whose files write values as {@link Value#text} does. */
    private static DataType plain(DataType type) {
        if (type instanceof DataType.Decimal d) {
            return new DataType.Decimal(d.precision(), d.scale(), '.', null);
        }
        if (type instanceof DataType.IntegerNumber) {
            return new DataType.IntegerNumber();
        }
        if (type instanceof DataType.Bool) {
            return new DataType.Bool(List.of("true"), List.of("false"));
        }
        if (type instanceof DataType.Date) {
            return new DataType.Date("yyyy-MM-dd");
        }
        return type;
    }

    /**
     * What a value breaches.
     *
     * @param text the value as {@link Value#text} gives it; null for NULL
     * @return what was expected, or null where it breaches nothing
     */
    public String problem(String text) {
        if (text == null || text.isBlank()) {
            return required ? "a value" : null;
        }
        if (parser == null) {
            return null;
        }
        byte[] bytes = text.getBytes(StandardCharsets.UTF_8);
        if (parser.parse(bytes, 0, bytes.length, value) != null) {
            // Whether it is of its type is seen where it is written.
            return null;
        }
        for (FieldCheck check : checks) {
            if (!check.holds(value)) {
                return check.expected;
            }
        }
        return null;
    }
}
