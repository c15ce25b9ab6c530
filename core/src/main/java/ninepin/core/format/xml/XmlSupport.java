package ninepin.core.format.xml;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.Optional;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;
import ninepin.core.bytes.ByteSource;
import ninepin.core.bytes.Bytes;
import ninepin.core.format.xml.parser.XmlParsers;
import ninepin.core.format.xml.schema.SchemaBreaches;
import ninepin.core.layout.Format;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Recognition;
import ninepin.core.layout.Xml;
import ninepin.core.record.FormatSupport;
import ninepin.core.record.Opening;
import ninepin.core.record.RecordReader;
import ninepin.core.record.RecordWriter;
import ninepin.core.record.RejectForm;
import ninepin.core.record.WriteStyle;

/** XML files. Records are kept in UTF-8, whatever encoding their file had. */
public final class XmlSupport implements FormatSupport {

    private static final int MOST_HEAD = 1 << 20;
    private static final Pattern DECLARATION = Pattern.compile("^\\ufeff?(?:<\\?xml\\s[^>]*\\?>)?");
    private static final String IN_UTF_8 = "<?xml version=\"1.0\" encoding=\"UTF-8\"?>";
    private static final Pattern HYPHENS = Pattern.compile("-(?=-|$)");

    private final Layout layout;
    private final Xml format;

    public XmlSupport(Layout layout, Xml format) {
        this.layout = layout;
        this.format = format;
    }

    @Override
    public String ending() {
        return ".xml";
    }

    @Override
    public String mediaType() {
        return "application/xml";
    }

    @Override
    public Opening open(ByteSource source) throws IOException {
        return XmlOpening.of(source, layout);
    }

    @Override
    public RecordWriter writer(OutputStream out, WriteStyle style) throws IOException {
        return new XmlWriter(out, layout, style);
    }

    @Override
    public RecordWriter onward(OutputStream out, WriteStyle style, String state) throws IOException {
        return new XmlWriter(out, layout, style, state);
    }

    @Override
    public Charset charset(ByteSource source) throws IOException {
        return XmlText.charsetOrUtf8(source);
    }

    @Override
    public Optional<String> unsortable() {
        return Optional.of("elements of an XML file");
    }

    @Override
    public Optional<String> breach(Path written) throws IOException {
        if (format.schema().isEmpty()) {
            return Optional.empty();
        }
        try (InputStream in = Files.newInputStream(written)) {
            return SchemaBreaches.first(format.schema(), in);
        }
    }

    @Override
    public boolean nests() {
        return true;
    }

    @Override
    public Charset keptCharset() {
        return StandardCharsets.UTF_8;
    }

    @Override
    public String recordEnd(String usual) {
        return usual;
    }

    @Override
    public Format ofParts() {
        return new Xml(format.namespaces());
    }

    @Override
    public Frame frame(ByteSource original) throws IOException {
        Frame like = original == null ? null : frameOf(original);
        return like == null ? frameOfLayout() : like;
    }

    /** The elements around the first record; null where the file cannot be read. */
    private Frame frameOf(ByteSource original) throws IOException {
        Opening opening = open(original);
        try (RecordReader reader = opening.reader(original, opening.body())) {
            if (opening.fault() != null
                    || reader.next() != RecordReader.Item.RECORD
                    || reader.record().fault() != null) {
                return null;
            }
            byte[] head =
                    original.slice(0, (int) Math.min(MOST_HEAD, reader.record().offset()));
            String text =
                    DECLARATION.matcher(new String(head, opening.charset())).replaceFirst(IN_UTF_8);
            return new Frame(text.getBytes(StandardCharsets.UTF_8), closing(text), opening.charset());
        }
    }

    private Frame frameOfLayout() {
        String path = ((Recognition.Path) layout.firstType().when()).path();
        String[] names = path.substring(1).split("/");
        StringBuilder open = new StringBuilder();
        StringBuilder close = new StringBuilder();
        for (int i = 0; i < names.length - 1; i++) {
            open.append('<')
                    .append(names[i])
                    .append(i == 0 ? declarations() : "")
                    .append(">\n");
            close.insert(0, "</" + names[i] + ">\n");
        }
        return new Frame(
                open.toString().getBytes(StandardCharsets.UTF_8),
                close.toString().getBytes(StandardCharsets.UTF_8),
                StandardCharsets.UTF_8);
    }

    private String declarations() {
        return format.namespaces().entrySet().stream()
                .map(e -> " xmlns:" + e.getKey() + "=\"" + escaped(e.getValue()) + '"')
                .collect(Collectors.joining());
    }

    private static String escaped(String text) {
        return text.replace("&", "&amp;").replace("<", "&lt;").replace("\"", "&quot;");
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

    @Override
    public RejectForm rejects() {
        return new Rejects();
    }

    /** The reason stands in a comment before the record. */
    private final class Rejects implements RejectForm {

        @Override
        public byte[] begin(ByteSource original) {
            return ("<rejects" + declarations() + ">\n").getBytes(StandardCharsets.UTF_8);
        }

        @Override
        public byte[] record(String reason, byte[] record) {
            // Two hyphens end a comment, and so would one at its end.
            String comment = "<!-- " + HYPHENS.matcher(reason).replaceAll("- ") + " -->\n";
            return Bytes.joined(
                    comment.getBytes(StandardCharsets.UTF_8), record, USUAL_END.getBytes(StandardCharsets.UTF_8));
        }

        @Override
        public byte[] end() {
            return "</rejects>\n".getBytes(StandardCharsets.UTF_8);
        }

        @Override
        public boolean startsWithReason(byte[] file) {
            return false;
        }

        @Override
        public String fitted(String before, String after) {
            return escaped(after);
        }
    }
}
