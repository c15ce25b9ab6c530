package ninepin.core.format.workbook;

import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import ninepin.core.layout.CellName;
import ninepin.core.record.Fault;
import ninepin.core.record.Locator;
import ninepin.core.record.RecordBuffer;

/** A row of a sheet. Its slices are those of the fields of its record type. */
final class WorkbookRecord extends RecordBuffer {

    /** How the workbook itself is called as a place. */
    static final String WORKBOOK = "the workbook";

    private static final int[] NONE = {};

    private String sheet;
    private int row;
    private int[] columns = NONE;
    private List<Fault> breaches;
    private List<Fault> notes;

    /** Makes ready for the cells of a row. */
    void beginRow(String ofSheet, int number) {
        sheet = ofSheet;
        row = number;
        columns = NONE;
        breaches = null;
        notes = null;
    }

    /** Says in which columns its slices are, from 1. */
    void standIn(int[] newColumns) {
        columns = newColumns;
    }

    /** An empty cell is there. */
    @Override
    public boolean isMissing(int field) {
        return false;
    }

    void breach(Fault fault) {
        breaches = breaches == null ? new ArrayList<>() : breaches;
        breaches.add(fault);
    }

    void note(Fault fault) {
        notes = notes == null ? new ArrayList<>() : notes;
        notes.add(fault);
    }

    @Override
    public List<Fault> breaches() {
        return breaches == null ? List.of() : breaches;
    }

    @Override
    public List<Fault> notes() {
        return notes == null ? List.of() : notes;
    }

    @Override
    public Locator ownLocator() {
        return Locator.path(line, sheet == null ? WORKBOOK : "sheet " + sheet + ", row " + row);
    }

    @Override
    public Locator locator(int partFrom, int partTo, Charset charset, boolean breaksLines) {
        for (int f = 0; f < columns.length && f < fieldCount; f++) {
            if (columns[f] > 0 && from[f] == partFrom && to[f] == partTo && (partFrom < length || partTo > partFrom)) {
                return cell(columns[f]);
            }
        }
        return locator();
    }

    /** Where a cell of the row is. */
    private Locator cell(int column) {
        return Locator.path(line, "sheet " + sheet + ", cell " + CellName.letters(column) + row);
    }

    @Override
    public String text(int field, Charset charset, char quote) {
        return quoted(field)
                ? CellText.text(buffer, start + from[field], start + to[field])
                : new String(buffer, start + from[field], to[field] - from[field], StandardCharsets.UTF_8);
    }
}
