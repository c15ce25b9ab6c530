package ninepin.core.format.xml.schema;

import java.io.IOException;
import java.io.InputStream;
import java.util.List;
import java.util.Optional;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;
import ninepin.core.format.xml.parser.XmlParsers;
import ninepin.core.layout.SchemaDocument;

/** What a whole file breaches of a schema. */
public final class SchemaBreaches {

    private SchemaBreaches() {}

    /** The first breach with its line, or empty where the file is valid. */
    public static Optional<String> first(List<SchemaDocument> schema, InputStream in) throws IOException {
        SchemaValidation validation = SchemaValidation.of(schema);
        try {
            XMLStreamReader parser = XmlParsers.of(in);
            validation.begin();
            while (parser.hasNext()) {
                switch (parser.next()) {
                    case XMLStreamConstants.START_ELEMENT -> validation.start(parser);
                    case XMLStreamConstants.END_ELEMENT -> validation.end(parser);
                    case XMLStreamConstants.CHARACTERS, XMLStreamConstants.CDATA -> validation.characters(parser);
                    default -> {
                        // Comments and the like are nothing to a schema.
                    }
                }
                List<String> breaches = validation.breaches();
                if (!breaches.isEmpty()) {
                    return Optional.of("line " + parser.getLocation().getLineNumber() + ": " + breaches.get(0));
                }
            }
            return Optional.empty();
        } catch (XMLStreamException e) {
            return Optional.of(e.getMessage());
        }
    }
}
