package ninepin.core.format.workbook;

import java.util.ArrayList;
import java.util.List;

/** Goes over the cells of a line of a transcript. Used again for each line. */
final class CellScanner {

    private byte[] line;
    private int at;
    private int limit;
    private boolean more;

    /** The cell that was come upon. */
    Cell cell = new Cell();

    /** The column that it stands in, from 0. */
    int column;

    /**
     * Begins a line behind its sheet, number and flags.
     *
     * @param start where the first cell starts
     * @param end where the line ends
     */
    void begin(byte[] bytes, int start, int end) {
        line = bytes;
        at = start;
        limit = end;
        column = -1;
        more = start <= end;
    }

    /** Goes to the next cell; false behind the last one. */
    boolean next() {
        return next(cell);
    }

    /** Goes to the next cell, which another takes; false behind the last one. */
    boolean next(Cell into) {
        if (!more) {
            return false;
        }
        column++;
        read(into);
        if (!into.text && into.to > into.from && line[into.from] == CellText.JUMP) {
            int jump = column(into.from + 1, into.to);
            if (jump > column && more) {
                column = jump - 1;
                read(into);
            }
        }
        return true;
    }

    private void read(Cell c) {
        c.none(at);
        c.covered = at < limit && line[at] == CellText.COVERED;
        int from = c.covered ? at + 1 : at;
        int i = from;
        if (i < limit && line[i] == CellText.QUOTE) {
            i = readText(c, from + 1);
        } else {
            c.from = from;
            while (i < limit && line[i] != CellText.SEPARATOR) {
                if (line[i] == CellText.SHOWN_AS) {
                    c.shownFrom = i + 1;
                }
                i++;
            }
            c.to = i;
            if (c.shownFrom > 0 && line[i - 1] == CellText.SHOWN_AS_END) {
                c.shownTo = i - 1;
                c.to = c.shownFrom - 1;
            } else {
                c.shownFrom = 0;
            }
        }
        more = i < limit;
        at = i + 1;
    }

    /** Reads a text to its closing quote; where what stands behind it ends. */
    private int readText(Cell c, int from) {
        int i = from;
        while (i < limit && line[i] != CellText.QUOTE) {
            if (line[i] == CellText.ESCAPE) {
                c.escaped = true;
                i++;
            }
            i++;
        }
        c.text = true;
        c.from = from;
        c.to = Math.min(i, limit);
        i++;
        c.broken = i > limit || i < limit && line[i] != CellText.SEPARATOR;
        while (i < limit && line[i] != CellText.SEPARATOR) {
            i++;
        }
        return Math.min(i, limit);
    }

    /** The number of a column by its letters, from 1; 0 where they are none. */
    private int column(int lettersFrom, int lettersTo) {
        if (lettersTo - lettersFrom > 3) {
            return 0;
        }
        int number = 0;
        for (int i = lettersFrom; i < lettersTo; i++) {
            if (line[i] < 'A' || line[i] > 'Z') {
                return 0;
            }
            number = number * 26 + line[i] - 'A' + 1;
        }
        return number;
    }

    /** The texts of the cells of a line. */
    static List<String> texts(byte[] bytes, int start, int end) {
        CellScanner scanner = new CellScanner();
        scanner.begin(bytes, start, end);
        List<String> texts = new ArrayList<>();
        while (scanner.next()) {
            texts.add(scanner.cell.value(bytes));
        }
        return texts;
    }
}
