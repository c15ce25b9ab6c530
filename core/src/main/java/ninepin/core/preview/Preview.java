package ninepin.core.preview;

import java.util.List;
import ninepin.core.check.Finding;
import ninepin.core.deliver.Shares;

/**
 * What the sheet does to a sample: the file's lines, the records read from them and the rows they become, with enough
 * places to light up one value in all three.
 *
 * @param size the bytes of the sample
 * @param columns the names in the header row
 * @param opening what keeps the sample from being read, or null
 * @param lines the lines before the first record of this part, such as header and skipped lines
 * @param records the records (and blank rows) of this part, in order
 * @param types the record types of the layout with what was seen of each
 * @param deliveries the deliveries, with the target fields of their rows
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
        List<TypeCount> types,
        List<Made> deliveries,
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
                    f.at().columnFrom(),
                    f.at().columnTo(),
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
     * A record type.
     *
     * @param name its name
     * @param fields the names of its fields
     * @param records how many records of it there are in the sample
     * @param filled for each field how many of them have a value in it, be it a wrong one
     */
    public record TypeCount(String name, List<String> fields, long records, List<Long> filled) {}

    /**
     * A delivery.
     *
     * @param of the name of its record type
     * @param lane the name of its lane, or null
     * @param table where its rows go, or null while that is not decided
     * @param targets the target fields of its rows
     * @param rows how many rows it makes of the sample
     */
    public record Made(String of, String lane, String table, List<String> targets, long rows) {}

    /**
     * A place in a text.
     *
     * @param record the number of the record it belongs to
     * @param field the index of the field of the layout, or -1 for a column that no field describes
     * @param from the first character, from 0
     * @param to the character after the last one
     */
    public record Span(long record, int field, int from, int to) {}

    /**
     * A record, or a blank row.
     *
     * @param number its number, 0 for a blank row
     * @param type the index of its record type, -1 when it has none
     * @param inside whether its text stands inside that of the record before it
     * @param document the number of its document, from 1; 0 for a blank row
     * @param line the line it starts on
     * @param offset the byte where it starts
     * @param length its bytes
     * @param text its text
     * @param cells where its columns stand in the text, quotes left out
     * @param values the typed values by field, in ISO form; null for NULL
     * @param fate what becomes of it: {@code row}, {@code note}, {@code reject}, {@code halt}, {@code aside} or
     *     {@code blank}
     * @param aside why it is set aside, or null
     * @param findings its findings
     */
    public record Item(
            long number,
            int type,
            boolean inside,
            long document,
            long line,
            long offset,
            long length,
            String text,
            List<Span> cells,
            List<String> values,
            String fate,
            String aside,
            List<Remark> findings) {}

    /**
     * A row as it would be delivered.
     *
     * @param delivery the index of the delivery
     * @param record the number of the record it comes from
     * @param values its values by target field; null for NULL
     */
    public record Row(int delivery, long record, List<String> values) {}

    /**
     * Counts over the whole sample.
     *
     * @param read records read
     * @param documents the documents they form
     * @param rows records whose rows would be delivered
     * @param rejected records that would be refused
     * @param setAside records that would be set aside
     * @param halted whether a finding stops the file
     * @param blank blank rows
     * @param notes findings that are only noted
     * @param withoutRows records that no delivery makes rows of
     * @param shares what lanes and reasons have of them
     * @param cut whether the sample was too long to be looked at whole
     */
    public record Summary(
            long read,
            long documents,
            long rows,
            long rejected,
            long setAside,
            boolean halted,
            long blank,
            long notes,
            long withoutRows,
            Shares shares,
            boolean cut) {}
}
