package ninepin.core.format.workbook;

import java.io.CharConversionException;
import java.io.EOFException;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.zip.ZipException;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import ninepin.core.format.workbook.Transcript.Broken;
import ninepin.core.format.workbook.Transcript.Range;
import ninepin.core.format.workbook.Transcript.Sheet;
import ninepin.core.layout.CellName;
import ninepin.core.layout.Shown;

/**
 * Writes a workbook as a transcript: all rows of all sheets, in one pass and in bounded memory. The same workbook always gives the same
 * transcript. One that cannot be read, or not to its end, gives a transcript that says so, with the rows before that place.
 */
final class Transcriber {

    private static final int MOST_SHEETS = 10_000;
    private static final int MOST_RANGES = 100_000;
    private static final String WHOLE = "a workbook of ISO/IEC 29500 (.xlsx), whole";
    private static final String AGAIN = "Ask the sender for the file again.";
    private static final byte[] COMPOUND_FILE = {(byte) 0xd0, (byte) 0xcf, 0x11, (byte) 0xe0};
    /** A reference in the formula of a name: sheet, with quotes or without, and cells. */
    private static final Pattern REFERENCE =
            Pattern.compile("(?:'((?:[^']|'')+)'|([^'!]+))!(\\$?[A-Z]+\\$?\\d+(?::\\$?[A-Z]+\\$?\\d+)?)");

    private final Path workbook;
    private final SideBySide sideBySide;
    private final TranscriptOutput out;
    private final List<Sheet> sheets = new ArrayList<>();
    private final List<Range> ranges = new ArrayList<>();
    /** The part of each sheet that has one, by its position. */
    private final List<String> partOf = new ArrayList<>();

    private final List<String> stateOf = new ArrayList<>();
    private final List<String> nameOf = new ArrayList<>();

    private Broken broken;

    private Transcriber(Path workbook, SideBySide sideBySide, TranscriptOutput out) {
        this.workbook = workbook;
        this.sideBySide = sideBySide;
        this.out = out;
    }

    /**
     * Transcribes a workbook.
     *
     * @param sideBySide the cells that get lines of their own where they stand beside others
     * @param to where the transcript goes; its folder takes files that are needed meanwhile
     * @throws IOException where a file cannot be read or written; never for what stands in the workbook
     */
    static void transcribe(Path workbook, SideBySide sideBySide, Path to) throws IOException {
        try (TranscriptOutput out = new TranscriptOutput(to)) {
            Transcriber transcriber = new Transcriber(workbook, sideBySide, out);
            out.line(Transcript.FIRST_LINE);
            transcriber.broken = transcriber.unlike();
            if (transcriber.broken == null) {
                transcriber.read(to.toAbsolutePath().getParent());
            }
            transcriber.index();
        }
    }

    /** Whether a file that begins with some bytes may be a workbook, of the older form or encrypted too. */
    static boolean looksLikeOne(byte[] first) {
        return isCompound(first) || isPackage(first);
    }

    private static boolean isCompound(byte[] first) {
        return first.length >= 4 && Arrays.equals(first, 0, 4, COMPOUND_FILE, 0, 4);
    }

    private static boolean isPackage(byte[] first) {
        return first.length >= 4 && first[0] == 'P' && first[1] == 'K';
    }

    /** What there is to say of a file that is no workbook at all, or null. */
    private Broken unlike() throws IOException {
        byte[] first;
        try (InputStream in = Files.newInputStream(workbook)) {
            first = in.readNBytes(8);
        }
        if (first.length == 0) {
            return new Broken("WBK-01", "an empty file (0 bytes)", WHOLE, AGAIN);
        }
        if (isCompound(first)) {
            return new Broken(
                    "WBK-01",
                    "an encrypted workbook, or one of the older form (.xls)",
                    "a workbook of ISO/IEC 29500 (.xlsx) without a password",
                    "Ask the sender to save it as .xlsx, without a password.");
        }
        if (!isPackage(first)) {
            String found = new String(first, StandardCharsets.ISO_8859_1);
            return new Broken(
                    "WBK-01",
                    "a file that begins with " + Shown.quoted(found),
                    WHOLE,
                    "Choose another format in the layout, or ask the sender for a workbook.");
        }
        return null;
    }

    private void read(Path scratch) throws IOException {
        String part = "the package";
        try (WorkbookParts parts = open()) {
            String book = parts.relations("").stream()
                    .filter(r -> r.type().equals("officeDocument"))
                    .map(WorkbookParts.Relation::target)
                    .findFirst()
                    .orElse("xl/workbook.xml");
            part = book;
            List<WorkbookParts.Relation> relations = parts.relations(book);
            boolean from1904 = readBook(parts, book, relations);
            part = "the number formats";
            CellFormats formats = formats(parts, relations);
            part = "the shared texts";
            try (SharedTexts texts = texts(parts, relations, scratch)) {
                SheetTranscriber sheet = new SheetTranscriber(out, formats, texts, from1904);
                for (int i = 0; i < nameOf.size(); i++) {
                    part = "the sheet " + Shown.quoted(nameOf.get(i));
                    readSheet(parts, i, sheet);
                }
            }
        } catch (XMLStreamException e) {
            broken = ofParser(part, e);
        } catch (WorkbookParts.TooLarge e) {
            broken = tooLarge(e);
        } catch (ZipException | EOFException e) {
            broken = new Broken("WBK-02", words(part, e), WHOLE, AGAIN);
        } catch (IllegalArgumentException e) {
            broken = malformed(part, e);
        }
    }

    /** What a parser's trouble comes to: what stood in the part, or what was wrong with the bytes it read. */
    private static Broken ofParser(String part, XMLStreamException e) throws IOException {
        Throwable under = e.getNestedException();
        if (under instanceof WorkbookParts.TooLarge large) {
            return tooLarge(large);
        }
        if (under instanceof ZipException || under instanceof EOFException) {
            return new Broken("WBK-02", words(part, under), WHOLE, AGAIN);
        }
        if (under instanceof IOException trouble && !(under instanceof CharConversionException)) {
            throw trouble;
        }
        return malformed(part, e);
    }

    private static Broken tooLarge(WorkbookParts.TooLarge e) {
        return new Broken("WBK-03", e.getMessage(), "a workbook that unpacks to what people could have written", AGAIN);
    }

    private static Broken malformed(String part, Exception e) {
        return new Broken("WBK-02", words(part, e), "parts of a workbook that are well-formed", AGAIN);
    }

    private WorkbookParts open() throws IOException {
        try {
            return new WorkbookParts(workbook);
        } catch (ZipException e) {
            throw e;
        } catch (IllegalArgumentException e) {
            throw new ZipException(e.getMessage());
        }
    }

    private static String words(String part, Throwable e) {
        String message = e.getMessage() == null ? e.getClass().getSimpleName() : e.getMessage();
        String line = message.lines().findFirst().orElse("");
        return "trouble in " + part + ": " + Shown.visible(line, 200);
    }

    /** Reads which sheets there are; whether days count from 1904. */
    private boolean readBook(WorkbookParts parts, String book, List<WorkbookParts.Relation> relations)
            throws IOException, XMLStreamException {
        Map<String, WorkbookParts.Relation> byId = new HashMap<>();
        relations.forEach(r -> byId.put(r.id(), r));
        boolean from1904 = false;
        CharBuffer text = new CharBuffer();
        try (XmlPart xml = parts.parse(book)) {
            for (int event = xml.next(); event != XMLStreamConstants.END_DOCUMENT; event = xml.next()) {
                if (xml.starts("workbookPr")) {
                    from1904 = xml.is("date1904");
                } else if (xml.starts("sheet") && nameOf.size() < MOST_SHEETS) {
                    WorkbookParts.Relation relation = byId.get(xml.attribute("id"));
                    String name = xml.attribute("name");
                    String state = xml.attribute("state");
                    nameOf.add(name == null ? "sheet " + (nameOf.size() + 1) : name);
                    stateOf.add(state == null ? "visible" : state.replaceAll("[^A-Za-z]", ""));
                    partOf.add(relation != null && relation.type().equals("worksheet") ? relation.target() : null);
                } else if (xml.starts("definedName") && ranges.size() < MOST_RANGES && !xml.is("hidden")) {
                    String name = xml.attribute("name");
                    text.clear();
                    int inside = xml.next();
                    while (inside == XMLStreamConstants.CHARACTERS || inside == XMLStreamConstants.CDATA) {
                        xml.appendTo(text);
                        inside = xml.next();
                    }
                    addRange(name, text.toString());
                }
            }
        }
        return from1904;
    }

    private void addRange(String name, String formula) {
        Matcher m = REFERENCE.matcher(formula.strip());
        if (name == null || name.startsWith("_xlnm") || !m.matches()) {
            return;
        }
        String sheet = m.group(1) != null ? m.group(1).replace("''", "'") : m.group(2);
        CellName.Area area = CellName.area(m.group(3));
        if (area != null) {
            ranges.add(new Range(name, sheet, area, false, 0, 0));
        }
    }

    private static CellFormats formats(WorkbookParts parts, List<WorkbookParts.Relation> relations)
            throws IOException, XMLStreamException {
        for (WorkbookParts.Relation relation : relations) {
            if (relation.type().equals("styles") && parts.has(relation.target())) {
                try (XmlPart xml = parts.parse(relation.target())) {
                    return CellFormats.read(xml);
                }
            }
        }
        return CellFormats.none();
    }

    private static SharedTexts texts(WorkbookParts parts, List<WorkbookParts.Relation> relations, Path scratch)
            throws IOException, XMLStreamException {
        for (WorkbookParts.Relation relation : relations) {
            if (relation.type().equals("sharedStrings") && parts.has(relation.target())) {
                try (XmlPart xml = parts.parse(relation.target())) {
                    return SharedTexts.read(xml, scratch);
                }
            }
        }
        return SharedTexts.none(scratch);
    }

    private void readSheet(WorkbookParts parts, int position, SheetTranscriber sheet)
            throws IOException, XMLStreamException {
        String name = nameOf.get(position);
        long offset = out.offset();
        long line = out.lines() + 1;
        String part = partOf.get(position);
        if (part == null) {
            sheets.add(new Sheet(name, stateOf.get(position), offset, line, 0, 0, ""));
            return;
        }
        for (WorkbookParts.Relation relation : parts.relations(part)) {
            if (relation.type().equals("table") && parts.has(relation.target()) && ranges.size() < MOST_RANGES) {
                readTable(parts, relation.target(), name);
            }
        }
        try {
            List<CellName.Area> apart = sideBySide.on(name, position, ranges);
            sheet.begin(name, List.of(), apart);
            try (XmlPart xml = parts.parse(part)) {
                sheet.read(xml);
            }
            if (!sheet.merged().isEmpty()) {
                out.cutBack(offset, line - 1);
                sheet.begin(name, sheet.merged(), apart);
                try (XmlPart xml = parts.parse(part)) {
                    sheet.read(xml);
                }
            }
        } finally {
            sheets.add(new Sheet(
                    name,
                    stateOf.get(position),
                    offset,
                    line,
                    sheet.lastRow(),
                    sheet.hiddenRows(),
                    sheet.hiddenColumns()));
        }
    }

    private void readTable(WorkbookParts parts, String part, String sheet) throws IOException, XMLStreamException {
        try (XmlPart xml = parts.parse(part)) {
            while (xml.next() != XMLStreamConstants.END_DOCUMENT) {
                if (xml.starts("table")) {
                    String name =
                            xml.attribute("displayName") == null ? xml.attribute("name") : xml.attribute("displayName");
                    String cells = xml.attribute("ref");
                    CellName.Area area = cells == null ? null : CellName.area(cells);
                    if (name != null && area != null) {
                        ranges.add(new Range(
                                name,
                                sheet,
                                area,
                                true,
                                xml.number("headerRowCount", 1),
                                xml.number("totalsRowCount", 0)));
                    }
                    return;
                }
            }
        }
    }

    /** Writes what there is to say of the workbook behind its rows. */
    private void index() throws IOException {
        long at = out.offset();
        for (Sheet sheet : sheets) {
            out.line(sheet.asLine());
        }
        for (Range range : ranges) {
            out.line(range.asLine());
        }
        if (broken != null) {
            out.line(broken.asLine());
        }
        out.line(Transcript.END + at);
    }
}
