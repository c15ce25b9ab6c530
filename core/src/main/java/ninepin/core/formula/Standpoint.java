package ninepin.core.formula;

import java.util.Arrays;
import ninepin.core.read.Value;

/**
 * Where a formula stands: at a record, with the records it belongs to and, in a document that is there as a whole, all
 * others of it.
 */
public final class Standpoint {

    private final Value[][] outside;
    private final Value[][] latest;
    private final DocumentValues document;
    /** For each record type the record of the document that is looked at. */
    private final int[] at;

    private final Value[][] savedLatest;
    private final int[] savedAt;

    /**
     * @param latest the typed values of each record type's latest record
     */
    public Standpoint(Value[][] latest) {
        this(latest, null);
    }

    /**
     * @param outside the typed values of each record type's latest record
     * @param document the records of the document, or null where it is not there as a whole
     */
    public Standpoint(Value[][] outside, DocumentValues document) {
        this.outside = outside;
        this.latest = outside.clone();
        this.document = document;
        this.at = new int[latest.length];
        this.savedLatest = new Value[latest.length][];
        this.savedAt = new int[latest.length];
    }

    /** Stands at a record of the document. Records are to be gone through in order, so that those around it are right. */
    public void standAt(int record) {
        int type = document.type(record);
        latest[type] = document.values(record);
        at[type] = record;
    }

    /** Leaves the document: what is looked at are the latest records again. */
    public void leave() {
        System.arraycopy(outside, 0, latest, 0, latest.length);
    }

    /** The value of a field of the latest record of a type. */
    public Value value(int type, int field) {
        return latest[type][field];
    }

    /** The values of the latest record of a type. */
    public Value[] values(int type) {
        return latest[type];
    }

    DocumentValues document() {
        return document;
    }

    /** The record of the document that is looked at for a type. */
    int recordOf(int type) {
        return at[type];
    }

    void save() {
        System.arraycopy(latest, 0, savedLatest, 0, latest.length);
        System.arraycopy(at, 0, savedAt, 0, at.length);
    }

    void restore() {
        System.arraycopy(savedLatest, 0, latest, 0, latest.length);
        System.arraycopy(savedAt, 0, at, 0, at.length);
        Arrays.fill(savedLatest, null);
    }
}
