package ninepin.core.format;

import java.io.IOException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;
import ninepin.core.layout.Format;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Recognition;
import ninepin.core.layout.Xml;
import ninepin.core.read.Opening;
import ninepin.core.read.RecordReader;
import ninepin.core.source.ByteSource;
import ninepin.core.source.XmlParsers;

/** XML files. Records are kept in UTF-8, whatever encoding their file had. */
final class XmlSupport implements FormatSupport {

    private static final int MOST_HEAD = 1 << 20;
    private static final Pattern DECLARATION = Pattern.compile("^\\ufeff?(?:<\\?xml\\s[^>]*\\?>)?");
    private static final String IN_UTF_8 = "<?xml version=\"1.0\" encoding=\"UTF-8\"?>";
    private static final Pattern HYPHENS = Pattern.compile("-(?=-|$)");

    private final Layout layout;
    private final Xml format;

    XmlSupport(Layout layout, Xml format) {
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
        Opening opening = Opening.of(original, layout);
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
                    comment.getBytes(StandardCharsets.UTF_8),
                    record,
                    RefusedFile.USUAL_END.getBytes(StandardCharsets.UTF_8));
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
