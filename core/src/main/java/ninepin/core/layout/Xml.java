package ninepin.core.layout;

import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.regex.Pattern;

/**
 * XML 1.0 after the W3C recommendation, without document type definitions and with nothing from outside. The encoding
 * is the one that the file declares.
 *
 * @param namespaces the namespace of each prefix that paths use
 * @param schema the documents of the XML schema that files are validated against, as far as they belong together; none
 *     where files are not validated
 */
public record Xml(Map<String, String> namespaces, List<SchemaDocument> schema) implements Format {

    private static final String NAME_START = "A-Z_a-z\\x{C0}-\\x{D6}\\x{D8}-\\x{F6}\\x{F8}-\\x{2FF}\\x{370}-\\x{37D}"
            + "\\x{37F}-\\x{1FFF}\\x{200C}-\\x{200D}\\x{2070}-\\x{218F}\\x{2C00}-\\x{2FEF}\\x{3001}-\\x{D7FF}"
            + "\\x{F900}-\\x{FDCF}\\x{FDF0}-\\x{FFFD}\\x{10000}-\\x{EFFFF}";

    /** A name without a colon, as a regular expression (Namespaces in XML 1.0, production 4). */
    static final String NAME =
            "[" + NAME_START + "][" + NAME_START + "\\-.0-9\\x{B7}\\x{300}-\\x{36F}\\x{203F}-\\x{2040}]*+";

    private static final Pattern PREFIX = Pattern.compile(NAME);

    /** The prefix that stands for the namespace of XML itself and is never declared. */
    static final String OWN_PREFIX = "xml";

    /** An XML file that is not validated. */
    public Xml(Map<String, String> namespaces) {
        this(namespaces, List.of());
    }

    public Xml {
        namespaces = namespaces == null ? Map.of() : new TreeMap<>(namespaces);
        schema = schema == null ? List.of() : List.copyOf(schema);
        namespaces.forEach((prefix, uri) -> {
            if (!PREFIX.matcher(prefix).matches() || uri == null || uri.isBlank()) {
                throw new DefinitionException("format.namespaces", "\"" + prefix + "\" needs a prefix and a namespace");
            }
        });
    }

    /** There are none: what is no element is no record. */
    @Override
    public BlankRows blankRows() {
        return BlankRows.SKIP;
    }

    /** Values are handed on in UTF-8, whatever the file's own encoding is. */
    @Override
    public FileCharset charset() {
        return FileCharset.UTF_8;
    }

    @Override
    public boolean tells(Recognition when) {
        return when instanceof Recognition.Path;
    }

    @Override
    public boolean tellsEach() {
        return true;
    }

    @Override
    public void requirePlace(String part, Field field) {
        if (!(field.place() instanceof Place.Path place)) {
            throw new DefinitionException(part, "needs its path");
        }
        requirePrefixes(part, ElementPath.relative(part, place.path()));
    }

    @Override
    public void requireTypes(List<RecordType> types) {
        for (RecordType type : types) {
            if (type.when() instanceof Recognition.Path path) {
                requirePrefixes("recordTypes." + type.name() + ".when", ElementPath.absolute("when.path", path.path()));
            }
        }
        // The outermost way, of no record, is around nothing.
        Nesting.require(types, type -> names(type).isEmpty() ? null : names(type));
    }

    private void requirePrefixes(String part, ElementPath path) {
        for (String prefix : path.prefixes()) {
            if (!prefix.equals(OWN_PREFIX) && !namespaces.containsKey(prefix)) {
                throw new DefinitionException(part, "the prefix " + prefix + " has no namespace");
            }
        }
    }

    /** The elements on the way to a record, with their namespaces. */
    private List<String> names(RecordType type) {
        return type.when() instanceof Recognition.Path path
                ? ElementPath.absolute("when.path", path.path()).steps().stream()
                        .map(s ->
                                s.name().namespace(namespaces) + "|" + s.name().local())
                        .toList()
                : List.of();
    }
}
