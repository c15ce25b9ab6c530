package ninepin.core.shape;

import java.util.List;
import ninepin.core.layout.DefinitionException;

/**
 * Where the value of one target field comes from.
 *
 * @param target the target field (column)
 * @param take the origin of the value
 * @param touches finishing touches, in order
 * @param whenBlank what to use where the value is missing or only blanks, or null to leave it NULL
 */
public record Rule(String target, Origin take, List<Touch> touches, String whenBlank) {

    public Rule {
        if (target == null || target.isBlank()) {
            throw new DefinitionException("shaping.target", "a rule names its target field");
        }
        if (take == null) {
            throw new DefinitionException("shaping." + target + ".take", "a rule says where its value comes from");
        }
        touches = touches == null ? List.of() : List.copyOf(touches);
    }

    /** Whether rows have a value for its target field. */
    public boolean fills() {
        return !(take instanceof Origin.TargetDefault);
    }

    /** The rule read back as a sentence. */
    public String sentence() {
        StringBuilder out = new StringBuilder(target).append(" is ").append(take.sentence());
        touches.forEach(t -> out.append(", ").append(t.sentence()));
        if (whenBlank != null) {
            out.append("; when blank, \"").append(whenBlank).append('"');
        }
        return out.toString();
    }
}
