package ninepin.core.formula;

import java.math.BigDecimal;
import java.math.RoundingMode;
import ninepin.core.formula.SqlType.Kind;
import ninepin.core.layout.Shown;

/** CAST: a value made one of another type, or refused; nothing is cut off but digits that are rounded. */
final class Casts {

    private Casts() {}

    /**
     * Makes a cast.
     *
     * @param operand what is cast
     * @param to the type wanted; CHARACTER with a precision of 0 for any length
     * @param template how a date or time is written, or null for ISO 8601
     * @param thisYear the year of the run, for years of two digits
     */
    static Expr of(Expr operand, SqlType to, Template template, int thisYear) {
        Kind from = operand.type.kind();
        Strict.Body body =
                switch (to.kind()) {
                    case CHARACTER -> (self, in, out) -> toText(self, operand.type, in[0], to, template, out);
                    case NUMERIC ->
                        from == Kind.NUMERIC
                                ? (self, in, out) -> toNumber(self, in[0].decimal(), in[0].decimal(), out)
                                : from == Kind.CHARACTER
                                        ? (self, in, out) -> textToNumber(self, in[0].text, out)
                                        : null;
                    case BOOLEAN ->
                        from == Kind.BOOLEAN
                                ? (self, in, out) -> out.setTo(in[0])
                                : from == Kind.CHARACTER ? Casts::textToTruth : null;
                    case DATE, TIME, TIMESTAMP -> temporal(from, to, template, thisYear);
                    default -> null;
                };
        if (from == Kind.NOTHING) {
            return new Strict(to, (self, in, out) -> out.setNull(), operand);
        }
        return body == null
                ? null
                : new Strict(to.precision() == 0 && to.is(Kind.CHARACTER) ? anyLength(operand) : to, body, operand);
    }

    private static SqlType anyLength(Expr operand) {
        return operand.is(Kind.CHARACTER) ? operand.type : SqlType.text(60);
    }

    private static void toText(Expr self, SqlType from, Datum d, SqlType to, Template template, Datum out) {
        String text = template == null
                ? d.written(from)
                : template.write(from.is(Kind.TIME) ? 0 : d.number, from.is(Kind.TIME) ? d.number : d.nanos(from));
        int length = Texts.length(text);
        if (to.precision() > 0 && length > to.precision()) {
            throw new EvaluationException(
                    "FML-05",
                    self,
                    Shown.quoted(text) + " of " + length + " characters cast to " + to.label()
                            + "; SUBSTRING cuts a text");
        }
        out.set(text);
    }

    private static void toNumber(Expr self, BigDecimal number, Object shown, Datum out) {
        BigDecimal rounded = number.setScale(self.type.scale(), RoundingMode.HALF_UP);
        if (rounded.precision() - rounded.scale() > self.type.precision() - self.type.scale()
                && rounded.signum() != 0) {
            throw new EvaluationException("FML-05", self, shown + " cast to " + self.type.label());
        }
        out.set(rounded);
    }

    private static void textToNumber(Expr self, String text, Datum out) {
        String t = text.strip();
        if (!t.matches("[+-]?([0-9]+(\\.[0-9]*)?|\\.[0-9]+)") || t.length() > 200) {
            throw refused(self, text);
        }
        toNumber(self, new BigDecimal(t.endsWith(".") ? t.substring(0, t.length() - 1) : t), Shown.quoted(text), out);
    }

    private static void textToTruth(Expr self, Datum[] in, Datum out) {
        String t = in[0].text.strip();
        if (t.equalsIgnoreCase("UNKNOWN")) {
            out.setNull();
        } else if (t.equalsIgnoreCase("TRUE") || t.equalsIgnoreCase("FALSE")) {
            out.set(t.equalsIgnoreCase("TRUE"));
        } else {
            throw refused(self, in[0].text);
        }
    }

    private static Strict.Body temporal(Kind from, SqlType to, Template template, int thisYear) {
        Kind kind = to.kind();
        if (from == Kind.CHARACTER) {
            return template == null
                    ? (self, in, out) -> textToTime(self, in[0].text, out)
                    : (self, in, out) -> {
                        if (!template.read(in[0].text.strip(), thisYear, out)) {
                            throw refused(self, in[0].text);
                        }
                        settle(kind, to.scale(), out);
                    };
        }
        boolean date = from == Kind.DATE || from == Kind.TIMESTAMP;
        boolean time = from == Kind.TIME || from == Kind.TIMESTAMP;
        boolean possible = kind == Kind.DATE ? date : kind == Kind.TIME ? time : date;
        return !possible
                ? null
                : (self, in, out) -> {
                    out.setTimestamp(
                            from == Kind.TIME ? 0 : in[0].number,
                            from == Kind.TIME ? in[0].number : from == Kind.DATE ? 0 : in[0].nanos);
                    settle(kind, to.scale(), out);
                };
    }

    /** Makes a moment of days and nanoseconds one of the kind; digits of the second beyond its own are cut. */
    private static void settle(Kind kind, int fraction, Datum out) {
        long unit = Numbers.TENS[9 - fraction];
        long nanos = out.nanos - out.nanos % unit;
        if (kind == Kind.TIME) {
            out.set(nanos);
        } else {
            out.setTimestamp(out.number, kind == Kind.DATE ? 0 : nanos);
        }
    }

    private static void textToTime(Expr self, String text, Datum out) {
        String t = text.strip();
        Kind kind = self.type.kind();
        int gap = Math.max(t.indexOf(' '), t.indexOf('T'));
        Long day = kind == Kind.TIME ? Long.valueOf(0) : Times.day(gap < 0 ? t : t.substring(0, gap));
        Long nanos = kind == Kind.DATE || gap < 0 && kind == Kind.TIMESTAMP
                ? (kind == Kind.DATE && gap >= 0 ? null : Long.valueOf(0))
                : Times.nanos(t.substring(gap + 1));
        if (day == null || nanos == null || kind == Kind.TIME && gap >= 0) {
            throw refused(self, text);
        }
        out.setTimestamp(day, nanos);
        settle(kind, self.type.scale(), out);
    }

    private static EvaluationException refused(Expr self, String text) {
        return new EvaluationException("FML-05", self, Shown.quoted(text) + " cast to " + self.type.label());
    }
}
