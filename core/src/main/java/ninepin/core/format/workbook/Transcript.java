package ninepin.core.format.workbook;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import ninepin.core.bytes.ByteSource;
import ninepin.core.layout.CellName;
import ninepin.core.layout.CellName.Area;
import ninepin.core.record.Fault;

/**
 * What a transcript says of its workbook beside the rows. A transcript is text in UTF-8: a head line, a line for each row that has
 * anything in it, {@code "sheet",row,flags,cells} as {@link CellText} has them, then lines that begin with {@code @} and say what there
 * is, and a last one that says where those begin. A file of single rows has these lines in front.
 *
 * @param sheets the sheets in their order
 * @param ranges ranges and tables that have names
 * @param fault what kept the workbook from being read on, or null
 * @param head where the first row begins
 * @param parts whether the rows are single ones, taken out of their workbook
 */
record Transcript(List<Sheet> sheets, List<Range> ranges, Broken fault, long head, boolean parts) {

    static final String FIRST_LINE = "@workbook 1";
    static final String FIRST_LINE_OF_PARTS = "@rows of workbook 1";
    static final String SHEET = "@sheet ";
    static final String RANGE = "@range ";
    static final String FAULT = "@fault ";
    static final String END = "@end ";
    /** The flag of a hidden row. */
    static final String HIDDEN = "hidden";
    /** The flag of a row that stands in front of single ones because it names the columns. */
    static final String HEADER = "header";

    private static final int LAST_LINE = 64;
    private static final int MOST_INDEX = 64 << 20;

    /**
     * A sheet.
     *
     * @param state {@code visible}, {@code hidden} or {@code veryHidden}
     * @param offset where its first row begins in the transcript
     * @param line the line of that
     * @param lastRow the number of its last row with anything in it; 0 where there is none
     * @param hiddenRows how many rows are hidden
     * @param hiddenColumns the letters of hidden columns, or empty
     */
    record Sheet(String name, String state, long offset, long line, int lastRow, int hiddenRows, String hiddenColumns) {

        boolean visible() {
            return state.equals("visible");
        }

        String asLine() {
            RowBytes out = new RowBytes();
            out.addAscii(SHEET);
            out.add(CellText.quoted(name));
            out.addAscii(
                    "," + state + "," + offset + "," + line + "," + lastRow + "," + hiddenRows + "," + hiddenColumns);
            return out.toString();
        }

        static Sheet of(List<String> parts) {
            return new Sheet(
                    parts.get(0),
                    parts.get(1),
                    Long.parseLong(parts.get(2)),
                    Long.parseLong(parts.get(3)),
                    Integer.parseInt(parts.get(4)),
                    Integer.parseInt(parts.get(5)),
                    parts.get(6));
        }
    }

    /**
     * Cells that have a name.
     *
     * @param table whether they are a table, which says how many of its rows are a header and totals
     * @param headers the rows of names at its start
     * @param totals the rows of totals at its end
     */
    record Range(String name, String sheet, Area area, boolean table, int headers, int totals) {

        String asLine() {
            RowBytes out = new RowBytes();
            out.addAscii(RANGE);
            out.add(CellText.quoted(name));
            out.add(CellText.SEPARATOR);
            out.add(CellText.quoted(sheet));
            out.addAscii("," + CellName.letters(area.firstColumn()) + area.firstRow() + ":"
                    + CellName.letters(area.lastColumn()) + area.lastRow());
            out.addAscii("," + (table ? "table" : "range") + "," + headers + "," + totals);
            return out.toString();
        }

        static Range of(List<String> parts) {
            return new Range(
                    parts.get(0),
                    parts.get(1),
                    CellName.area(parts.get(2)),
                    parts.get(3).equals("table"),
                    Integer.parseInt(parts.get(4)),
                    Integer.parseInt(parts.get(5)));
        }
    }

    /** What kept a workbook from being read on. */
    record Broken(String code, String found, String expected, String advice) {

        String asLine() {
            RowBytes out = new RowBytes();
            out.addAscii(FAULT + code);
            for (String part : List.of(found, expected, advice)) {
                out.add(CellText.SEPARATOR);
                out.add(CellText.quoted(part));
            }
            return out.toString();
        }

        static Broken of(List<String> parts) {
            return new Broken(parts.get(0), parts.get(1), parts.get(2), parts.get(3));
        }

        /** In a sentence. */
        String words() {
            return "found " + found + ", expected " + expected + ". " + advice;
        }

        Fault asFault() {
            return new Fault(code, -1, 0, 0, found, expected, advice);
        }
    }

    /** Whether a file that begins with some bytes is a transcript. */
    static boolean isOne(byte[] first) {
        String line = new String(first, StandardCharsets.UTF_8);
        return line.startsWith(FIRST_LINE + "\n") || line.startsWith(FIRST_LINE_OF_PARTS + "\n");
    }

    /** Reads what a transcript says of its workbook; empty where the file is none. */
    static Optional<Transcript> read(ByteSource source) throws IOException {
        String first = new String(source.slice(0, FIRST_LINE_OF_PARTS.length() + 1), StandardCharsets.UTF_8);
        try {
            if (first.startsWith(FIRST_LINE_OF_PARTS + "\n")) {
                return Optional.of(ofParts(source));
            }
            return first.startsWith(FIRST_LINE + "\n") ? whole(source) : Optional.empty();
        } catch (IllegalArgumentException | IndexOutOfBoundsException | NullPointerException e) {
            return Optional.empty();
        }
    }

    private static Optional<Transcript> whole(ByteSource source) throws IOException {
        int last = (int) Math.min(LAST_LINE, source.size());
        String end = new String(source.slice(source.size() - last, last), StandardCharsets.UTF_8);
        int at = end.lastIndexOf(END);
        if (at < 0 || !end.endsWith("\n")) {
            return Optional.empty();
        }
        long index = Long.parseLong(end.substring(at + END.length()).strip());
        long length = source.size() - index;
        if (length > MOST_INDEX) {
            return Optional.empty();
        }
        return Optional.of(of(new TranscriptLines(source, index), FIRST_LINE.length() + 1, false));
    }

    private static Transcript ofParts(ByteSource source) throws IOException {
        return of(
                new TranscriptLines(source, FIRST_LINE_OF_PARTS.length() + 1L), FIRST_LINE_OF_PARTS.length() + 1, true);
    }

    private static Transcript of(TranscriptLines lines, long head, boolean parts) throws IOException {
        List<Sheet> sheets = new ArrayList<>();
        List<Range> ranges = new ArrayList<>();
        Broken fault = null;
        long body = head;
        while (lines.next() && lines.startsWith("@")) {
            String kind = lines.startsWith(SHEET) ? SHEET : lines.startsWith(RANGE) ? RANGE : FAULT;
            if (lines.startsWith(END)) {
                break;
            }
            List<String> texts = CellScanner.texts(lines.bytes(), lines.start() + kind.length(), lines.end());
            if (kind.equals(SHEET)) {
                sheets.add(Sheet.of(texts));
            } else if (kind.equals(RANGE)) {
                ranges.add(Range.of(texts));
            } else if (lines.startsWith(FAULT)) {
                fault = Broken.of(texts);
            }
            body = parts ? lines.offsetBehind() : head;
        }
        return new Transcript(List.copyOf(sheets), List.copyOf(ranges), fault, body, parts);
    }
}
