package ninepin.core.layout;

import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * A kind of record in a file.
 *
 * @param name what it is called, such as {@code result}
 * @param when how it is told from other types; null for the only type of a file
 * @param parent the name of the type it belongs to: a record belongs to the latest one of that type; or null
 * @param min the fewest there must be, in the file or for each parent; null for none
 * @param max the most there may be; null for any number
 * @param fields its fields, with names that differ
 */
public record RecordType(String name, Recognition when, String parent, Integer min, Integer max, List<Field> fields) {

    public RecordType {
        Names.requireText("recordTypes.name", name);
        if (name.contains(".")) {
            throw new DefinitionException("recordTypes." + name, "a name of a record type has no point");
        }
        fields = fields == null ? List.of() : List.copyOf(fields);
        if (fields.isEmpty()) {
            throw new DefinitionException("recordTypes." + name, "has no fields");
        }
        if (min != null && min < 0 || max != null && max < 1 || min != null && max != null && min > max) {
            throw new DefinitionException("recordTypes." + name + ".max", "how often it may occur makes no sense");
        }
        Set<String> seen = new HashSet<>();
        for (Field field : fields) {
            if (!seen.add(field.name())) {
                throw new DefinitionException("fields." + field.name(), "stands twice in the layout");
            }
        }
    }

    /** The only type of a file. */
    public RecordType(String name, List<Field> fields) {
        this(name, null, null, null, null, fields);
    }

    public RecordType withFields(List<Field> others) {
        return new RecordType(name, when, parent, min, max, others);
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
