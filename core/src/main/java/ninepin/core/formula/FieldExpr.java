package ninepin.core.formula;

import java.math.RoundingMode;
import java.nio.charset.Charset;
import ninepin.core.value.Value;

/** The value of a field of the record, or of a record it belongs to. */
final class FieldExpr extends Expr {

    private final int recordType;
    private final int field;
    private final Charset charset;

    FieldExpr(SqlType type, int recordType, int field, Charset charset) {
        super(type);
        this.recordType = recordType;
        this.field = field;
        this.charset = charset;
    }

    @Override
    Datum eval(RecordContext row) {
        Value from = row.value(recordType, field);
        return switch (from.kind()) {
            case NULL -> value.setNull();
            case TEXT -> value.set(from.text(charset));
            case NUMBER -> number(from);
            case BIG_NUMBER -> value.set(from.big().setScale(type.scale(), RoundingMode.HALF_UP));
            case TIMESTAMP -> value.setTimestamp(from.number(), from.nanos());
            default -> value.set(from.number());
        };
    }

    /** A number of DECIMAL(8,2) has two digits after the point, also where the file writes fewer. */
    private Datum number(Value from) {
        int missing = type.scale() - from.scale();
        if (missing == 0) {
            return value.set(from.number(), from.scale());
        }
        long factor = missing > 0 && missing < Numbers.TENS.length ? Numbers.TENS[missing] : 0;
        long scaled = from.number() * factor;
        return factor != 0 && Math.multiplyHigh(from.number(), factor) == scaled >> 63
                ? value.set(scaled, type.scale())
                : value.set(from.ordered().setScale(type.scale(), RoundingMode.HALF_UP));
    }
}
