package ninepin.core.run;

import ninepin.core.document.OpenDocument;

/** What a record comes to as long as its document is not refused. */
public enum Fate {
    /** Rows are made of it, for whichever place of the job. */
    ROWS,
    /** No delivery of the job makes rows of it. */
    WITHOUT_ROWS,
    /** It is set aside on purpose. */
    SET_ASIDE;

    static Fate of(OpenDocument.Entry record) {
        if (record.aside() != null) {
            return SET_ASIDE;
        }
        return record.makesRows() || record.makesRowsElsewhere() ? ROWS : WITHOUT_ROWS;
    }
}
