package ninepin.core.layout;

import java.util.List;

/**
 * A field of a record.
 *
 * @param name the name it is known by
 * @param header the name in the header row under which it stands, or null when it stands by column
 * @param column the column it stands in, counted from 1, or null when it stands by header name
 * @param type the type of its values
 * @param checks what its values have to satisfy beside the type
 */
public record Field(String name, String header, Integer column, DataType type, List<Check> checks) {

    public Field {
        Names.requireText("field name", name);
        if (name.length() > 128) {
            throw new DefinitionException("fields." + name.substring(0, 20) + "…", "a name has 128 characters at most");
        }
        if (header == null && column == null) {
            header = name;
        }
        if (header != null && column != null) {
            throw new DefinitionException("fields." + name, "stands either under a header name or in a column");
        }
        if (column != null && (column < 1 || column > 16_384)) {
            throw new DefinitionException("fields." + name + ".column", "must be from 1 to 16384");
        }
        type = type == null ? new DataType.CharacterVarying(255) : type;
        checks = checks == null ? List.of() : List.copyOf(checks);
        for (Check check : checks) {
            check.requireFits(name, type);
        }
    }
}
