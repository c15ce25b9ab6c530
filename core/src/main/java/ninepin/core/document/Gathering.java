package ninepin.core.document;

import java.util.ArrayList;
import java.util.List;
import ninepin.core.format.Formats;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.Field;
import ninepin.core.layout.FileCheck;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Recognition;
import ninepin.core.layout.RecordType;
import ninepin.core.layout.Severity;

/**
 * How the records of a file with one record type are gathered into documents of a head and lines: records that follow each
 * other with the same key are one document.
 *
 * @param by the fields of the key
 * @param document the name of the record type that the heads are of
 * @param head the fields that are the same in all records of a document, those of the key among them
 * @param anywhere whether the records of a document may stand apart in the file, which is then sorted beforehand
 * @param differing what it weighs when a field of the head differs inside of a document
 */
public record Gathering(List<String> by, String document, List<String> head, boolean anywhere, Severity differing) {

    public Gathering {
        by = by == null ? List.of() : List.copyOf(by);
        if (by.isEmpty()) {
            throw new DefinitionException("gather.by", "names at least one field of the key");
        }
        document = document == null || document.isBlank() ? "document" : document.strip();
        if (document.contains(".")) {
            throw new DefinitionException("gather.document", "a name of a record type has no point");
        }
        List<String> all = new ArrayList<>(by);
        if (head != null) {
            head.stream().filter(f -> !all.contains(f)).forEach(all::add);
        }
        head = List.copyOf(all);
        differing = differing == null ? Severity.REJECT : differing;
    }

    private static void requireSortable(Layout file) {
        String why = Formats.of(file)
                .unsortable()
                .orElse(
                        file.fileChecks().stream().anyMatch(FileCheck.Sequence.class::isInstance)
                                ? "a file whose records are checked for their sequence"
                                : null);
        if (why != null) {
            throw new DefinitionException("gather.anywhere", why + " cannot be sorted beforehand");
        }
    }

    /**
     * The layout of the documents: heads, and below them the records without the fields of the head.
     *
     * @throws DefinitionException where the layout of the file has several record types, or lacks a field
     */
    public Layout of(Layout file) {
        if (file.recordTypes().size() != 1) {
            throw new DefinitionException(
                    "gather",
                    "the layout " + file.name() + " has several record types, which make documents by themselves");
        }
        if (anywhere) {
            requireSortable(file);
        }
        RecordType type = file.firstType();
        for (String field : head) {
            if (type.indexOf(field) < 0) {
                throw new DefinitionException("gather.head", "there is no field " + field + " in " + file.name());
            }
        }
        if (type.name().equals(document)) {
            throw new DefinitionException("gather.document", "the lines are named " + document + " already");
        }
        List<Field> ofHead =
                type.fields().stream().filter(f -> head.contains(f.name())).toList();
        List<Field> ofLine =
                type.fields().stream().filter(f -> !head.contains(f.name())).toList();
        if (ofLine.isEmpty()) {
            throw new DefinitionException("gather.head", "no field is left for the lines");
        }
        Recognition by = new Recognition.Gathered();
        return new Layout(
                file.name(),
                file.title(),
                file.format(),
                List.of(
                        new RecordType(document, by, null, null, null, ofHead),
                        new RecordType(type.name(), by, document, null, null, ofLine)));
    }
}
