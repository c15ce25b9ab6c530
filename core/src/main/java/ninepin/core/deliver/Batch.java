package ninepin.core.deliver;

import java.util.Arrays;
import ninepin.core.shape.RowBuffer;

/**
 * Documents on their way to their tables: for each table its rows, and for each document where its rows end. A document
 * is delivered whole or refused whole.
 */
public final class Batch {

    private final RowBuffer[] tables;
    private int[][] ends;
    private long[] numbers = new long[1024];
    private int documents;
    /** The tables of all rows, in the order in which the rows were made. */
    private short[] made = new short[1024];

    private int[] madeEnds = new int[1024];
    private int madeRows;

    /**
     * @param tables the number of tables
     */
    public Batch(int tables) {
        this.tables = new RowBuffer[tables];
        this.ends = new int[tables][1024];
        for (int t = 0; t < tables; t++) {
            this.tables[t] = new RowBuffer();
        }
    }

    public int tables() {
        return tables.length;
    }

    public RowBuffer rows(int table) {
        return tables[table];
    }

    public int documents() {
        return documents;
    }

    /** The first row of a document in a table. */
    public int start(int table, int document) {
        return document == 0 ? 0 : ends[table][document - 1];
    }

    /** The row after a document's last one in a table. */
    public int end(int table, int document) {
        return ends[table][document];
    }

    /** What tells a document of the run from others, however often the run is started: its number. */
    public long number(int document) {
        return numbers[document];
    }

    /** Says that the row written last to a table follows the one made before it. */
    public void made(int table) {
        if (madeRows == made.length) {
            made = Arrays.copyOf(made, madeRows * 2);
        }
        made[madeRows++] = (short) table;
    }

    /** Where the rows of a document start in the order in which rows were made. */
    public int madeStart(int document) {
        return document == 0 ? 0 : madeEnds[document - 1];
    }

    /** Where they end. */
    public int madeEnd(int document) {
        return madeEnds[document];
    }

    /** The table of a row, by its place in the order in which rows were made. */
    public int tableOfMade(int place) {
        return made[place];
    }

    /**
     * Ends the document whose rows were written since the last one.
     *
     * @param number tells it from the other documents of the run
     */
    public void endDocument(long number) {
        if (documents == numbers.length) {
            numbers = Arrays.copyOf(numbers, documents * 2);
            madeEnds = Arrays.copyOf(madeEnds, documents * 2);
            for (int t = 0; t < ends.length; t++) {
                ends[t] = Arrays.copyOf(ends[t], documents * 2);
            }
        }
        numbers[documents] = number;
        madeEnds[documents] = madeRows;
        for (int t = 0; t < tables.length; t++) {
            ends[t][documents] = tables[t].rows();
        }
        documents++;
    }

    /** Forgets the rows that were written since the last document. */
    public void dropOpenDocument() {
        madeRows = documents == 0 ? 0 : madeEnds[documents - 1];
        for (int t = 0; t < tables.length; t++) {
            tables[t].truncate(documents == 0 ? 0 : ends[t][documents - 1]);
        }
    }

    /** The bytes of all rows. */
    public long length() {
        long length = 0;
        for (RowBuffer table : tables) {
            length += table.length();
        }
        return length;
    }

    /** The rows of all tables. */
    public long allRows() {
        long rows = 0;
        for (RowBuffer table : tables) {
            rows += table.rows();
        }
        return rows;
    }

    public void clear() {
        documents = 0;
        madeRows = 0;
        for (RowBuffer table : tables) {
            table.clear();
        }
    }
}
