package ninepin.core.format.xml.parser;

import com.ctc.wstx.api.WstxInputProperties;
import com.ctc.wstx.stax.WstxInputFactory;
import java.io.InputStream;
import java.io.Reader;
import java.io.StringReader;
import javax.xml.stream.XMLInputFactory;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;
import org.codehaus.stax2.XMLInputFactory2;
import org.codehaus.stax2.XMLStreamReader2;

/** Parsers of XML from strangers: no document type definitions, nothing from outside, bounds on depth and attributes. */
public final class XmlParsers {

    private static final int MOST_DEPTH = 256;
    /** Reads a text only when it is asked for; where it is not well-formed, asking fails. */
    private static final WstxInputFactory LAZY = factory(true);

    private static final WstxInputFactory EAGER = factory(false);

    private XmlParsers() {}

    private static WstxInputFactory factory(boolean lazy) {
        WstxInputFactory factory = new WstxInputFactory();
        factory.setProperty(XMLInputFactory.SUPPORT_DTD, false);
        factory.setProperty(XMLInputFactory.IS_SUPPORTING_EXTERNAL_ENTITIES, false);
        factory.setProperty(XMLInputFactory.IS_NAMESPACE_AWARE, true);
        factory.setProperty(XMLInputFactory.IS_COALESCING, false);
        factory.setProperty(XMLInputFactory2.P_LAZY_PARSING, lazy);
        factory.setProperty(XMLInputFactory2.P_INTERN_NAMES, true);
        factory.setProperty(XMLInputFactory2.P_PRESERVE_LOCATION, false);
        factory.setProperty(WstxInputProperties.P_MAX_ELEMENT_DEPTH, MOST_DEPTH);
        factory.setProperty(WstxInputProperties.P_MAX_ATTRIBUTES_PER_ELEMENT, 1_000);
        factory.setProperty(WstxInputProperties.P_MAX_ATTRIBUTE_SIZE, 1 << 20);
        return factory;
    }

    /** A parser of characters, which tells where each event stands. */
    public static XMLStreamReader2 of(Reader text) throws XMLStreamException {
        return (XMLStreamReader2) LAZY.createXMLStreamReader(text);
    }

    /** A parser of a text, whatever encoding it declares. */
    public static XMLStreamReader ofText(String text) throws XMLStreamException {
        return EAGER.createXMLStreamReader(new StringReader(text));
    }

    /** The line at which a document is not well-formed, as far as the parser says; 0 where it says nothing. */
    public static int line(XMLStreamException e) {
        return e.getLocation() == null ? 0 : Math.max(0, e.getLocation().getLineNumber());
    }

    /** A parser of bytes, in the encoding that they declare. */
    public static XMLStreamReader of(InputStream bytes) throws XMLStreamException {
        return EAGER.createXMLStreamReader(bytes);
    }
}
