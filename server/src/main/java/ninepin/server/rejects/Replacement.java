package ninepin.server.rejects;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import ninepin.core.format.Formats;
import ninepin.core.preview.Preview;
import ninepin.core.record.RejectForm;
import ninepin.server.api.Problems;
import ninepin.server.rejects.RejectDesk.WantedChange;
import ninepin.server.rejects.RejectMapper.RejectRow;

/**
 * Replaces a text in a field of many records, so that what comes out still is what the layout can read: quoted where a
 * delimiter came in, filled to its width in fixed positions, escaped in elements.
 */
final class Replacement {

    private record Edit(int from, int to, String text) {}

    private final RefusedDocuments documents;
    private final WantedChange wanted;
    private final RejectForm form;
    /** For each record what is changed in its text. */
    private final List<List<Edit>> edits = new ArrayList<>();

    /**
     * @param preview the records as their layout reads them
     * @param chosen the records that were chosen, by run; others of their documents stay as they are
     */
    Replacement(RefusedDocuments documents, Preview preview, WantedChange wanted, Map<Long, List<Long>> chosen) {
        this.documents = documents;
        this.wanted = wanted;
        this.form = Formats.of(documents.layout()).rejects();
        documents.records().forEach(r -> edits.add(new ArrayList<>()));
        int at = 0;
        for (Preview.Item item : preview.records()) {
            if (item.number() > 0 && at < documents.records().size()) {
                RejectRow row = documents.records().get(at);
                if (chosen.getOrDefault(row.runId(), List.of()).contains(row.record())) {
                    take(at, item, preview);
                }
                at++;
            }
        }
    }

    private void take(int record, Preview.Item item, Preview preview) {
        if (wanted.field() == null || wanted.field().isBlank()) {
            if (documents.carrier(record) == record) {
                add(record, 0, item.text().length(), item.text(), false);
            }
            return;
        }
        if (item.type() < 0) {
            return;
        }
        List<String> fields = preview.types().get(item.type()).fields();
        for (Preview.Span cell : item.cells()) {
            boolean own = cell.record() == item.number() && cell.field() >= 0;
            if (own && fields.get(cell.field()).equals(wanted.field())) {
                int shift = shift(record, item);
                add(
                        documents.carrier(record),
                        cell.from() + shift,
                        cell.to() + shift,
                        item.text().substring(cell.from(), cell.to()),
                        true);
            }
        }
    }

    /** Where the text of a record begins in that of the record it stands in. */
    private int shift(int record, Preview.Item item) {
        int carrier = documents.carrier(record);
        return carrier == record ? 0 : Math.max(0, documents.now(carrier).indexOf(item.text()));
    }

    private void add(int carrier, int from, int to, String before, boolean isField) {
        String find = wanted.find() == null ? "" : wanted.find();
        String replace = wanted.replace() == null ? "" : wanted.replace();
        String after = find.isEmpty() ? replace : before.replace(find, replace);
        if (find.isEmpty() && !isField) {
            throw Problems.unprocessable("Say what is to be replaced in the record, or choose a field.");
        }
        if (!after.equals(before)) {
            edits.get(carrier).add(new Edit(from, to, isField ? fitted(before, after) : after));
        }
    }

    private String fitted(String before, String after) {
        try {
            return form.fitted(before, after);
        } catch (RejectForm.DoesNotFit e) {
            throw Problems.unprocessable("\"" + after.stripTrailing() + "\" does not fit: " + wanted.field() + " has "
                    + e.width() + " characters.");
        }
    }

    /** The text of a record afterwards. */
    String of(int record) {
        String text = documents.now(record);
        List<Edit> own = new ArrayList<>(edits.get(record));
        own.sort(Comparator.comparingInt(Edit::from).reversed());
        StringBuilder out = new StringBuilder(text);
        for (Edit edit : own) {
            out.replace(edit.from(), edit.to(), placed(text, edit));
        }
        return out.toString();
    }

    private String placed(String text, Edit edit) {
        return wanted.field() == null ? edit.text() : form.placed(text, edit.from(), edit.text());
    }

    /** The change in words, for the record of who did what. */
    String words() {
        String where = wanted.field() == null || wanted.field().isBlank() ? "the record" : wanted.field();
        String words = wanted.find() == null || wanted.find().isEmpty()
                ? "in " + where + ": \"" + wanted.replace() + "\""
                : "in " + where + ": \"" + wanted.find() + "\" became \"" + wanted.replace() + "\"";
        return words.length() <= 480 ? words : words.substring(0, 480) + "…";
    }
}
