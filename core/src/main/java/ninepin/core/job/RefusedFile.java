package ninepin.core.job;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;
import ninepin.core.layout.Delimited;
import ninepin.core.layout.FileCharset;
import ninepin.core.layout.FixedLength;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Recognition;
import ninepin.core.layout.RecordType;
import ninepin.core.layout.Xml;
import ninepin.core.read.Opening;
import ninepin.core.read.RecordReader;
import ninepin.core.read.WrittenCharset;
import ninepin.core.source.ByteSource;
import ninepin.core.source.FileSource;
import ninepin.core.source.XmlParsers;

/**
 * A file of records that were refused, corrected or not, in the layout they came in: behind the head of their own file,
 * with nothing of it left between them. It is read by {@link #layout the same layout} without what only holds of the whole
 * file.
 */
public final class RefusedFile {

    /** Stand in no file as tags. */
    private static final String NEVER_FIRST = "\u0001";

    private static final String NEVER_LAST = "\u0002";

    private static final Pattern DECLARATION = Pattern.compile("^\\ufeff?(?:<\\?xml\\s[^>]*\\?>)?");

    private final Layout layout;
    /** The charset of the records' own file. */
    private final Charset original;

    private final byte[] head;
    private final byte[] foot;

    private RefusedFile(Layout layout, Charset original, byte[] head, byte[] foot) {
        this.layout = layout;
        this.original = original;
        this.head = head;
        this.foot = foot;
    }

    /**
     * The layout that reads such a file: without checks of the whole file, without a number of documents that has to be
     * there, and without records that are known by being the first or the last of their file.
     */
    public static Layout layout(Layout of) {
        Recognition.Tag tag = of.recordTypes().stream()
                .map(RecordType::when)
                .filter(Recognition.Tag.class::isInstance)
                .map(Recognition.Tag.class::cast)
                .findFirst()
                .orElse(null);
        List<RecordType> types = new ArrayList<>();
        for (RecordType type : of.recordTypes()) {
            boolean byPlace =
                    type.when() instanceof Recognition.FirstLine || type.when() instanceof Recognition.LastLine;
            Recognition when = byPlace && tag != null
                    ? new Recognition.Tag(
                            tag.column(),
                            tag.start(),
                            List.of(never(type.when())
                                    .repeat(tag.values().get(0).length())))
                    : type.when();
            boolean top = type.parent() == null;
            types.add(new RecordType(
                    type.name(), when, type.parent(), top ? null : type.min(), top ? null : type.max(), type.fields()));
        }
        Layout loose = new Layout(of.name(), of.title(), of.format(), types, List.of());
        return of.format() instanceof Xml xml
                ? new Layout(of.name(), of.title(), new Xml(xml.namespaces()), types, List.of())
                : loose;
    }

    private static String never(Recognition byPlace) {
        return byPlace instanceof Recognition.FirstLine ? NEVER_FIRST : NEVER_LAST;
    }

    /**
     * Files for the records of one file.
     *
     * @param layout the layout they came in
     * @param original their file, for its head; null where it is gone, and then the head is made of the layout
     */
    public static RefusedFile like(Layout layout, ByteSource original) throws IOException {
        if (layout.format() instanceof Xml xml) {
            return ofElements(layout, xml, original);
        }
        byte[] head = original != null ? headOf(layout, original) : headOf(layout);
        byte[] foot = new byte[0];
        if (layout.format() instanceof Delimited d) {
            // Lines at the end are passed over, so that some have to stand there.
            foot = ("." + end(layout)).repeat(d.habitsOrNone().footerLines()).getBytes(charset(layout));
        }
        Charset charset = original == null ? charset(layout) : WrittenCharset.of(original, layout.format());
        return new RefusedFile(layout, charset, kept(head, charset, charset(layout)), foot);
    }

    /** Files for the records of a file on disk, which may be gone. */
    public static RefusedFile like(Layout layout, Path original) throws IOException {
        if (!Files.isRegularFile(original)) {
            return like(layout, (ByteSource) null);
        }
        try (FileSource source = FileSource.open(original)) {
            return like(layout, source);
        }
    }

    private static byte[] headOf(Layout layout, ByteSource original) throws IOException {
        Opening opening = Opening.of(original, layout);
        return original.slice(0, (int) Math.min(1 << 20, opening.body().offset()));
    }

    private static byte[] kept(byte[] bytes, Charset from, Charset to) {
        return from.equals(to) ? bytes : new String(bytes, from).getBytes(to);
    }

    /** The text of a record as it is kept, of so many bytes at most. */
    public String text(byte[] record, int most) {
        return new String(record, 0, Math.min(record.length, most), charset(layout));
    }

    /** A part of a text, in UTF-16 units. */
    public record Place(int from, int to) {}

    /**
     * Where bytes of a record stand in its text.
     *
     * @param record the record as it is kept
     * @param from the first of the bytes, counted in the record's own file from the record's start
     * @param length how many they are there
     */
    public Place place(byte[] record, long from, int length) {
        byte[] inFile = kept(record, charset(layout), original);
        int first = (int) Math.max(0, Math.min(from, inFile.length));
        int last = (int) Math.max(first, Math.min((long) first + length, inFile.length));
        int before = new String(inFile, 0, first, original).length();
        return new Place(before, before + new String(inFile, first, last - first, original).length());
    }

    /** Bytes as they stand in the records' own file, in the charset in which rejects are kept. */
    public byte[] kept(byte[] fileBytes) {
        return kept(fileBytes, original, charset(layout));
    }

    /** Where the file is gone: as many lines as are passed over, and the names of the fields. */
    private static byte[] headOf(Layout layout) {
        if (!(layout.format() instanceof Delimited d)) {
            return new byte[0];
        }
        String skipped = end(layout).repeat(d.skipLines());
        String names = d.header()
                ? layout.firstType().fields().stream()
                                .map(f -> f.header() == null ? f.name() : f.header())
                                .collect(Collectors.joining(d.delimiter()))
                        + end(layout)
                : "";
        String mark = layout.format().charset() == FileCharset.UTF_16 ? "\ufeff" : "";
        return (mark + skipped + names).getBytes(charset(layout));
    }

    private static RefusedFile ofElements(Layout layout, Xml xml, ByteSource original) throws IOException {
        if (original != null) {
            Opening opening = Opening.of(original, layout);
            try (RecordReader reader = opening.reader(original, opening.body())) {
                if (opening.fault() == null
                        && reader.next() == RecordReader.Item.RECORD
                        && reader.record().fault() == null) {
                    byte[] head = original.slice(
                            0, (int) Math.min(1 << 20, reader.record().offset()));
                    // Rejects are kept in UTF-8, whatever their file had.
                    String text = DECLARATION
                            .matcher(new String(head, opening.charset()))
                            .replaceFirst("<?xml version=\"1.0\" encoding=\"UTF-8\"?>");
                    return new RefusedFile(
                            layout, opening.charset(), text.getBytes(StandardCharsets.UTF_8), closing(text));
                }
            }
        }
        String path = ((Recognition.Path) layout.firstType().when()).path();
        String[] names = path.substring(1).split("/");
        StringBuilder open = new StringBuilder();
        StringBuilder close = new StringBuilder();
        for (int i = 0; i < names.length - 1; i++) {
            open.append('<').append(names[i]);
            if (i == 0) {
                xml.namespaces().forEach((prefix, uri) -> open.append(" xmlns:")
                        .append(prefix)
                        .append("=\"")
                        .append(uri.replace("&", "&amp;").replace("\"", "&quot;"))
                        .append('"'));
            }
            open.append(">\n");
            close.insert(0, "</" + names[i] + ">\n");
        }
        return new RefusedFile(
                layout,
                StandardCharsets.UTF_8,
                open.toString().getBytes(StandardCharsets.UTF_8),
                close.toString().getBytes(StandardCharsets.UTF_8));
    }

    /** The end tags for the elements that the start of a document leaves open. */
    private static byte[] closing(String head) {
        Deque<String> open = new ArrayDeque<>();
        try {
            XMLStreamReader reader = XmlParsers.ofText(head);
            while (reader.hasNext()) {
                int event = reader.next();
                if (event == XMLStreamReader.START_ELEMENT) {
                    String prefix = reader.getPrefix();
                    open.push((prefix == null || prefix.isEmpty() ? "" : prefix + ":") + reader.getLocalName());
                } else if (event == XMLStreamReader.END_ELEMENT) {
                    open.pop();
                }
            }
        } catch (XMLStreamException e) {
            // The document breaks off here, which is what was to be found out.
        }
        return open.stream()
                .map(name -> "</" + name + ">\n")
                .collect(Collectors.joining())
                .getBytes(StandardCharsets.UTF_8);
    }

    /**
     * The file.
     *
     * @param records their bytes, without what ends them
     */
    public byte[] of(List<byte[]> records) {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        out.writeBytes(head);
        byte[] end = layout.format() instanceof FixedLength f && f.blockSize() != null
                ? new byte[0]
                : end(layout).getBytes(charset(layout));
        for (byte[] record : records) {
            out.writeBytes(record);
            out.writeBytes(end);
        }
        out.writeBytes(foot);
        return out.toByteArray();
    }

    /** What ends a record in such a file. */
    public static String end(Layout layout) {
        String own = layout.format() instanceof Delimited d ? d.habitsOrNone().recordEnd() : null;
        return own == null ? "\r\n" : own;
    }

    /** The charset that the bytes of rejects are in; those of UTF-16 are kept with the higher byte first, those of XML in UTF-8. */
    public static Charset charset(Layout layout) {
        Charset own = layout.format() instanceof Xml
                ? StandardCharsets.UTF_8
                : layout.format().charset().charset();
        return own.equals(StandardCharsets.UTF_16) ? StandardCharsets.UTF_16BE : own;
    }
}
