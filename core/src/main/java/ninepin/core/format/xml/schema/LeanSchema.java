package ninepin.core.format.xml.schema;

import com.ctc.wstx.stax.WstxOutputFactory;
import java.io.StringWriter;
import javax.xml.stream.XMLOutputFactory;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;
import javax.xml.stream.XMLStreamWriter;
import ninepin.core.format.xml.parser.XmlParsers;
import ninepin.core.layout.SchemaDocument;

/**
 * A schema document without what says nothing to a validator: annotations, comments, blanks between elements. Public
 * families of schemas are mostly annotations, and a layout carries its schema with it wherever it goes.
 */
public final class LeanSchema {

    /** A document of fewer characters is kept as it came. */
    private static final int LARGE = 64 << 10;

    private LeanSchema() {}

    /** The document, made leaner where it is large. */
    public static SchemaDocument of(SchemaDocument document) {
        return document.text().length() < LARGE ? document : new SchemaDocument(document.name(), lean(document.text()));
    }

    private static String lean(String text) {
        StringWriter out = new StringWriter(text.length() / 4);
        try {
            XMLStreamReader from = XmlParsers.ofText(text);
            XMLOutputFactory factory = new WstxOutputFactory();
            factory.setProperty(XMLOutputFactory.IS_REPAIRING_NAMESPACES, false);
            XMLStreamWriter to = factory.createXMLStreamWriter(out);
            int left = 0;
            while (from.hasNext()) {
                int event = from.next();
                if (event == XMLStreamConstants.START_ELEMENT) {
                    if (left > 0
                            || Node.SCHEMA.equals(from.getNamespaceURI())
                                    && from.getLocalName().equals("annotation")) {
                        left++;
                    } else {
                        start(from, to);
                    }
                } else if (event == XMLStreamConstants.END_ELEMENT) {
                    if (left > 0) {
                        left--;
                    } else {
                        to.writeEndElement();
                    }
                }
            }
            to.flush();
            return out.toString();
        } catch (XMLStreamException e) {
            throw Node.malformed(e);
        }
    }

    private static void start(XMLStreamReader from, XMLStreamWriter to) throws XMLStreamException {
        to.writeStartElement(plain(from.getPrefix()), from.getLocalName(), plain(from.getNamespaceURI()));
        for (int i = 0; i < from.getNamespaceCount(); i++) {
            String prefix = plain(from.getNamespacePrefix(i));
            if (prefix.isEmpty()) {
                to.writeDefaultNamespace(plain(from.getNamespaceURI(i)));
            } else {
                to.writeNamespace(prefix, plain(from.getNamespaceURI(i)));
            }
        }
        for (int i = 0; i < from.getAttributeCount(); i++) {
            String namespace = plain(from.getAttributeNamespace(i));
            if (namespace.isEmpty()) {
                to.writeAttribute(from.getAttributeLocalName(i), from.getAttributeValue(i));
            } else {
                to.writeAttribute(
                        plain(from.getAttributePrefix(i)),
                        namespace,
                        from.getAttributeLocalName(i),
                        from.getAttributeValue(i));
            }
        }
    }

    private static String plain(String text) {
        return text == null ? "" : text;
    }
}
