package ninepin.core.document;

import ninepin.core.formula.Formula;
import ninepin.core.formula.FormulaException;
import ninepin.core.formula.FormulaScope;
import ninepin.core.formula.Notices;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.Layout;
import ninepin.core.shape.ShapingContext;

/** Reads the formulas that a job has beside its rules. */
final class Conditions {

    private final Layout layout;
    private final ShapingContext context;

    /**
     * @param layout the layout of the documents
     */
    Conditions(Layout layout, ShapingContext context) {
        this.layout = layout;
        this.context = context;
    }

    /**
     * The index of a record type.
     *
     * @param name its name; null for the one that documents hang on
     * @param part the part of the definition that names it, for the message
     */
    int type(String name, String part) {
        int type = name == null ? layout.headType() : layout.typeIndex(name);
        if (type < 0) {
            throw new DefinitionException(part, "there is no record type " + name);
        }
        return type;
    }

    Formula formula(int type, String text) {
        try {
            return Formula.of(text, new FormulaScope(layout, type, context.surroundings(), new Notices()));
        } catch (FormulaException e) {
            throw new DefinitionException(text, e.getMessage());
        }
    }

    Formula condition(int type, String text) {
        Formula formula = formula(type, text);
        if (!formula.isCondition()) {
            throw new DefinitionException(
                    text, "is no condition: it gives " + formula.type().label());
        }
        return formula;
    }
}
