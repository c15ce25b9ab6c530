package ninepin.core.layout;

import java.util.List;
import java.util.stream.Stream;

/**
 * A field of a record. It stands in one place: under a header name or in a column of a delimited file, at a position of
 * a fixed-length one, at a path of an XML one.
 *
 * @param name the name it is known by
 * @param header the name in the header row under which it stands, or null
 * @param column the column it stands in, counted from 1, or null
 * @param start the position it starts at, counted from 1, or null
 * @param length the characters or bytes it has from there, or null
 * @param path where it stands below its record's element, or null
 * @param type the type of its values
 * @param checks what its values have to satisfy beside the type
 */
public record Field(
        String name,
        String header,
        Integer column,
        Integer start,
        Integer length,
        String path,
        DataType type,
        List<Check> checks) {

    public Field {
        Names.requireText("field name", name);
        if (name.length() > 128) {
            throw new DefinitionException("fields." + name.substring(0, 20) + "…", "a name has 128 characters at most");
        }
        if (name.contains(".")) {
            throw new DefinitionException("fields." + name, "a name of a field has no point");
        }
        long places =
                Stream.of(header, column, start, path).filter(p -> p != null).count();
        if (places == 0) {
            header = name;
        } else if (places > 1) {
            throw new DefinitionException("fields." + name, "stands in one place only");
        }
        if (column != null && (column < 1 || column > 16_384)) {
            throw new DefinitionException("fields." + name + ".column", "must be from 1 to 16384");
        }
        if ((start == null) != (length == null) || start != null && (start < 1 || length < 1)) {
            throw new DefinitionException("fields." + name + ".start", "has a start and a length, both from 1");
        }
        if (path != null) {
            ElementPath.relative("fields." + name + ".path", path);
        }
        type = type == null ? new DataType.CharacterVarying(255) : type;
        checks = checks == null ? List.of() : List.copyOf(checks);
        for (Check check : checks) {
            check.requireFits(name, type);
        }
    }

    /** A field under a name of the header row. */
    public static Field under(String header, DataType type, Check... checks) {
        return new Field(header, header, null, null, null, null, type, List.of(checks));
    }

    /** A field in a column, counted from 1. */
    public static Field inColumn(int column, String name, DataType type, Check... checks) {
        return new Field(name, null, column, null, null, null, type, List.of(checks));
    }

    /** A field at a position, counted from 1. */
    public static Field at(int start, int length, String name, DataType type, Check... checks) {
        return new Field(name, null, null, start, length, null, type, List.of(checks));
    }

    /** A field at a path below its record's element. */
    public static Field atPath(String path, String name, DataType type, Check... checks) {
        return new Field(name, null, null, null, null, path, type, List.of(checks));
    }

    public Field withChecks(List<Check> others) {
        return new Field(name, header, column, start, length, path, type, others);
    }

    /** The position behind its last one, counted from 0; for a fixed-length field. */
    public int end() {
        return start - 1 + length;
    }
}
