package ninepin.core.layout;

import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/**
 * XML 1.0 after the W3C recommendation, without document type definitions and with nothing from outside. The encoding
 * is the one that the file declares.
 *
 * @param namespaces the namespace of each prefix that paths use
 * @param schema the documents of the XML schema that files are validated against, as far as they belong together; none
 *     where files are not validated
 */
public record Xml(Map<String, String> namespaces, List<SchemaDocument> schema) implements Format {

    /** An XML file that is not validated. */
    public Xml(Map<String, String> namespaces) {
        this(namespaces, List.of());
    }

    public Xml {
        namespaces = namespaces == null ? Map.of() : new TreeMap<>(namespaces);
        schema = schema == null ? List.of() : List.copyOf(schema);
        namespaces.forEach((prefix, uri) -> {
            if (!prefix.matches("[A-Za-z_][\\w.-]*") || uri == null || uri.isBlank()) {
                throw new DefinitionException("format.namespaces", "\"" + prefix + "\" needs a prefix and a namespace");
            }
        });
    }

    /** There are none: what is no element is no record. */
    @Override
    public Delimited.BlankRows blankRows() {
        return Delimited.BlankRows.SKIP;
    }

    /** Values are handed on in UTF-8, whatever the file's own encoding is. */
    @Override
    public FileCharset charset() {
        return FileCharset.UTF_8;
    }
}
