package ninepin.core.layout;

import java.util.List;

/**
 * A field of a record.
 *
 * @param name the name it is known by
 * @param place where it stands in the record; null for under its own name in the header row
 * @param type the type of its values
 * @param checks what its values have to satisfy beside the type
 */
public record Field(String name, Place place, DataType type, List<Check> checks) {

    private static final int LONGEST_NAME = 128;
    private static final int USUAL_TEXT = 255;

    public Field {
        Names.requireText("field name", name);
        if (name.length() > LONGEST_NAME) {
            throw new DefinitionException(
                    "fields." + name.substring(0, 20) + "…", "a name has " + LONGEST_NAME + " characters at most");
        }
        if (name.contains(".")) {
            throw new DefinitionException("fields." + name, "a name of a field has no point");
        }
        place = place == null ? new Place.Header(name) : place;
        place.require("fields." + name);
        type = type == null ? new DataType.CharacterVarying(USUAL_TEXT) : type;
        checks = checks == null ? List.of() : List.copyOf(checks);
        for (Check check : checks) {
            check.requireFits(name, type);
        }
    }

    /** A field under a name of the header row. */
    public static Field under(String header, DataType type, Check... checks) {
        return new Field(header, new Place.Header(header), type, List.of(checks));
    }

    /** A field in a column, counted from 1. */
    public static Field inColumn(int column, String name, DataType type, Check... checks) {
        return new Field(name, new Place.Column(column), type, List.of(checks));
    }

    /** A field at a position, counted from 1. */
    public static Field at(int start, int length, String name, DataType type, Check... checks) {
        return new Field(name, new Place.Span(start, length), type, List.of(checks));
    }

    /** A field at a path below its record's element. */
    public static Field atPath(String path, String name, DataType type, Check... checks) {
        return new Field(name, new Place.Path(path), type, List.of(checks));
    }

    /** A field at a path of a JSON value. */
    public static Field atJson(String path, String name, DataType type, Check... checks) {
        return new Field(name, new Place.JsonPath(path), type, List.of(checks));
    }

    public Field withChecks(List<Check> others) {
        return new Field(name, place, type, others);
    }

    /** What stands over its values: its name in the header row, else the name it is known by. */
    public String heading() {
        return place instanceof Place.Header header ? header.name() : name;
    }

    /** The positions it has where its record has a fixed length; else a number that is never reached. */
    public int room() {
        return place instanceof Place.Span span ? span.length() : Integer.MAX_VALUE;
    }
}
