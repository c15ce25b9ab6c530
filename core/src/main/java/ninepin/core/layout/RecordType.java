package ninepin.core.layout;

import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * A kind of record in a file.
 *
 * @param name what it is called, such as {@code result}
 * @param fields its fields, at least one, with names that differ
 */
public record RecordType(String name, List<Field> fields) {

    public RecordType {
        Names.requireText("recordTypes.name", name);
        fields = fields == null ? List.of() : List.copyOf(fields);
        if (fields.isEmpty()) {
            throw new DefinitionException("recordTypes." + name, "has no fields");
        }
        Set<String> seen = new HashSet<>();
        for (Field field : fields) {
            if (!seen.add(field.name())) {
                throw new DefinitionException("fields." + field.name(), "stands twice in the layout");
            }
        }
    }

    public Optional<Field> field(String fieldName) {
        return fields.stream().filter(f -> f.name().equals(fieldName)).findFirst();
    }

    /** The index of a field by its name, or -1. */
    public int indexOf(String fieldName) {
        for (int i = 0; i < fields.size(); i++) {
            if (fields.get(i).name().equals(fieldName)) {
                return i;
            }
        }
        return -1;
    }
}
