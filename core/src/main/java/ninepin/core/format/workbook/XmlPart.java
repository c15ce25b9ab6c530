package ninepin.core.format.workbook;

import java.io.Closeable;
import java.io.IOException;
import java.io.InputStream;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import org.codehaus.stax2.XMLStreamReader2;

/** A part of a workbook while it is parsed. */
final class XmlPart implements Closeable {

    /** Parts of workbooks are flat; deeper ones are made to exhaust whoever reads them. */
    private static final int MOST_DEPTH = 100;

    private final XMLStreamReader2 xml;
    private final InputStream bytes;

    /**
     * @param bytes closed with the part
     */
    XmlPart(XMLStreamReader2 xml, InputStream bytes) {
        this.xml = xml;
        this.bytes = bytes;
    }

    /** Goes to the next event; refuses a document type. */
    int next() throws XMLStreamException {
        int event = xml.next();
        if (event == XMLStreamConstants.DTD) {
            throw new XMLStreamException("a document type declaration, which parts of workbooks do not have");
        }
        if (event == XMLStreamConstants.START_ELEMENT && xml.getDepth() > MOST_DEPTH) {
            throw new XMLStreamException("elements nested more than " + MOST_DEPTH + " deep");
        }
        return event;
    }

    /** The name of the element that has just begun or ended, without its namespace. */
    String name() {
        return xml.getLocalName();
    }

    /** Whether an element of a name has just begun. */
    boolean starts(String name) {
        return xml.getEventType() == XMLStreamConstants.START_ELEMENT
                && xml.getLocalName().equals(name);
    }

    /** An attribute of the element that has just begun, by its name without namespace; null where there is none. */
    String attribute(String name) {
        for (int i = 0; i < xml.getAttributeCount(); i++) {
            if (xml.getAttributeLocalName(i).equals(name)) {
                return xml.getAttributeValue(i);
            }
        }
        return null;
    }

    /** A whole number among the attributes, or another where there is none. */
    int number(String name, int otherwise) {
        String text = attribute(name);
        try {
            return text == null ? otherwise : Integer.parseInt(text.strip());
        } catch (NumberFormatException e) {
            return otherwise;
        }
    }

    /** Whether an attribute says yes. */
    boolean is(String name) {
        String text = attribute(name);
        return "1".equals(text) || "true".equals(text) || "on".equals(text);
    }

    int attributes() {
        return xml.getAttributeCount();
    }

    String attributeName(int i) {
        return xml.getAttributeLocalName(i);
    }

    String attributeValue(int i) {
        return xml.getAttributeValue(i);
    }

    /** Adds the characters of the event to a text. */
    void appendTo(CharBuffer text) throws XMLStreamException {
        text.append(xml.getTextCharacters(), xml.getTextStart(), xml.getTextLength());
    }

    /** The line that parsing has come to. */
    int line() {
        return xml.getLocation().getLineNumber();
    }

    @Override
    public void close() throws IOException {
        try {
            xml.close();
        } catch (XMLStreamException e) {
            // What was to be read has been read.
        }
        bytes.close();
    }
}
