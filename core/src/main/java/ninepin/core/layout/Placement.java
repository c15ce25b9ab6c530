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
        if (format instanceof Xml xml) {
            requireNesting(xml, types);
        }
    }

    /**
     * A record inside another belongs to it. If it did not, a commit could fall between the start of the outer record and
     * the inner one, and a restart behind it would not find the inner one again.
     */
    private static void requireNesting(Xml xml, List<RecordType> types) {
        for (RecordType inner : types) {
            for (RecordType outer : types) {
                if (isInside(xml, inner, outer) && !belongs(inner, outer, types)) {
                    throw new DefinitionException(
                            "recordTypes." + inner.name() + ".parent",
                            "stands inside " + outer.name() + ", so it has to belong to " + outer.name());
                }
            }
        }
    }

    private static boolean isInside(Xml xml, RecordType inner, RecordType outer) {
        List<String> within = names(xml, inner);
        List<String> around = names(xml, outer);
        return !around.isEmpty()
                && around.size() < within.size()
                && within.subList(0, around.size()).equals(around);
    }

    /** The elements on the way to a record, with their namespaces. */
    private static List<String> names(Xml xml, RecordType type) {
        return type.when() instanceof Recognition.Path path
                ? ElementPath.absolute("when.path", path.path()).steps().stream()
                        .map(s -> s.name().namespace(xml.namespaces()) + "|"
                                + s.name().local())
                        .toList()
                : List.of();
    }

    private static boolean belongs(RecordType inner, RecordType outer, List<RecordType> types) {
        for (String parent = inner.parent(); parent != null; ) {
            if (parent.equals(outer.name())) {
                return true;
            }
            String next = parent;
            parent = types.stream()
                    .filter(t -> t.name().equals(next))
                    .findFirst()
                    .map(RecordType::parent)
                    .orElse(null);
        }
        return false;
    }

    private static void requireRecognition(Format format, RecordType type, int types, Set<String> recognised) {
        String part = "recordTypes." + type.name() + ".when";
        Recognition when = type.when();
        if (when == null) {
            if (types > 1 || format instanceof Xml) {
                throw new DefinitionException(part, "says how a " + type.name() + " is told from the other records");
            }
            return;
        }
        if (when instanceof Recognition.Gathered) {
            return;
        }
        boolean fits = when instanceof Recognition.Path
                ? format instanceof Xml
                : when instanceof Recognition.Tag tag
                        ? format instanceof Delimited && tag.column() != null
                                || format instanceof FixedLength && tag.start() != null
                        : !(format instanceof Xml);
        if (!fits) {
            throw new DefinitionException(part, "is no way to tell records of such a file apart");
        }
        if (format instanceof Delimited d && d.header()) {
            throw new DefinitionException(part, "a file with a header row has one record type");
        }
        List<String> marks = when instanceof Recognition.Tag t ? t.values() : List.of(when.toString());
        for (String mark : marks) {
            if (!recognised.add(mark)) {
                throw new DefinitionException(part, "another record type is told by the same: " + when.sentence());
            }
        }
    }

    private static void requirePlaces(Format format, RecordType type) {
        Set<String> places = new HashSet<>();
        for (Field field : type.fields()) {
            String part = "fields." + field.name();
            if (format instanceof Delimited delimited) {
                requireColumn(part, delimited, field, places);
            } else if (format instanceof FixedLength fixed) {
                requirePosition(part, fixed, field);
            } else {
                requirePath(part, (Xml) format, field);
            }
        }
        if (format instanceof Xml xml && type.when() instanceof Recognition.Path path) {
            for (String prefix : ElementPath.absolute("when.path", path.path()).prefixes()) {
                requirePrefix("recordTypes." + type.name() + ".when", xml, prefix);
            }
        }
    }

    private static void requireColumn(String part, Delimited format, Field field, Set<String> places) {
        if (field.start() != null || field.path() != null) {
            throw new DefinitionException(part, "stands in a column of a delimited file");
        }
        if (field.header() != null && !format.header()) {
            throw new DefinitionException(part, "stands under a header name, but the layout has no header row");
        }
        String place =
                field.header() != null ? "under the header \"" + field.header() + "\"" : "in column " + field.column();
        if (!places.add(place)) {
            throw new DefinitionException(part, "is a second field " + place);
        }
    }

    private static void requirePosition(String part, FixedLength format, Field field) {
        if (field.start() == null) {
            throw new DefinitionException(part, "needs its start and length");
        }
        Integer most = format.length() != null ? format.length() : format.blockSize();
        if (most != null && field.end() > most) {
            throw new DefinitionException(part, "goes on behind the end of the record, " + most);
        }
    }

    private static void requirePath(String part, Xml format, Field field) {
        if (field.path() == null) {
            throw new DefinitionException(part, "needs its path");
        }
        for (String prefix : ElementPath.relative(part, field.path()).prefixes()) {
            requirePrefix(part, format, prefix);
        }
    }

    private static void requirePrefix(String part, Xml xml, String prefix) {
        if (!prefix.equals(Xml.OWN_PREFIX) && !xml.namespaces().containsKey(prefix)) {
            throw new DefinitionException(part, "the prefix " + prefix + " has no namespace");
        }
    }
}
