package ninepin.core.format.xml.schema;

import java.io.StringReader;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import javax.xml.XMLConstants;
import javax.xml.parsers.DocumentBuilderFactory;
import javax.xml.parsers.ParserConfigurationException;
import javax.xml.stream.XMLStreamReader;
import javax.xml.transform.Source;
import javax.xml.transform.stream.StreamSource;
import javax.xml.validation.Schema;
import javax.xml.validation.SchemaFactory;
import javax.xml.validation.ValidatorHandler;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.SchemaDocument;
import ninepin.core.layout.Shown;
import org.w3c.dom.ls.DOMImplementationLS;
import org.w3c.dom.ls.LSInput;
import org.xml.sax.ErrorHandler;
import org.xml.sax.SAXException;
import org.xml.sax.SAXParseException;
import org.xml.sax.helpers.AttributesImpl;
import org.xml.sax.helpers.DefaultHandler;

/**
 * Validates what a parser reads against an XML schema (W3C XML Schema 1.0), event by event. Documents that the schema
 * imports or includes are taken from those of the layout; nothing else is looked for.
 */
public final class SchemaValidation {

    private static final int KEPT = 16;
    /** The most characters of what is said of a breach. */
    private static final int MOST = 300;

    private static final Pattern REFERENCE = Pattern.compile("<(?:[\\w.-]+:)?(?:import|include|redefine)\\s[^>]*>");
    private static final Pattern ROOT = Pattern.compile("<(?:[\\w.-]+:)?schema\\s[^>]*>");
    private static final Pattern NAMESPACE = Pattern.compile("\\{?\"[^\"]*\":([\\w.-]+)\\}?");
    private static final Pattern CODE = Pattern.compile("^[a-z][\\w.-]*: ");
    /** What follows the message that says why a value does not fit: which attribute or element has it. */
    private static final Pattern WHERE =
            Pattern.compile("^cvc-(?:attribute\\.3|type\\.3\\.1\\.3|complex-type\\.2\\.2): ");

    private static final Pattern OF_ITS_TYPE = Pattern.compile(" with respect to its type, .*$");
    private static final Map<List<SchemaDocument>, Schema> COMPILED = new LinkedHashMap<>(KEPT, 0.75f, true) {
        private static final long serialVersionUID = 1L;

        @Override
        protected boolean removeEldestEntry(Map.Entry<List<SchemaDocument>, Schema> eldest) {
            return size() > KEPT;
        }
    };

    private final ValidatorHandler handler;
    private final List<String> breaches = new ArrayList<>();
    private final AttributesImpl attributes = new AttributesImpl();

    private SchemaValidation(Schema schema) {
        this.handler = schema.newValidatorHandler();
        handler.setContentHandler(new DefaultHandler());
        handler.setErrorHandler(new ErrorHandler() {
            @Override
            public void warning(SAXParseException e) {
                // Says nothing about the file.
            }

            @Override
            public void error(SAXParseException e) {
                add(e.getMessage());
            }

            @Override
            public void fatalError(SAXParseException e) {
                add(e.getMessage());
            }
        });
    }

    /** Begins a validation; null where there is no schema. */
    public static SchemaValidation of(List<SchemaDocument> documents) {
        if (documents.isEmpty()) {
            return null;
        }
        synchronized (COMPILED) {
            return new SchemaValidation(COMPILED.computeIfAbsent(documents, SchemaValidation::compile));
        }
    }

    /** Throws where documents make no schema. */
    static Schema compile(List<SchemaDocument> documents) {
        SchemaBudget.check(documents);
        try {
            SchemaFactory factory = SchemaFactory.newInstance(XMLConstants.W3C_XML_SCHEMA_NS_URI);
            factory.setFeature(XMLConstants.FEATURE_SECURE_PROCESSING, true);
            factory.setProperty(XMLConstants.ACCESS_EXTERNAL_DTD, "");
            factory.setProperty(XMLConstants.ACCESS_EXTERNAL_SCHEMA, "");
            DOMImplementationLS inputs = (DOMImplementationLS) DocumentBuilderFactory.newInstance()
                    .newDocumentBuilder()
                    .getDOMImplementation()
                    .getFeature("LS", "3.0");
            factory.setResourceResolver((type, namespace, publicId, systemId, base) -> {
                SchemaDocument document = find(documents, namespace, systemId);
                LSInput input = inputs.createLSInput();
                input.setSystemId(document.name());
                input.setStringData(document.text());
                return input;
            });
            return factory.newSchema(outermost(documents).stream()
                    .map(d -> (Source) new StreamSource(new StringReader(d.text()), d.name()))
                    .toArray(Source[]::new));
        } catch (ParserConfigurationException e) {
            throw new IllegalStateException(e);
        } catch (SAXException e) {
            String place = e instanceof SAXParseException p ? "line " + p.getLineNumber() + ": " : "";
            throw new DefinitionException("format.schema", place + plain(e.getMessage()));
        }
    }

    /** The documents that no other one imports or includes; they bring the others with them. */
    private static List<SchemaDocument> outermost(List<SchemaDocument> documents) {
        List<SchemaDocument> all = documents.stream()
                .filter(d -> documents.stream().noneMatch(other -> other != d && refers(other, d)))
                .toList();
        return all.isEmpty() ? documents.subList(0, 1) : all;
    }

    private static boolean refers(SchemaDocument from, SchemaDocument to) {
        Matcher m = REFERENCE.matcher(from.text());
        while (m.find()) {
            String location = attribute(m.group(), "schemaLocation");
            String namespace = attribute(m.group(), "namespace");
            if (isAt(to, location) || location == null && namespace != null && namespace.equals(target(to))) {
                return true;
            }
        }
        return false;
    }

    private static SchemaDocument find(List<SchemaDocument> documents, String namespace, String location) {
        return documents.stream()
                .filter(d -> isAt(d, location))
                .findFirst()
                .or(() -> documents.stream()
                        .filter(d -> String.valueOf(target(d)).equals(String.valueOf(namespace)))
                        .findFirst())
                .orElseThrow(() -> new DefinitionException(
                        "format.schema",
                        "the document " + (location == null ? "of the namespace " + namespace : location)
                                + " is not among those of the layout; give all of them at once"));
    }

    /** Whether a document has the name that a location ends with. */
    private static boolean isAt(SchemaDocument document, String location) {
        return location != null && document.name().equals(location.substring(location.lastIndexOf('/') + 1));
    }

    private static String target(SchemaDocument document) {
        Matcher m = ROOT.matcher(document.text());
        return m.find() ? attribute(m.group(), "targetNamespace") : null;
    }

    private static String attribute(String tag, String name) {
        Matcher m = Pattern.compile("\\s" + name + "\\s*=\\s*(?:\"([^\"]*)\"|'([^']*)')")
                .matcher(tag);
        return m.find() ? m.group(1) != null ? m.group(1) : m.group(2) : null;
    }

    /** A value that does not fit is told twice, first why and then where; that is one breach. */
    private void add(String message) {
        String told = plain(message);
        if (breaches.isEmpty() || !WHERE.matcher(String.valueOf(message)).find()) {
            breaches.add(told);
            return;
        }
        String why = breaches.remove(breaches.size() - 1);
        breaches.add(OF_ITS_TYPE.matcher(told).replaceFirst("") + ": " + why);
    }

    private static String plain(String message) {
        String text = CODE.matcher(String.valueOf(message)).replaceFirst("");
        // Names are told without the namespace that stands in front of each.
        String plain = NAMESPACE.matcher(text).replaceAll("$1").replaceAll("'\\{([^{}]*)\\}'", "$1");
        return Shown.visible(plain.replaceAll("\\s+", " ").replaceAll("[.]$", ""), MOST);
    }

    /** What was breached since it was asked last. */
    public List<String> breaches() {
        if (breaches.isEmpty()) {
            return List.of();
        }
        List<String> own = List.copyOf(breaches);
        breaches.clear();
        return own;
    }

    public void begin() {
        try {
            handler.startDocument();
        } catch (SAXException e) {
            breaches.add(plain(e.getMessage()));
        }
    }

    public void start(XMLStreamReader parser) {
        try {
            for (int i = 0; i < parser.getNamespaceCount(); i++) {
                handler.startPrefixMapping(text(parser.getNamespacePrefix(i)), text(parser.getNamespaceURI(i)));
            }
            attributes.clear();
            for (int i = 0; i < parser.getAttributeCount(); i++) {
                attributes.addAttribute(
                        text(parser.getAttributeNamespace(i)),
                        parser.getAttributeLocalName(i),
                        qualified(parser.getAttributePrefix(i), parser.getAttributeLocalName(i)),
                        "CDATA",
                        parser.getAttributeValue(i));
            }
            handler.startElement(
                    text(parser.getNamespaceURI()),
                    parser.getLocalName(),
                    qualified(parser.getPrefix(), parser.getLocalName()),
                    attributes);
        } catch (SAXException e) {
            breaches.add(plain(e.getMessage()));
        }
    }

    public void characters(XMLStreamReader parser) {
        try {
            handler.characters(parser.getTextCharacters(), parser.getTextStart(), parser.getTextLength());
        } catch (SAXException e) {
            breaches.add(plain(e.getMessage()));
        }
    }

    public void end(XMLStreamReader parser) {
        try {
            handler.endElement(
                    text(parser.getNamespaceURI()),
                    parser.getLocalName(),
                    qualified(parser.getPrefix(), parser.getLocalName()));
            for (int i = 0; i < parser.getNamespaceCount(); i++) {
                handler.endPrefixMapping(text(parser.getNamespacePrefix(i)));
            }
        } catch (SAXException e) {
            breaches.add(plain(e.getMessage()));
        }
    }

    private static String text(String s) {
        return s == null ? "" : s;
    }

    private static String qualified(String prefix, String local) {
        return prefix == null || prefix.isEmpty() ? local : prefix + ":" + local;
    }
}
