package ninepin.core.formula;

import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import ninepin.core.formula.SqlType.Kind;

/** Reads a formula and types it as it goes. Binds, from loose to tight: OR, AND, NOT, tests, + - ||, * /, signs. */
final class Parser {

    private static final List<String> COMPARISONS = List.of("=", "<>", "<", "<=", ">", ">=");

    final Cursor cursor;
    final FormulaScope scope;
    final Operators operators = new Operators();
    private final List<FormulaScope.Place> read = new ArrayList<>();
    private final WordyFunctions wordy = new WordyFunctions(this);

    Parser(String text, FormulaScope scope) {
        this.cursor = new Cursor(Lexer.of(text));
        this.scope = scope;
    }

    /** The whole formula. */
    Expr all() {
        if (cursor.peek().kind() == Token.Kind.END) {
            throw new FormulaException(0, 0, "There is no formula yet, such as UPPER(name).");
        }
        Expr all = expression();
        if (cursor.peek().kind() != Token.Kind.END) {
            throw cursor.unexpected(
                    cursor.peek().kind() == Token.Kind.SIGN
                            ? "where the formula could end"
                            : "expected an operator or the end of the formula");
        }
        return all;
    }

    /** The fields that were named, each once, in order. */
    List<FormulaScope.Place> read() {
        return read.stream().distinct().toList();
    }

    /** The fields that were named from a place on. */
    List<FormulaScope.Place> readSince(int count) {
        return List.copyOf(read.subList(count, read.size()));
    }

    int readCount() {
        return read.size();
    }

    Expr expression() {
        cursor.deeper();
        Expr left = conjunction();
        while (cursor.peek().isWord("OR")) {
            cursor.next();
            left = operators.junction("OR", left, conjunction());
        }
        cursor.back();
        return left;
    }

    private Expr conjunction() {
        Expr left = negation();
        while (cursor.peek().isWord("AND")) {
            cursor.next();
            left = operators.junction("AND", left, negation());
        }
        return left;
    }

    private Expr negation() {
        int from = cursor.peek().from();
        if (!cursor.takeWord("NOT")) {
            return test();
        }
        cursor.deeper();
        Expr operand = operators.require(Kind.BOOLEAN, negation(), "NOT");
        cursor.back();
        return Logic.not(operand).at(from, cursor.end());
    }

    private Expr test() {
        Expr left = predicate();
        while (cursor.takeWord("IS")) {
            boolean negated = cursor.takeWord("NOT");
            int from = left.from;
            if (cursor.takeWord("DISTINCT")) {
                cursor.expectWord("FROM", "behind DISTINCT");
                left = operators.distinct(left, sum(), negated).at(from, cursor.end());
                continue;
            }
            String word = cursor.upper();
            if (!List.of("NULL", "TRUE", "FALSE", "UNKNOWN").contains(word)) {
                throw cursor.unexpected("expected NULL, TRUE, FALSE, UNKNOWN or DISTINCT FROM behind IS");
            }
            cursor.next();
            if (word.equals("NULL")) {
                left = new Logic.IsNull(left, negated);
            } else {
                Boolean wanted = word.equals("UNKNOWN") ? null : Boolean.valueOf(word.equals("TRUE"));
                left = new Logic.IsTruth(operators.require(Kind.BOOLEAN, left, "IS " + word), wanted, negated);
            }
            left.at(from, cursor.end());
        }
        return left;
    }

    private Expr predicate() {
        Expr left = sum();
        Token token = cursor.peek();
        if (token.kind() == Token.Kind.SIGN && COMPARISONS.contains(token.text())) {
            cursor.next();
            return operators.comparison(token.text(), left, sum());
        }
        boolean negated = token.isWord("NOT");
        Token word = negated ? cursor.ahead(1) : token;
        Expr made;
        if (word.isWord("BETWEEN")) {
            skip(negated);
            made = between(left);
        } else if (word.isWord("IN")) {
            skip(negated);
            made = in(left);
        } else if (word.isWord("LIKE")) {
            skip(negated);
            Expr pattern = sum();
            made = operators.like(left, pattern, cursor.takeWord("ESCAPE") ? sum() : null);
        } else if (word.isWord("LIKE_REGEX")) {
            skip(negated);
            made = wordy.likeRegex(left);
        } else {
            return left;
        }
        made.at(left.from, cursor.end());
        return negated ? Logic.not(made).at(left.from, cursor.end()) : made;
    }

    private void skip(boolean negated) {
        if (negated) {
            cursor.next();
        }
        cursor.next();
    }

    private Expr between(Expr left) {
        boolean symmetric = cursor.takeWord("SYMMETRIC");
        Expr low = sum();
        cursor.expectWord("AND", "between the two bounds");
        Expr high = sum();
        Expr straight = operators.junction(
                "AND", operators.comparison(">=", left, low), operators.comparison("<=", left, high));
        return symmetric
                ? operators.junction(
                        "OR",
                        straight,
                        operators.junction(
                                "AND", operators.comparison(">=", left, high), operators.comparison("<=", left, low)))
                : straight;
    }

    private Expr in(Expr left) {
        cursor.expectSign("(", "behind IN");
        List<Expr> list = new ArrayList<>();
        do {
            Expr item = expression();
            operators.requireTogether("IN", left, item);
            list.add(item);
        } while (cursor.takeSign(","));
        cursor.expectSign(")", "behind the values of IN");
        return new Logic.In(left, list);
    }

    Expr sum() {
        Expr left = product();
        while (true) {
            Token sign = cursor.peek();
            if (!sign.isSign("+") && !sign.isSign("-") && !sign.isSign("||")) {
                return left;
            }
            cursor.next();
            left = operators.sum(sign.text(), left, product());
            if (left instanceof Operators.Difference difference) {
                wordy.moments().requireUnit(difference);
            }
        }
    }

    private Expr product() {
        Expr left = signed();
        while (cursor.peek().isSign("*") || cursor.peek().isSign("/")) {
            String sign = cursor.next().text();
            left = operators.product(sign, left, signed());
        }
        return left;
    }

    private Expr signed() {
        Token sign = cursor.peek();
        if (!sign.isSign("-") && !sign.isSign("+")) {
            return primary();
        }
        cursor.next();
        cursor.deeper();
        Expr operand = signed();
        cursor.back();
        return operators.signed(sign, operand).at(sign.from(), operand.to);
    }

    private Expr primary() {
        Token token = cursor.peek();
        int from = token.from();
        switch (token.kind()) {
            case NUMBER:
                cursor.next();
                return number(token).at(from, token.to());
            case TEXT:
                cursor.next();
                return Constant.of(token.text()).at(from, token.to());
            case HOST:
                cursor.next();
                return host(token).at(from, token.to());
            case QUOTED:
                return field();
            case SIGN:
                if (cursor.takeSign("(")) {
                    Expr inner = expression();
                    cursor.expectSign(")", "to close the parenthesis");
                    inner.at(from, cursor.end());
                    return inner instanceof Operators.Difference difference
                            ? wordy.moments().qualified(difference, from)
                            : inner;
                }
                throw cursor.unexpected("expected a value");
            case WORD:
                return word().at(from, cursor.end());
            default:
                throw cursor.unexpected("expected a value");
        }
    }

    private static Expr number(Token token) {
        BigDecimal number = new BigDecimal(token.text().endsWith(".") ? token.text() + "0" : token.text());
        number = token.text().endsWith(".") ? number.setScale(0) : number;
        int digits = Math.max(number.precision(), number.scale());
        if (digits > SqlType.MOST_DIGITS) {
            throw new FormulaException(
                    token.from(), token.to(), "This number has more than " + SqlType.MOST_DIGITS + " digits.");
        }
        Constant constant = new Constant(SqlType.numeric(digits, number.scale()));
        constant.value.set(number);
        return constant;
    }

    private Expr host(Token token) {
        if (!scope.hasHost(token.text())) {
            throw new FormulaException(
                    token.from(),
                    token.to(),
                    "There is no value :" + token.text() + "." + NearNames.hint(token.text(), scope.hostNames()));
        }
        String text = scope.host(token.text());
        Constant constant = new Constant(SqlType.text(4000));
        constant.value.set(text);
        return constant;
    }

    private Expr word() {
        String word = cursor.upper();
        boolean call = cursor.ahead(1).isSign("(");
        if (call && Functions.of(word) != null) {
            return call(Functions.of(word));
        }
        if (wordy.begins(word, cursor.ahead(1))) {
            return wordy.read(word);
        }
        if (call) {
            Token token = cursor.peek();
            throw new FormulaException(
                    token.from(),
                    token.to(),
                    "There is no function " + token.text() + "." + NearNames.hint(token.text(), Functions.names()));
        }
        if (Words.isReserved(word)) {
            throw cursor.unexpected("expected a value");
        }
        return field();
    }

    /** A call whose arguments stand between commas. */
    private Expr call(Functions.Function function) {
        Token name = cursor.next();
        List<Expr> args = arguments();
        List<Kind> kinds = function.kinds();
        if (args.size() > kinds.size() || args.size() < kinds.size() - function.optional()) {
            throw new FormulaException(
                    name.from(),
                    cursor.end(),
                    function.name() + " takes " + function.arguments() + ", not " + args.size() + ".");
        }
        for (int i = 0; i < args.size(); i++) {
            operators.require(kinds.get(i), args.get(i), function.name());
        }
        return function.maker().make(args);
    }

    /** Arguments in parentheses, between commas. */
    List<Expr> arguments() {
        cursor.expectSign("(", "before the arguments");
        List<Expr> args = new ArrayList<>();
        if (cursor.takeSign(")")) {
            return args;
        }
        do {
            args.add(expression());
        } while (cursor.takeSign(","));
        cursor.expectSign(")", "behind the arguments");
        return args;
    }

    /** A field, with its record type before it where a point follows. */
    private Expr field() {
        Token first = cursor.next();
        Token last = first;
        String typeName = null;
        if (cursor.peek().isSign(".")) {
            cursor.next();
            if (cursor.peek().kind() != Token.Kind.WORD && cursor.peek().kind() != Token.Kind.QUOTED) {
                throw cursor.unexpected("expected a field of " + first.text());
            }
            typeName = first.text();
            last = cursor.next();
        }
        boolean exactly = last.kind() == Token.Kind.QUOTED;
        String qualifier = typeName;
        FormulaScope.Place place =
                scope.find(typeName, last.text(), exactly).orElseThrow(() -> noField(first, qualifier));
        read.add(place);
        return new FieldExpr(
                        place.type(),
                        place.recordType(),
                        place.field(),
                        place.charset().charset())
                .at(first.from(), last.to());
    }

    private FormulaException noField(Token first, String typeName) {
        String wanted = typeName == null
                ? first.text()
                : typeName + "." + cursor.ahead(-1).text();
        List<String> names = new ArrayList<>(scope.fieldNames());
        if (typeName == null) {
            names.addAll(Functions.names());
        }
        String hint = NearNames.hint(wanted, names);
        boolean parentHasIt = hint.isEmpty()
                && names.stream()
                        .anyMatch(n -> n.toLowerCase(Locale.ROOT).endsWith("." + wanted.toLowerCase(Locale.ROOT)));
        return new FormulaException(
                first.from(),
                cursor.end(),
                "There is no field " + wanted + "."
                        + (parentHasIt ? " A parent has one; write its name before a point." : hint));
    }
}
