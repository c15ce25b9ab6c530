package ninepin.core.job;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.stream.Collectors;
import javax.xml.stream.XMLInputFactory;
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
import ninepin.core.source.ByteSource;

/**
 * A file of records that were refused, corrected or not, in the layout they came in: behind the head of their own file,
 * with nothing of it left between them. It is read by {@link #layout the same layout} without what only holds of the whole
 * file.
 */
public final class RefusedFile {

    /** Stand in no file as tags. */
    private static final String NEVER_FIRST = "\u0001";

    private static final String NEVER_LAST = "\u0002";

    private final Layout layout;
    private final byte[] head;
    private final byte[] foot;

    private RefusedFile(Layout layout, byte[] head, byte[] foot) {
        this.layout = layout;
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
        return new RefusedFile(layout, head, foot);
    }

    private static byte[] headOf(Layout layout, ByteSource original) throws IOException {
        Opening opening = Opening.of(original, layout);
        byte[] head = original.slice(0, (int) Math.min(1 << 20, opening.body().offset()));
        if (layout.format().charset() != FileCharset.UTF_16) {
            return head;
        }
        // Rejects of UTF-16 are kept with the higher byte first, whatever their file had.
        String text = new String(head, StandardCharsets.UTF_16);
        return ("\ufeff" + text.replace("\ufeff", "")).getBytes(StandardCharsets.UTF_16BE);
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
                    return new RefusedFile(layout, head, closing(head));
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
                open.toString().getBytes(StandardCharsets.UTF_8),
                close.toString().getBytes(StandardCharsets.UTF_8));
    }

    /** The end tags for the elements that the start of a document leaves open. */
    private static byte[] closing(byte[] head) {
        Deque<String> open = new ArrayDeque<>();
        String encoding = null;
        XMLInputFactory factory = XMLInputFactory.newFactory();
        factory.setProperty(XMLInputFactory.SUPPORT_DTD, false);
        factory.setProperty(XMLInputFactory.IS_SUPPORTING_EXTERNAL_ENTITIES, false);
        try {
            XMLStreamReader reader = factory.createXMLStreamReader(new ByteArrayInputStream(head));
            encoding = reader.getEncoding();
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
        Charset charset = encoding == null ? StandardCharsets.UTF_8 : Charset.forName(encoding);
        return open.stream()
                .map(name -> "</" + name + ">\n")
                .collect(Collectors.joining())
                .getBytes(charset);
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

    private static String end(Layout layout) {
        String own = layout.format() instanceof Delimited d ? d.habitsOrNone().recordEnd() : null;
        return own == null ? "\r\n" : own;
    }

    /** The charset that the bytes of rejects are in; those of UTF-16 are kept with the higher byte first. */
    public static Charset charset(Layout layout) {
        Charset own = layout.format() instanceof Xml
                ? StandardCharsets.UTF_8
                : layout.format().charset().charset();
        return own.equals(StandardCharsets.UTF_16) ? StandardCharsets.UTF_16BE : own;
    }
}
