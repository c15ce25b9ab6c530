package ninepin.core.layout;

import java.util.Map;
import java.util.TreeMap;

/**
 * XML 1.0 after the W3C recommendation, without document type definitions and with nothing from outside. The encoding
 * is the one that the file declares.
 *
 * @param namespaces the namespace of each prefix that paths use
 */
public record Xml(Map<String, String> namespaces) implements Format {

    public Xml {
        namespaces = namespaces == null ? Map.of() : new TreeMap<>(namespaces);
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
