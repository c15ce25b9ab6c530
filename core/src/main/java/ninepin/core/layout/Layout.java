package ninepin.core.layout;

import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.IntStream;

/**
 * The reusable description of a file: how it is written, and the record types that stand in it.
 *
 * @param name the name it is known by in the library; lower case letters, digits and hyphens
 * @param title the name people read
 * @param format how the file is written
 * @param recordTypes its record types, at least one; a parent before its children
 * @param fileChecks what the file as a whole has to satisfy
 */
public record Layout(
        String name, String title, Format format, List<RecordType> recordTypes, List<FileCheck> fileChecks) {

    /**
     * A field of a layout.
     *
     * @param type the index of its record type
     * @param field its index in the type
     */
    public record FieldPlace(int type, int field) {}

    public Layout {
        Names.requireSlug("layout name", name);
        title = title == null || title.isBlank() ? name : title;
        if (format == null) {
            throw new DefinitionException("format", "a layout says how the file is written");
        }
        recordTypes = recordTypes == null ? List.of() : List.copyOf(recordTypes);
        fileChecks = fileChecks == null ? List.of() : List.copyOf(fileChecks);
        if (recordTypes.isEmpty()) {
            throw new DefinitionException("recordTypes", "a layout has at least one record type");
        }
        Set<String> names = new HashSet<>();
        for (RecordType type : recordTypes) {
            if (type.parent() != null && !names.contains(type.parent())) {
                throw new DefinitionException(
                        "recordTypes." + type.name(), "its parent " + type.parent() + " has to stand before it");
            }
            if (!names.add(type.name())) {
                throw new DefinitionException("recordTypes." + type.name(), "stands twice in the layout");
            }
        }
        Placement.require(format, recordTypes);
    }

    /** A layout without checks of the file as a whole. */
    public Layout(String name, String title, Format format, List<RecordType> recordTypes) {
        this(name, title, format, recordTypes, List.of());
    }

    /** The same under another name; a title that was no more than the name changes with it. */
    public Layout withName(String other) {
        return new Layout(other, title.equals(name) ? other : title, format, recordTypes, fileChecks);
    }

    public Layout withTypes(List<RecordType> others) {
        return new Layout(name, title, format, others, fileChecks);
    }

    /**
     * The record type that documents hang on: the first that others belong to and that belongs to none. Where records
     * stand for themselves, the first one.
     */
    public int headType() {
        return IntStream.range(0, recordTypes.size())
                .filter(t -> parentIndex(t) < 0
                        && recordTypes.stream()
                                .anyMatch(c -> recordTypes.get(t).name().equals(c.parent())))
                .findFirst()
                .orElse(0);
    }

    /** The first record type; the only one of most layouts. */
    public RecordType firstType() {
        return recordTypes.get(0);
    }

    /** The index of a record type by its name, or -1. */
    public int typeIndex(String typeName) {
        for (int t = 0; t < recordTypes.size(); t++) {
            if (recordTypes.get(t).name().equals(typeName)) {
                return t;
            }
        }
        return -1;
    }

    /** The index of a type's parent, or -1. */
    public int parentIndex(int type) {
        String parent = recordTypes.get(type).parent();
        return parent == null ? -1 : typeIndex(parent);
    }

    /** How many record types a record type belongs to. */
    public int depth(int type) {
        int parent = parentIndex(type);
        return parent < 0 ? 0 : 1 + depth(parent);
    }

    /** Whether records of some type belong to others, so that several make up a document. */
    public boolean nested() {
        return recordTypes.stream().anyMatch(t -> t.parent() != null);
    }

    /**
     * Finds a field by its name, seen from a record type: its own by the plain name, others as {@code type.field}.
     *
     * @param from the index of the record type from which the name is said
     */
    public Optional<FieldPlace> place(int from, String fieldName) {
        int point = fieldName.indexOf('.');
        int type = point < 0 ? from : typeIndex(fieldName.substring(0, point));
        if (type < 0) {
            return Optional.empty();
        }
        int field = recordTypes.get(type).indexOf(fieldName.substring(point + 1));
        return field < 0 ? Optional.empty() : Optional.of(new FieldPlace(type, field));
    }

    /** A field by its name as seen from a record type; see {@link #place}. */
    public Optional<Field> field(int from, String fieldName) {
        return place(from, fieldName)
                .map(p -> recordTypes.get(p.type()).fields().get(p.field()));
    }
}
