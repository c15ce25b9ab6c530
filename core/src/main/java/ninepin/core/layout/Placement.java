package ninepin.core.layout;

import java.util.HashSet;
import java.util.List;
import java.util.Set;

/** Whether the places of fields, and the ways to tell record types apart, suit how the file is written. */
final class Placement {

    private Placement() {}

    static void require(Format format, List<RecordType> types) {
        Set<String> recognised = new HashSet<>();
        for (RecordType type : types) {
            requireRecognition(format, type, types.size(), recognised);
            requirePlaces(format, type);
        }
        format.requireTypes(types);
    }

    private static void requireRecognition(Format format, RecordType type, int types, Set<String> recognised) {
        String part = "recordTypes." + type.name() + ".when";
        Recognition when = type.when();
        if (when == null) {
            if (types > 1 || format.tellsEach()) {
                throw new DefinitionException(part, "says how a " + type.name() + " is told from the other records");
            }
            return;
        }
        if (when instanceof Recognition.Gathered) {
            return;
        }
        if (!format.tells(when)) {
            throw new DefinitionException(part, "is no way to tell records of such a file apart");
        }
        format.requireSeveral(part);
        List<String> marks = when instanceof Recognition.Tag t ? t.values() : List.of(when.toString());
        for (String mark : marks) {
            if (!recognised.add(mark)) {
                throw new DefinitionException(part, "another record type is told by the same: " + when.sentence());
            }
        }
    }

    private static void requirePlaces(Format format, RecordType type) {
        Set<Place> places = new HashSet<>();
        for (Field field : type.fields()) {
            String part = "fields." + field.name();
            format.requirePlace(part, field);
            if (!format.sharesPlaces() && !places.add(field.place())) {
                throw new DefinitionException(
                        part, "is a second field " + field.place().words());
            }
        }
    }
}
