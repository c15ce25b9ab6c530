package ninepin.core.format.workbook;

import java.nio.charset.StandardCharsets;

/** Where a cell stands in a line of a transcript, and what it is. Used again for the next one. */
final class Cell {

    /** Where it starts, without a quote and without the mark of a merged one. */
    int from;

    /** Where it ends, without a quote and without the way it is shown. */
    int to;

    /** Where the way it is shown starts, between its braces; the same as {@link #shownTo} where there is none. */
    int shownFrom;

    int shownTo;

    /** Whether it is a text. */
    boolean text;

    /** Whether it is covered by another one that it is merged with. */
    boolean covered;

    /** Whether a backslash stands in the text. */
    boolean escaped;

    /** Whether the quotes of the text do not close, or something stands behind them. */
    boolean broken;

    /** Makes it an empty cell at a place. */
    void none(int at) {
        from = at;
        to = at;
        text = false;
        covered = false;
        escaped = false;
        broken = false;
        shownFrom = 0;
        shownTo = 0;
    }

    /** Whether nothing stands in it; a text without characters is something. */
    boolean isEmpty() {
        return from == to && !text;
    }

    /** What stands in it. */
    String value(byte[] line) {
        return text && escaped
                ? CellText.text(line, from, to)
                : new String(line, from, to - from, StandardCharsets.UTF_8);
    }
}
