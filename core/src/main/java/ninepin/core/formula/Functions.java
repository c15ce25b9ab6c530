package ninepin.core.formula;

import static ninepin.core.formula.SqlType.Kind.CHARACTER;
import static ninepin.core.formula.SqlType.Kind.NUMERIC;

import java.math.RoundingMode;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import ninepin.core.formula.SqlType.Kind;

/** The functions whose arguments stand between commas. Those with words of their own are read by {@link WordyFunctions}. */
final class Functions {

    /** Makes the expression of a call whose arguments are of the kinds asked for. */
    @FunctionalInterface
    interface Maker {
        Expr make(List<Expr> args);
    }

    /**
     * A function.
     *
     * @param kinds the kinds of its arguments
     * @param optional how many of the last arguments may be left out
     */
    record Function(String name, List<Kind> kinds, int optional, Maker maker) {

        String arguments() {
            int least = kinds.size() - optional;
            String most = kinds.size() == 1 ? "1 argument" : kinds.size() + " arguments";
            return optional == 0 ? most : least + " or " + most;
        }
    }

    private static final Map<String, Function> ALL = new LinkedHashMap<>();

    static {
        add("UPPER", 0, a -> ofText(a, (s, in, out) -> out.set(in[0].text.toUpperCase(Locale.ROOT))), CHARACTER);
        add("LOWER", 0, a -> ofText(a, (s, in, out) -> out.set(in[0].text.toLowerCase(Locale.ROOT))), CHARACTER);
        add("CHAR_LENGTH", 0, a -> count(a, (s, in, out) -> out.set(Texts.length(in[0].text))), CHARACTER);
        add("OCTET_LENGTH", 0, a -> count(a, (s, in, out) -> out.set(Texts.octets(in[0].text))), CHARACTER);
        add("LPAD", 1, a -> pad(a, true), CHARACTER, NUMERIC, CHARACTER);
        add("RPAD", 1, a -> pad(a, false), CHARACTER, NUMERIC, CHARACTER);
        add("REPLACE", 0, Functions::replace, CHARACTER, CHARACTER, CHARACTER);
        add("ABS", 0, Functions::abs, NUMERIC);
        add("MOD", 0, Functions::mod, NUMERIC, NUMERIC);
        add("ROUND", 1, a -> round(a, RoundingMode.HALF_UP), NUMERIC, NUMERIC);
        add("FLOOR", 0, a -> whole(a, RoundingMode.FLOOR), NUMERIC);
        add("CEILING", 0, a -> whole(a, RoundingMode.CEILING), NUMERIC);
        add("POWER", 0, Functions::power, NUMERIC, NUMERIC);
        alias("CHARACTER_LENGTH", "CHAR_LENGTH");
        alias("CEIL", "CEILING");
    }

    private Functions() {}

    private static void add(String name, int optional, Maker maker, Kind... kinds) {
        ALL.put(name, new Function(name, List.of(kinds), optional, maker));
    }

    /** A second name that the standard has for a function. */
    private static void alias(String name, String of) {
        Function function = ALL.get(of);
        ALL.put(name, new Function(name, function.kinds(), function.optional(), function.maker()));
    }

    /** A function by its name in upper case, or null. */
    static Function of(String name) {
        return ALL.get(name);
    }

    static List<String> names() {
        List<String> names = new ArrayList<>(ALL.keySet());
        names.addAll(WordyFunctions.NAMES);
        return names;
    }

    private static Expr[] array(List<Expr> args) {
        return args.toArray(Expr[]::new);
    }

    private static Expr ofText(List<Expr> args, Strict.Body body) {
        // Some letters become two in upper case.
        return new Strict(SqlType.text(args.get(0).type.precision() * 3L), body, array(args));
    }

    private static Expr count(List<Expr> args, Strict.Body body) {
        return new Strict(SqlType.COUNT, body, array(args));
    }

    private static Expr pad(List<Expr> args, boolean left) {
        boolean filled = args.size() == 3;
        long most = args.get(1) instanceof Constant c && !c.value.isNull() ? Math.max(1, c.value.number) : 1_000_000;
        return new Strict(
                SqlType.text(most),
                (self, in, out) -> Texts.pad(self, in[0], in[1], filled ? in[2].text : " ", left, out),
                array(args));
    }

    private static Expr replace(List<Expr> args) {
        long most = (long) args.get(0).type.precision()
                * Math.max(1, args.get(2).type.precision());
        return new Strict(
                SqlType.text(most), (self, in, out) -> Texts.replace(self, in[0], in[1], in[2], out), array(args));
    }

    private static Expr abs(List<Expr> args) {
        return new Strict(
                args.get(0).type,
                (self, in, out) -> {
                    if (in[0].big == null ? in[0].number >= 0 : in[0].big.signum() >= 0) {
                        out.setTo(in[0]);
                    } else {
                        Numbers.negate(self, in[0], out);
                    }
                },
                array(args));
    }

    private static Expr mod(List<Expr> args) {
        SqlType both = args.get(0).type.union(args.get(1).type);
        return new Strict(both, (self, in, out) -> Numbers.modulo(self, in[0], in[1], out), array(args));
    }

    /** ROUND keeps as many digits as are said, where that can be seen beforehand, else those of its argument. */
    private static Expr round(List<Expr> args, RoundingMode mode) {
        SqlType of = args.get(0).type;
        int scale = args.size() == 1
                ? 0
                : args.get(1) instanceof Constant c && !c.value.isNull()
                        ? (int) Math.max(0, Math.min(of.scale(), c.value.number))
                        : of.scale();
        SqlType type = SqlType.numeric(of.precision() - of.scale() + 1 + scale, scale);
        return new Strict(
                type,
                (self, in, out) -> Numbers.round(self, in[0], in.length == 1 ? 0 : Texts.whole(self, in[1]), mode, out),
                array(args));
    }

    private static Expr whole(List<Expr> args, RoundingMode mode) {
        SqlType of = args.get(0).type;
        return new Strict(
                SqlType.numeric(of.precision() - of.scale() + 1, 0),
                (self, in, out) -> Numbers.round(self, in[0], 0, mode, out),
                array(args));
    }

    /** POWER of whole exponents, exactly; the scale is that of the base times the exponent where that is written. */
    private static Expr power(List<Expr> args) {
        SqlType of = args.get(0).type;
        long exponent = args.get(1) instanceof Constant c && !c.value.isNull() ? Math.max(0, c.value.number) : 10;
        int scale = of.scale() == 0 ? 0 : (int) Math.min(SqlType.MOST_DIGITS / 2, of.scale() * exponent);
        return new Strict(
                SqlType.numeric(SqlType.MOST_DIGITS, scale),
                (self, in, out) -> Numbers.power(self, in[0], in[1], out),
                array(args));
    }
}
