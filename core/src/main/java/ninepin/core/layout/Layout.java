package ninepin.core.layout;

import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * The reusable description of a file: how it is written, and the record types that stand in it.
 *
 * @param name the name it is known by in the library; lower case letters, digits and hyphens
 * @param title the name people read
 * @param format how the file is written
 * @param recordTypes its record types, at least one
 */
public record Layout(String name, String title, Format format, List<RecordType> recordTypes) {

    public Layout {
        Names.requireSlug("layout name", name);
        title = title == null || title.isBlank() ? name : title;
        if (format == null) {
            throw new DefinitionException("format", "a layout says how the file is written");
        }
        recordTypes = recordTypes == null ? List.of() : List.copyOf(recordTypes);
        if (recordTypes.size() != 1) {
            throw new DefinitionException("recordTypes", "a delimited layout has one record type");
        }
        for (RecordType type : recordTypes) {
            requirePlaces(format, type);
        }
    }

    /** The record type of a layout that has one. */
    public RecordType onlyType() {
        return recordTypes.get(0);
    }

    public Optional<Field> field(String fieldName) {
        return onlyType().field(fieldName);
    }

    private static void requirePlaces(Format format, RecordType type) {
        if (!(format instanceof Delimited delimited)) {
            return;
        }
        Set<String> places = new HashSet<>();
        for (Field field : type.fields()) {
            boolean byName = field.header() != null;
            if (byName && !delimited.header()) {
                throw new DefinitionException(
                        "fields." + field.name(), "stands under a header name, but the layout has no header row");
            }
            String place = byName ? "h:" + field.header() : "c:" + field.column();
            if (!places.add(place)) {
                throw new DefinitionException(
                        "fields." + field.name(),
                        byName
                                ? "a second field under the header \"" + field.header() + "\""
                                : "a second field in column " + field.column());
            }
        }
    }
}
