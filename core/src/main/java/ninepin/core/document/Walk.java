package ninepin.core.document;

import java.util.function.Consumer;
import ninepin.core.document.OpenDocument.Entry;
import ninepin.core.formula.RecordContext;

/** Goes through the records of a document, standing at each. */
final class Walk {

    private final RecordContext at;
    private final boolean several;
    /** The record of the values that is stood at. */
    private int current;

    /**
     * @param several whether documents have several records
     */
    Walk(RecordContext at, boolean several) {
        this.at = at;
        this.several = several;
    }

    RecordContext at() {
        return at;
    }

    /** Stands at each good record of a type that is not set aside. */
    void each(OpenDocument document, int type, Consumer<Entry> doing) {
        if (!several) {
            Entry entry = document.get(0);
            if (entry.type() == type && !entry.refused() && entry.aside() == null) {
                doing.accept(entry);
            }
            return;
        }
        for (int i = 0; i < document.values().size(); i++) {
            at.standAt(i);
            Entry entry = document.entryOfValues(i);
            if (document.values().type(i) == type && !entry.refused() && entry.aside() == null) {
                current = i;
                doing.accept(entry);
            }
        }
    }

    /** Sets the record that is stood at aside, and those that belong to it. */
    void setAside(OpenDocument document, String why) {
        if (!several || current == 0) {
            document.setAside(why);
            return;
        }
        int end = document.values().endOf(current);
        for (int i = current; i < end; i++) {
            document.entryOfValues(i).setAside(why);
            document.values().leaveOut(i);
        }
    }

    void standAtHead() {
        if (several) {
            at.standAt(0);
        }
    }
}
