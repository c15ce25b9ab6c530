package ninepin.core.layout;

import java.util.List;

/**
 * JSON after RFC 8259 in UTF-8: one value a file, or JSON Lines, a value a line.
 *
 * @param lines whether each line is a value of its own; paths of records then begin at it
 * @param trailingCommas whether a comma may stand behind the last element of an array and the last member of an object
 * @param blankRows what happens to lines in which nothing stands
 * @param withoutNulls whether members that are NULL are left out where files are written, instead of being null
 */
public record Json(boolean lines, boolean trailingCommas, BlankRows blankRows, boolean withoutNulls) implements Format {

    public Json {
        blankRows = blankRows == null ? BlankRows.SKIP : blankRows;
    }

    /** One value a file, read strictly. */
    public Json() {
        this(false, false, null);
    }

    /** Written with nulls. */
    public Json(boolean lines, boolean trailingCommas, BlankRows blankRows) {
        this(lines, trailingCommas, blankRows, false);
    }

    @Override
    public FileCharset charset() {
        return FileCharset.UTF_8;
    }

    @Override
    public boolean tells(Recognition when) {
        return when instanceof Recognition.JsonPath;
    }

    @Override
    public boolean tellsEach() {
        return true;
    }

    @Override
    public void requirePlace(String part, Field field) {
        if (!(field.place() instanceof Place.JsonPath)) {
            throw new DefinitionException(part, "needs its path");
        }
    }

    @Override
    public void requireTypes(List<RecordType> types) {
        if (lines && types.stream().noneMatch(t -> steps(t) != null && steps(t).isEmpty())) {
            throw new DefinitionException(
                    "recordTypes.when", "in JSON Lines the lines are records: one record type has the path $");
        }
        Nesting.require(types, Json::steps);
    }

    private static List<JsonPath.Step> steps(RecordType type) {
        return type.when() instanceof Recognition.JsonPath when
                ? JsonPath.ofRecord("when.path", when.path()).steps()
                : null;
    }
}
