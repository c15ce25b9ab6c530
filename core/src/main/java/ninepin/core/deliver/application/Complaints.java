package ninepin.core.deliver.application;

import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import ninepin.core.deliver.Batch;
import ninepin.core.deliver.Refusal;
import ninepin.core.deliver.application.ApplicationTarget.Load;
import ninepin.core.deliver.application.Operation.Input;

/** Finds the row and the target field that an application's complaint is about. */
final class Complaints {

    /** {@code lines[2].article}, {@code /lines/2/article} and {@code $.lines[2].article} mean the same. */
    private static final Pattern IN_LIST = Pattern.compile("([A-Za-z_][\\w.-]*?)[.\\[/](\\d{1,9})\\]?[./](.+)");

    private final String application;
    private final List<Load> loads;
    private final List<List<Input>> inputs;

    Complaints(String application, List<Load> loads, List<List<Input>> inputs) {
        this.application = application;
        this.loads = loads;
        this.inputs = inputs;
    }

    /** The refusal of a document: the place of the first complaint that has one, and the words of all. */
    Refusal refusal(Answer answer, Batch batch, int document) {
        List<String> words = new ArrayList<>();
        int[] place = null;
        for (Answer.Complaint complaint : answer.complaints()) {
            words.add((complaint.field() == null ? "" : complaint.field() + ": ") + complaint.words());
            if (place == null && complaint.field() != null) {
                place = place(complaint.field(), batch, document);
            }
        }
        int table = place == null ? firstWithRows(batch, document) : place[0];
        int row = place == null ? batch.start(table, document) : place[1];
        String column = place == null || place[2] < 0
                ? null
                : loads.get(table).columns().get(place[2]);
        String said = application + " says: " + String.join("; ", words);
        return new Refusal(document, table, row, column, "APP-01", said);
    }

    /** The table, the row and the index of the column, which is negative where the row is all that is known; or null. */
    private int[] place(String field, Batch batch, int document) {
        String path = field.replaceFirst("^[$/.#]+", "").replaceFirst("^(\\[0\\]|0(?=[./]))[./]?", "");
        Matcher list = IN_LIST.matcher(path);
        for (int t = 0; t < loads.size(); t++) {
            String part = loads.get(t).delivery().part();
            if (part != null && list.matches() && part.equals(list.group(1))) {
                int row = batch.start(t, document) + Integer.parseInt(list.group(2));
                return row < batch.end(t, document) ? new int[] {t, row, column(t, list.group(3))} : null;
            }
            int column = part == null ? column(t, path) : -1;
            if (column >= 0 && batch.start(t, document) < batch.end(t, document)) {
                return new int[] {t, batch.start(t, document), column};
            }
        }
        return null;
    }

    private int column(int table, String name) {
        String dotted = name.replace('/', '.');
        for (int c = 0; c < inputs.get(table).size(); c++) {
            if (inputs.get(table).get(c).name().equals(dotted)) {
                return c;
            }
        }
        return -1;
    }

    private static int firstWithRows(Batch batch, int document) {
        int table = 0;
        while (batch.start(table, document) == batch.end(table, document)) {
            table++;
        }
        return table;
    }
}
