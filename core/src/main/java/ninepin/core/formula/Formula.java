package ninepin.core.formula;

import java.util.List;

/** A formula that has been read and typed. Belongs to one thread. */
public final class Formula {

    /** The most characters of a formula. */
    public static final int MOST_CHARACTERS = 10_000;

    private final Expr expr;
    private final List<FormulaScope.Place> fields;

    private Formula(Expr expr, List<FormulaScope.Place> fields) {
        this.expr = expr;
        this.fields = fields;
    }

    /**
     * Reads and types a formula.
     *
     * @throws FormulaException where it is none, with the place
     */
    public static Formula of(String text, FormulaScope scope) {
        if (text.length() > MOST_CHARACTERS) {
            throw new FormulaException(
                    MOST_CHARACTERS, text.length(), "A formula has at most " + MOST_CHARACTERS + " characters.");
        }
        Parser parser = new Parser(text, scope);
        Expr expr = parser.all();
        return new Formula(expr, parser.read());
    }

    /** The host variables that a formula names, each once; those before the place where it cannot be read on. */
    public static List<String> hosts(String text) {
        try {
            return Lexer.of(text).stream()
                    .filter(t -> t.kind() == Token.Kind.HOST)
                    .map(Token::text)
                    .distinct()
                    .toList();
        } catch (FormulaException e) {
            return List.of();
        }
    }

    /** The code lists that a formula names, each once; those before the place where it cannot be read on. */
    public static List<String> codeLists(String text) {
        try {
            List<Token> tokens = Lexer.of(text);
            return java.util.stream.IntStream.range(1, tokens.size())
                    .filter(i -> tokens.get(i - 1).isWord("USING")
                            && (tokens.get(i).kind() == Token.Kind.WORD
                                    || tokens.get(i).kind() == Token.Kind.QUOTED))
                    .mapToObj(i -> tokens.get(i).text())
                    .distinct()
                    .toList();
        } catch (FormulaException e) {
            return List.of();
        }
    }

    /** Whether it is true or false, or NULL. */
    public boolean isCondition() {
        return expr.is(SqlType.Kind.BOOLEAN) || expr.is(SqlType.Kind.NOTHING);
    }

    /** The type of its values. */
    public SqlType type() {
        return expr.type;
    }

    /** The fields that it reads, each once. */
    public List<FormulaScope.Place> fields() {
        return fields;
    }

    /**
     * Its value for a record, which holds until the next evaluation.
     *
     * @param row the typed values of each record type's latest record
     * @throws EvaluationException where it has none
     */
    public Datum eval(RecordContext row) {
        return expr.eval(row);
    }
}
