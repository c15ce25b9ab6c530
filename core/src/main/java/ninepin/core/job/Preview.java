package ninepin.core.job;

import java.util.List;
import ninepin.core.check.Finding;

/**
 * What the sheet does to a sample: the file's lines, the records read from them and the rows they become, with enough
 * places to light up one value in all three.
 *
 * @param size the bytes of the sample
 * @param columns the names in the header row
 * @param opening what keeps the sample from being read, or null
 * @param lines the lines before the first record of this part, such as header and skipped lines
 * @param records the records (and blank rows) of this part, in order
 * @param targets the target fields of a row
 * @param rows the rows of this part
 * @param findings the findings of the whole sample, the first of them
 * @param summary the counts over the whole sample
 */
public record Preview(
        long size,
        List<String> columns,
        Remark opening,
        List<Line> lines,
        List<Item> records,
        List<String> targets,
        List<Row> rows,
        List<Remark> findings,
        Summary summary) {

    /**
     * A finding as the bench shows it.
     *
     * @param columnFrom the first character on the line, from 1; 0 when it concerns the whole record
     * @param message where, what was found, what was expected and what to do
     */
    public record Remark(
            String severity,
            String code,
            long line,
            long record,
            String field,
            int columnFrom,
            int columnTo,
            long offset,
            int length,
            String message) {

        static Remark of(Finding f) {
            return new Remark(
                    f.severity().toString(),
                    f.code(),
                    f.line(),
                    f.record(),
                    f.field(),
                    f.columnFrom(),
                    f.columnTo(),
                    f.offset(),
                    f.length(),
                    f.message());
        }
    }

    /** What stands on a line before the records. */
    public enum LineKind {
        SKIPPED,
        HEADER;

        @Override
        public String toString() {
            return name().toLowerCase();
        }
    }

    /**
     * A line that is no record.
     *
     * @param kind what it is
     * @param line its number, from 1
     * @param offset the byte where it starts
     * @param text its text
     * @param cells the columns of a header row
     */
    public record Line(LineKind kind, long line, long offset, String text, List<Span> cells) {}

    /**
     * A place in a text.
     *
     * @param field the index of the field of the layout, or -1 for a column that no field describes
     * @param from the first character, from 0
     * @param to the character after the last one
     */
    public record Span(int field, int from, int to) {}

    /**
     * A record, or a blank row.
     *
     * @param number its number, 0 for a blank row
     * @param line the line it starts on
     * @param offset the byte where it starts
     * @param length its bytes
     * @param text its text
     * @param cells where its columns stand in the text, quotes left out
     * @param values the typed values by field, in ISO form; null for NULL
     * @param fate what becomes of it: {@code row}, {@code note}, {@code reject}, {@code halt} or {@code blank}
     * @param findings its findings
     */
    public record Item(
            long number,
            long line,
            long offset,
            long length,
            String text,
            List<Span> cells,
            List<String> values,
            String fate,
            List<Remark> findings) {}

    /**
     * A row as it would be delivered.
     *
     * @param record the number of the record it comes from
     * @param values its values by target field; null for NULL
     */
    public record Row(long record, List<String> values) {}

    /**
     * Counts over the whole sample.
     *
     * @param read records read
     * @param rows rows that would be delivered
     * @param rejected records that would be refused
     * @param halted whether a finding stops the file
     * @param blank blank rows
     * @param notes findings that are only noted
     * @param cut whether the sample was too long to be looked at whole
     */
    public record Summary(long read, long rows, long rejected, boolean halted, long blank, long notes, boolean cut) {}
}
