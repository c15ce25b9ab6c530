package ninepin.core.formula;

import java.util.List;
import ninepin.core.formula.SqlType.Kind;

/** Reads COUNT, SUM, MIN, MAX and AVG over the records of a document that belong to a record. */
final class AggregateReader {

    private final Parser parser;

    AggregateReader(Parser parser) {
        this.parser = parser;
    }

    /** Reads from the parenthesis behind the word to the end of a FILTER. */
    Expr read(String word, int from) {
        Cursor cursor = parser.cursor;
        FormulaScope scope = parser.scope;
        if (scope.inAggregate()) {
            throw new FormulaException(from, cursor.end(), word + " cannot stand inside of another of its kind.");
        }
        if (!scope.hasAggregates()) {
            throw new FormulaException(from, cursor.end(), word + " cannot stand in the key of a look-up.");
        }
        cursor.expectSign("(", "behind " + word);
        int before = parser.readCount();
        scope.enterAggregate();
        try {
            int counted = word.equals("COUNT") ? records() : -1;
            boolean distinct = counted < 0 && cursor.takeWord("DISTINCT");
            Expr of = counted < 0 ? parser.expression() : null;
            cursor.expectSign(")", "to close " + word);
            Expr filter = filter();
            int over = counted >= 0 ? counted : over(parser.readSince(before));
            int root = over < 0 ? -1 : scope.rootOf(over);
            if (root < 0) {
                throw new FormulaException(
                        from,
                        cursor.end(),
                        word + " is about the records that belong to this one; name a field of them"
                                + (scope.placesBelow().isEmpty()
                                        ? ", but none do."
                                        : ", such as "
                                                + scope.placesBelow().get(0).shown() + "."));
            }
            Accumulator.Function function = Accumulator.Function.valueOf(word);
            if (of != null && !Accumulator.takes(function, of.type)) {
                parser.operators.require(Kind.NUMERIC, of, word);
            }
            return new Aggregate(function, over, root, of, distinct, filter);
        } finally {
            scope.leaveAggregate();
        }
    }

    /** {@code *} for the one type of records below, or {@code item.*}; the type, or -1 where neither stands there. */
    private int records() {
        Cursor cursor = parser.cursor;
        boolean named = cursor.ahead(1).isSign(".") && cursor.ahead(2).isSign("*");
        if (!named && !cursor.peek().isSign("*")) {
            return -1;
        }
        Token first = cursor.next();
        List<String> children = parser.scope.children();
        if (!named && children.size() != 1) {
            throw new FormulaException(
                    first.from(),
                    first.to(),
                    children.isEmpty()
                            ? "No records belong to this one."
                            : "Say which records: COUNT(" + children.get(0) + ".*).");
        }
        String name = named ? first.text() : children.get(0);
        if (named) {
            cursor.next();
            cursor.next();
        }
        int type = parser.scope.typeNamed(name);
        if (type < 0) {
            throw new FormulaException(
                    first.from(), first.to(), "There is no record type " + name + "." + NearNames.hint(name, children));
        }
        return type;
    }

    /** {@code FILTER (WHERE …)}, or null. */
    private Expr filter() {
        Cursor cursor = parser.cursor;
        if (!cursor.peek().isWord("FILTER") || !cursor.ahead(1).isSign("(")) {
            return null;
        }
        cursor.next();
        cursor.next();
        cursor.expectWord("WHERE", "in FILTER");
        Expr condition = parser.operators.require(Kind.BOOLEAN, parser.expression(), "WHERE");
        cursor.expectSign(")", "to close FILTER");
        return condition;
    }

    /** The record type that an aggregate goes over: the innermost of those it names that is below this record. */
    private int over(List<FormulaScope.Place> named) {
        int over = -1;
        for (FormulaScope.Place place : named) {
            int type = place.about();
            if (parser.scope.rootOf(type) >= 0 && (over < 0 || parser.scope.depth(type) > parser.scope.depth(over))) {
                over = type;
            }
        }
        for (FormulaScope.Place place : named) {
            int type = place.about();
            if (over >= 0 && type != over && parser.scope.rootOf(type) >= 0 && !parser.scope.isBelow(over, type)) {
                throw new FormulaException(
                        parser.cursor.ahead(-1).from(),
                        parser.cursor.end(),
                        "Records of " + place.typeName() + " do not stand around those that this goes over.");
            }
        }
        return over;
    }
}
