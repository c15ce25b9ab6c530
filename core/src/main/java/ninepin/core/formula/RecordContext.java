package ninepin.core.formula;

import java.util.Arrays;
import java.util.List;
import ninepin.core.value.Value;

/**
 * What a formula is evaluated in: a record, with the records it belongs to and, in a document that is there as a whole, all
 * others of it.
 */
public final class RecordContext {

    private final Value[][] outside;
    private final Value[][] latest;
    private final DocumentValues document;
    /** For each record type the record of the document that is looked at. */
    private final int[] at;

    private final Value[][] savedLatest;
    private final int[] savedAt;
    private LookedUp[] lookUps = {};

    /**
     * @param latest the typed values of each record type's latest record
     */
    public RecordContext(Value[][] latest) {
        this(latest, null);
    }

    /**
     * @param outside the typed values of each record type's latest record
     * @param document the records of the document, or null where it is not there as a whole
     */
    public RecordContext(Value[][] outside, DocumentValues document) {
        this.outside = outside;
        this.latest = outside.clone();
        this.document = document;
        this.at = new int[latest.length];
        this.savedLatest = new Value[latest.length][];
        this.savedAt = new int[latest.length];
    }

    /** What look-ups find can be named too, as if each were one more record type. */
    public void lookUp(List<LookedUp> all) {
        lookUps = all.toArray(LookedUp[]::new);
    }

    /** The look-ups. */
    public List<LookedUp> lookUps() {
        return List.of(lookUps);
    }

    /** What a look-up does not find for the record that is looked at, in words; null where it is there. */
    public String missing(LookedUp lookUp) {
        return lookUp.isMissing(this) ? lookUp.missingShown(this) : null;
    }

    /** The records that are looked at have changed. */
    public void moved() {
        for (LookedUp l : lookUps) {
            l.forget();
        }
    }

    /** Stands at a record of the document. Records are to be gone through in order, so that those around it are right. */
    public void standAt(int record) {
        int type = document.type(record);
        latest[type] = document.values(record);
        at[type] = record;
        for (LookedUp l : lookUps) {
            l.left(type);
        }
    }

    /** Leaves the document: what is looked at are the latest records again. */
    public void leave() {
        System.arraycopy(outside, 0, latest, 0, latest.length);
        moved();
    }

    /** The value of a field of the latest record of a type. */
    public Value value(int type, int field) {
        return type < latest.length
                ? latest[type][field]
                : lookUps[type - latest.length].values(this)[field];
    }

    /** The values of the latest record of a type; null where there is none. */
    public Value[] values(int type) {
        if (type < latest.length) {
            return latest[type];
        }
        try {
            return lookUps[type - latest.length].values(this);
        } catch (EvaluationException e) {
            return null;
        }
    }

    /** A value as text; null for NULL and where there is none. */
    public String text(FormulaScope.Place place) {
        Value[] values = values(place.recordType());
        return values == null
                ? null
                : values[place.field()].text(place.charset().charset());
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
        moved();
    }
}
