package ninepin.core.usable;

import java.util.Optional;
import ninepin.core.formula.Formula;
import ninepin.core.formula.FormulaException;
import ninepin.core.formula.FormulaScope;
import ninepin.core.layout.DataType;
import ninepin.core.layout.Field;
import ninepin.core.shape.Origin;
import ninepin.core.shape.Rule;
import ninepin.core.shape.Touch;

/** The types of the values that rules give. */
public final class RuleTypes {

    private final FormulaScope scope;

    /**
     * @param scope what the rules can name
     */
    public RuleTypes(FormulaScope scope) {
        this.scope = scope;
    }

    /** A field that a rule takes. */
    public Optional<Field> field(String name) {
        return scope.taken(name).map(FormulaScope.Place::of);
    }

    /** The type of a rule's values; empty where its origin or its touches leave it open. */
    public Optional<DataType> of(Rule rule) {
        if (!rule.touches().stream().allMatch(RuleTypes::keepsType)) {
            return Optional.empty();
        }
        Origin take = rule.take();
        if (take instanceof Origin.OfField of) {
            return field(of.field()).map(Field::type);
        }
        if (take instanceof Origin.Amount of) {
            return field(of.field()).map(Field::type);
        }
        if (take instanceof Origin.OfFormula of) {
            try {
                return Formula.of(of.formula(), scope).type().asField();
            } catch (FormulaException e) {
                return Optional.empty();
            }
        }
        if (take instanceof Origin.OfKey) {
            return Optional.of(new DataType.Decimal(18, 0, '.', null));
        }
        return take instanceof Origin.OfRun of ? ofFact(of) : Optional.empty();
    }

    private static Optional<DataType> ofFact(Origin.OfRun of) {
        return switch (of.fact()) {
            case TODAY -> Optional.of(new DataType.Date("yyyy-MM-dd"));
            case STARTED_AT -> Optional.of(new DataType.Timestamp("yyyy-MM-dd HH:mm:ss"));
            case FILE_NAME -> Optional.of(new DataType.CharacterVarying(255));
            case ENVIRONMENT -> Optional.empty();
            default -> Optional.of(new DataType.IntegerNumber());
        };
    }

    /** Whether values have the type of their origin, and no more characters, behind a touch. */
    private static boolean keepsType(Touch touch) {
        return switch (touch.does()) {
            case TRIM, TRIM_LEFT, TRIM_RIGHT, LEADING_ZEROS, UPPER, LOWER -> true;
            default -> false;
        };
    }
}
