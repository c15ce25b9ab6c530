package ninepin.core.formula;

import java.time.LocalDate;
import ninepin.core.codes.CodeList;
import ninepin.core.codes.CodeTable;
import ninepin.core.formula.SqlType.Kind;
import ninepin.core.layout.Shown;

/** Reads {@code TRANSLATE(value USING list.column AT date)}: a value by a code list. */
final class TranslateReader {

    private final Parser parser;

    TranslateReader(Parser parser) {
        this.parser = parser;
    }

    /** Reads what stands in the parentheses. */
    Expr read() {
        Cursor cursor = parser.cursor;
        Expr of = parser.expression();
        boolean plain = of.is(Kind.CHARACTER) || of.is(Kind.NOTHING) || of.is(Kind.NUMERIC) && of.type.scale() == 0;
        if (!plain) {
            throw new FormulaException(
                    of.from, of.to, "TRANSLATE wants text or a whole number. CAST(… AS VARCHAR(20)) makes it text.");
        }
        cursor.expectWord("USING", "and the name of a code list");
        CodeTable table = list();
        int column = cursor.takeSign(".") ? column(table) : table.usualColumn();
        Expr at = cursor.takeWord("AT") ? parser.operators.require(Kind.DATE, parser.expression(), "AT") : null;
        CodeList.Missing missing = table.missing();
        int longest = Math.max(1, table.longest(column));
        if (missing.policy() == CodeList.Policy.PASS) {
            longest = Math.max(longest, of.is(Kind.CHARACTER) ? of.type.precision() : of.type.precision() + 1);
        } else if (missing.value() != null) {
            longest = Math.max(longest, missing.value().length());
        }
        return new Translate(
                SqlType.text(longest),
                of,
                table,
                column,
                at,
                parser.scope.today().toEpochDay(),
                parser.scope.notices());
    }

    private CodeTable list() {
        Cursor cursor = parser.cursor;
        Token token = cursor.peek();
        if (token.kind() != Token.Kind.WORD && token.kind() != Token.Kind.QUOTED) {
            throw cursor.unexpected("expected the name of a code list");
        }
        cursor.next();
        CodeTable table = parser.scope.codes().find(token.text());
        if (table == null) {
            throw new FormulaException(
                    token.from(),
                    token.to(),
                    "There is no code list " + token.text() + "."
                            + NearNames.hint(token.text(), parser.scope.codes().names()));
        }
        return table;
    }

    private int column(CodeTable table) {
        Token token = parser.cursor.next();
        int column = table.column(token.text());
        if (column < 0) {
            throw new FormulaException(
                    token.from(),
                    token.to(),
                    "The code list " + table.name() + " has no column " + token.text() + "."
                            + NearNames.hint(token.text(), table.columns()));
        }
        return column;
    }

    /** What a code list makes of a value. */
    private static final class Translate extends Expr {
        private final Expr of;
        private final CodeTable table;
        private final int column;
        private final Expr at;
        private final long today;
        private final Notices notices;

        Translate(SqlType type, Expr of, CodeTable table, int column, Expr at, long today, Notices notices) {
            super(type);
            this.of = of;
            this.table = table;
            this.column = column;
            this.at = at;
            this.today = today;
            this.notices = notices;
        }

        @Override
        Datum eval(RecordContext row) {
            Datum d = of.eval(row);
            if (d.isNull()) {
                return value.setNull();
            }
            String text = d.written(of.type);
            Datum day = at == null ? null : at.eval(row);
            if (day != null && day.isNull()) {
                return value.setNull();
            }
            long when = day == null ? today : day.number;
            CodeList.Entry entry = table.find(text, when);
            return value.set(entry != null ? entry.value(column) : missing(text, when));
        }

        /** What stands for a value that is not in the list. */
        private String missing(String text, long when) {
            String found = Shown.quoted(text) + ", which is not in the code list " + table.name()
                    + (table.knowsOnOtherDays(text) ? " for " + LocalDate.ofEpochDay(when) : "");
            switch (table.missing().policy()) {
                case REJECT:
                    throw new EvaluationException("COD-01", this, found);
                case PASS:
                    notices.add("COD-02", found, "a value of the code list " + table.name());
                    return text;
                default:
                    return table.missing().value();
            }
        }
    }
}
