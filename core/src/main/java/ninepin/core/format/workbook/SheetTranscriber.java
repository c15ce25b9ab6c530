package ninepin.core.format.workbook;

import java.io.IOException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import ninepin.core.format.workbook.CellFormats.CellFormat;
import ninepin.core.format.workbook.CellFormats.Meaning;
import ninepin.core.layout.CellName;
import ninepin.core.layout.CellName.Area;

/** Writes the rows of a sheet to a transcript. Used again for the next sheet. */
final class SheetTranscriber {

    private static final int MOST_MERGED = 100_000;
    private static final int MOST_HIDDEN = 1_000;
    /** A longer row of empty cells is passed over by a jump. */
    static final int MOST_EMPTY = 8;
    /** Wider rows are not what others are filled up to. */
    private static final int MOST_FILLED = 64;
    /** So many cells may have the value of another that they are merged with. */
    private static final long MOST_COVERED = 5_000_000;
    /** A number of so few characters is a decimal that a binary fraction keeps. */
    private static final int KEPT_CHARACTERS = 16;

    private final TranscriptOutput out;
    private final CellFormats formats;
    private final SharedTexts texts;
    private final boolean from1904;

    private final CharBuffer value = new CharBuffer();
    private final RowBytes cells = new RowBytes();
    private int[] columns = new int[64];
    private int[] ends = new int[64];
    private int count;

    private final RowBytes head = new RowBytes();
    private byte[] prefix;
    /** The widest row so far; shorter ones are filled up to it, so that each empty cell has a place of its own. */
    private int width;

    private List<Area> sideBySide = List.of();
    private long covered;
    private int row;
    private boolean hidden;
    private int lastRow;
    private int hiddenRows;
    private List<String> hiddenColumns = new ArrayList<>();
    private List<Area> merged = new ArrayList<>();
    /** Cells that are merged, as an earlier pass has found them, in the order of their rows. */
    private List<Area> covering = List.of();

    private int nextCovering;
    private List<Cover> covers = new ArrayList<>();

    /** Merged cells that reach the row, and what stands in the first of them. */
    private record Cover(Area area, byte[] value) {}

    SheetTranscriber(TranscriptOutput out, CellFormats formats, SharedTexts texts, boolean from1904) {
        this.out = out;
        this.formats = formats;
        this.texts = texts;
        this.from1904 = from1904;
    }

    /**
     * Makes ready for a sheet.
     *
     * @param cellsMerged the cells that are merged, as far as they are known
     * @param cellsSideBySide cells that get lines of their own where they stand beside others
     */
    void begin(String name, List<Area> cellsMerged, List<Area> cellsSideBySide) {
        sideBySide = cellsSideBySide;
        width = 0;
        covered = 0;
        RowBytes start = new RowBytes();
        start.add(CellText.quoted(name));
        start.add(CellText.SEPARATOR);
        prefix = Arrays.copyOf(start.bytes, start.length);
        covering = cellsMerged.stream()
                .sorted(Comparator.comparingInt(Area::firstRow).thenComparingInt(Area::firstColumn))
                .toList();
        nextCovering = 0;
        covers = new ArrayList<>();
        merged = new ArrayList<>();
        hiddenColumns = new ArrayList<>();
        row = 0;
        lastRow = 0;
        hiddenRows = 0;
    }

    /** The cells that are merged. */
    List<Area> merged() {
        return merged;
    }

    int lastRow() {
        return lastRow;
    }

    int hiddenRows() {
        return hiddenRows;
    }

    /** The letters of hidden columns, such as {@code C D:F}. */
    String hiddenColumns() {
        return String.join(" ", hiddenColumns);
    }

    /** Reads the part of a sheet to its end. */
    void read(XmlPart xml) throws IOException, XMLStreamException {
        for (int event = xml.next(); event != XMLStreamConstants.END_DOCUMENT; event = xml.next()) {
            if (event != XMLStreamConstants.START_ELEMENT) {
                continue;
            }
            switch (xml.name()) {
                case "row" -> readRow(xml);
                case "col" -> {
                    if (xml.is("hidden") && hiddenColumns.size() < MOST_HIDDEN) {
                        String from = CellName.letters(Math.max(1, xml.number("min", 1)));
                        String to = CellName.letters(Math.max(1, xml.number("max", 1)));
                        hiddenColumns.add(from.equals(to) ? from : from + ":" + to);
                    }
                }
                case "mergeCell" -> {
                    String reference = xml.attribute("ref");
                    Area area = reference == null ? null : CellName.area(reference);
                    if (area != null && merged.size() < MOST_MERGED) {
                        merged.add(area);
                    }
                }
                default -> {
                    // Drawings, prints, rules and the like hold no values.
                }
            }
        }
    }

    private void readRow(XmlPart xml) throws IOException, XMLStreamException {
        int number = xml.number("r", row + 1);
        if (number <= row || number > CellName.MOST_ROWS) {
            throw new XMLStreamException("row " + number + " stands after row " + row);
        }
        row = number;
        hidden = xml.is("hidden");
        cells.clear();
        count = 0;
        int column = 0;
        while (true) {
            int event = xml.next();
            if (event == XMLStreamConstants.END_ELEMENT && xml.name().equals("row")) {
                break;
            }
            if (event == XMLStreamConstants.END_DOCUMENT) {
                throw new XMLStreamException("the end of the part inside row " + row);
            }
            if (event == XMLStreamConstants.START_ELEMENT && xml.name().equals("c")) {
                column = readCell(xml, column);
                if (cells.isFull()) {
                    throw new XMLStreamException("row " + row + " has more text than a row may have");
                }
            }
        }
        write();
    }

    /** Reads a cell behind a column; the column that it stands in, from 1. */
    private int readCell(XmlPart xml, int before) throws IOException, XMLStreamException {
        int column = before + 1;
        int style = 0;
        String type = "n";
        for (int i = 0; i < xml.attributes(); i++) {
            String name = xml.attributeName(i);
            if (name.equals("r")) {
                column = columnOf(xml.attributeValue(i));
            } else if (name.equals("s")) {
                style = small(xml.attributeValue(i));
            } else if (name.equals("t")) {
                type = xml.attributeValue(i);
            }
        }
        if (column <= before || column > CellName.MOST_COLUMNS) {
            throw new XMLStreamException("a cell out of its order in row " + row);
        }
        boolean formula = false;
        boolean valued = false;
        value.clear();
        while (true) {
            int event = xml.next();
            if (event == XMLStreamConstants.START_ELEMENT) {
                if (xml.name().equals("f")) {
                    formula = true;
                } else if (xml.name().equals("v")) {
                    valued = true;
                    value.clear();
                    readValue(xml);
                } else if (xml.name().equals("is")) {
                    valued = true;
                    value.clear();
                    SharedTexts.rich(xml, "is", value);
                }
            } else if (event == XMLStreamConstants.END_ELEMENT && xml.name().equals("c")) {
                break;
            } else if (event == XMLStreamConstants.END_DOCUMENT) {
                throw new XMLStreamException("the end of the part inside a cell of row " + row);
            }
        }
        if (valued || formula) {
            int start = cells.length;
            write(type, style, valued, formula);
            if (cells.length > start) {
                place(column);
            }
        }
        return column;
    }

    private void readValue(XmlPart xml) throws XMLStreamException {
        for (int event = xml.next(); event != XMLStreamConstants.END_ELEMENT; event = xml.next()) {
            if (event == XMLStreamConstants.CHARACTERS
                    || event == XMLStreamConstants.CDATA
                    || event == XMLStreamConstants.SPACE) {
                xml.appendTo(value);
            } else if (event == XMLStreamConstants.END_DOCUMENT || event == XMLStreamConstants.START_ELEMENT) {
                throw new XMLStreamException("something else than a value in a cell of row " + row);
            }
        }
    }

    private static int columnOf(String reference) {
        int column = 0;
        for (int i = 0; i < reference.length() && i < 4; i++) {
            char c = reference.charAt(i);
            if (c >= 'A' && c <= 'Z') {
                column = column * 26 + c - 'A' + 1;
            } else if (c >= 'a' && c <= 'z') {
                column = column * 26 + c - 'a' + 1;
            } else {
                break;
            }
        }
        return column;
    }

    private static int small(String text) {
        int number = 0;
        for (int i = 0; i < text.length() && i < 8; i++) {
            number = number * 10 + text.charAt(i) - '0';
        }
        return number;
    }

    private void place(int column) {
        if (count == columns.length) {
            columns = Arrays.copyOf(columns, count * 2);
            ends = Arrays.copyOf(ends, count * 2);
        }
        columns[count] = column;
        ends[count++] = cells.length;
    }

    /** Writes a cell as it stands in a transcript. */
    private void write(String type, int style, boolean valued, boolean formula) throws XMLStreamException {
        boolean empty = !valued || value.length == 0;
        switch (type) {
            case "s" -> {
                if (!empty && !texts.add(whole(), cells)) {
                    throw new XMLStreamException("there is no shared text " + value + ", which row " + row + " has");
                }
            }
            case "inlineStr" -> cells.addQuoted(value.chars, value.length);
            case "str" -> {
                SharedTexts.unescape(value);
                if (valued) {
                    cells.addQuoted(value.chars, value.length);
                } else {
                    cells.add(CellText.NO_VALUE);
                }
            }
            case "b" -> {
                if (!empty) {
                    cells.addAscii(
                            value.toString().strip().equals("1")
                                            || value.toString().strip().equals("true")
                                    ? "TRUE"
                                    : "FALSE");
                } else if (formula) {
                    cells.add(CellText.NO_VALUE);
                }
            }
            case "e" -> writeError();
            case "d" -> writeOr(CellNumbers.moment(value.toString().strip()));
            default -> {
                if (!empty) {
                    writeNumber(formats.of(style));
                } else if (formula) {
                    cells.add(CellText.NO_VALUE);
                }
            }
        }
    }

    private long whole() throws XMLStreamException {
        long number = 0;
        for (int i = 0; i < value.length; i++) {
            int digit = value.chars[i] - '0';
            if (digit < 0 || digit > 9 || number > Integer.MAX_VALUE) {
                throw new XMLStreamException("\"" + value + "\" is no number of a shared text");
            }
            number = number * 10 + digit;
        }
        return number;
    }

    private void writeError() {
        String error = value.toString().strip();
        boolean plain = error.matches("#[A-Za-z0-9/!?_]{1,30}");
        cells.addAscii(plain ? error : "#ERROR");
    }

    private void writeOr(String moment) {
        if (moment == null) {
            cells.addQuoted(value.chars, value.length);
        } else {
            cells.addAscii(moment);
        }
    }

    private void writeNumber(CellFormat format) throws XMLStreamException {
        boolean plain = isPlain();
        if (plain && format.meaning() == Meaning.NUMBER && format.zeros() == 0) {
            cells.addAscii(value.chars, 0, value.length);
            return;
        }
        String decimal =
                plain ? value.toString() : CellNumbers.decimal(value.toString().strip());
        if (decimal == null) {
            throw new XMLStreamException("\"" + value + "\" is no number, in row " + row);
        }
        String moment =
                format.meaning() == Meaning.NUMBER ? null : CellNumbers.moment(decimal, format.meaning(), from1904);
        cells.addAscii(moment == null ? decimal : moment);
        if (format.zeros() > 0) {
            cells.addAscii("{" + "0".repeat(format.zeros()) + "}");
        }
    }

    /** Whether the value is a decimal of few digits without exponent, which stays as it is. */
    private boolean isPlain() {
        char[] chars = value.chars;
        int length = value.length;
        int from = length > 0 && chars[0] == '-' ? 1 : 0;
        if (length > KEPT_CHARACTERS || from == length || chars[length - 1] == '.' || chars[from] == '.') {
            return false;
        }
        boolean point = false;
        int digits = 0;
        for (int i = from; i < length; i++) {
            char c = chars[i];
            if (c == '.') {
                if (point) {
                    return false;
                }
                point = true;
            } else if (c < '0' || c > '9') {
                return false;
            } else {
                digits++;
            }
        }
        return digits <= CellNumbers.KEPT_DIGITS && (chars[from] != '0' || digits == 1 || chars[from + 1] == '.');
    }

    /** Writes the row, unless nothing stands in it: on one line, or on one for each of the cells that stand side by side. */
    private void write() throws IOException, XMLStreamException {
        cover();
        hiddenRows += hidden ? 1 : 0;
        if (count == 0) {
            return;
        }
        lastRow = row;
        int from = 0;
        for (int i = 1; i <= count; i++) {
            if (i == count || apart(columns[i]) != apart(columns[from])) {
                writeLine(from, i);
                from = i;
            }
        }
    }

    /** Which of the cells that stand side by side a column of the row belongs to; -1 for none. */
    private int apart(int column) {
        for (int i = 0; i < sideBySide.size(); i++) {
            Area area = sideBySide.get(i);
            if (area.hasRow(row) && column >= area.firstColumn() && column <= area.lastColumn()) {
                return i;
            }
        }
        return -1;
    }

    private void writeLine(int first, int behind) throws IOException {
        out.put(prefix, 0, prefix.length);
        head.clear();
        head.add(row);
        head.add(CellText.SEPARATOR);
        if (hidden) {
            head.addAscii(Transcript.HIDDEN);
        }
        head.add(CellText.SEPARATOR);
        out.put(head.bytes, 0, head.length);
        int at = 1;
        for (int i = first; i < behind; i++) {
            int column = columns[i];
            if (column - at > MOST_EMPTY) {
                head.clear();
                if (i > first) {
                    head.add(CellText.SEPARATOR);
                }
                head.add(CellText.JUMP);
                head.addAscii(CellName.letters(column));
                head.add(CellText.SEPARATOR);
                out.put(head.bytes, 0, head.length);
                at = column;
            }
            for (; at < column; at++) {
                out.put(CellText.SEPARATOR);
            }
            int from = i == 0 ? 0 : ends[i - 1];
            out.put(cells.bytes, from, ends[i] - from);
        }
        if (sideBySide.isEmpty()) {
            width = Math.max(width, Math.min(MOST_FILLED, at));
            for (; at < width; at++) {
                out.put(CellText.SEPARATOR);
            }
        }
        out.endLine();
    }

    /** Gives cells that are merged with one before them its value, as covered ones. */
    private void cover() throws XMLStreamException {
        if (covering.isEmpty()) {
            return;
        }
        covers.removeIf(c -> c.area().lastRow() < row);
        while (nextCovering < covering.size() && covering.get(nextCovering).firstRow() <= row) {
            Area area = covering.get(nextCovering++);
            boolean several = area.firstRow() < area.lastRow() || area.firstColumn() < area.lastColumn();
            if (several && area.hasRow(row)) {
                byte[] first = area.firstRow() == row ? cell(area.firstColumn()) : null;
                if (first != null) {
                    covers.add(new Cover(area, first));
                }
            }
        }
        for (Cover cover : covers) {
            covered += cover.area().lastColumn() - cover.area().firstColumn() + 1L;
            if (covered > MOST_COVERED) {
                throw new XMLStreamException("more than " + MOST_COVERED + " cells are merged with others");
            }
            insert(cover);
        }
    }

    private byte[] cell(int column) {
        for (int i = 0; i < count; i++) {
            if (columns[i] == column) {
                return Arrays.copyOfRange(cells.bytes, i == 0 ? 0 : ends[i - 1], ends[i]);
            }
        }
        return null;
    }

    private void insert(Cover cover) {
        Area area = cover.area();
        int firstCovered = area.firstRow() == row ? area.firstColumn() + 1 : area.firstColumn();
        RowBytes all = new RowBytes();
        int[] newColumns = new int[count + area.lastColumn() - firstCovered + 1];
        int[] newEnds = new int[newColumns.length];
        int n = 0;
        int i = 0;
        int column = firstCovered;
        while (i < count || column <= area.lastColumn()) {
            boolean own = i < count && (column > area.lastColumn() || columns[i] <= column);
            if (own) {
                int from = i == 0 ? 0 : ends[i - 1];
                all.add(cells.bytes, from, ends[i] - from);
                newColumns[n] = columns[i];
                column += columns[i] == column ? 1 : 0;
                i++;
            } else {
                all.add(CellText.COVERED);
                all.add(cover.value());
                newColumns[n] = column++;
            }
            newEnds[n++] = all.length;
            if (all.isFull()) {
                return;
            }
        }
        cells.clear();
        cells.add(all.bytes, 0, all.length);
        columns = Arrays.copyOf(newColumns, Math.max(64, n));
        ends = Arrays.copyOf(newEnds, Math.max(64, n));
        count = n;
    }
}
