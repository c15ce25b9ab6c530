package ninepin.core.layout;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import javax.xml.XMLConstants;

/**
 * The part of XPath 1.0 (abbreviated syntax) that names a place below an element without looking back: element names
 * with an optional position, and at the end an attribute or {@code text()}.
 *
 * @param absolute whether it starts at the root
 * @param steps its elements, from the outside in
 * @param leaf the attribute's name, {@code text()}, or null for the text of the last element
 */
public record ElementPath(boolean absolute, List<Step> steps, Name leaf) {

    /**
     * A name with its prefix.
     *
     * @param prefix the prefix, or an empty text
     * @param local the local name
     */
    public record Name(String prefix, String local) {

        /** The namespace of the name; no prefix is no namespace, and {@code xml} is declared everywhere. */
        public String namespace(Map<String, String> namespaces) {
            return prefix.isEmpty()
                    ? ""
                    : prefix.equals(Xml.OWN_PREFIX) ? XMLConstants.XML_NS_URI : namespaces.getOrDefault(prefix, "");
        }
    }

    /**
     * An element.
     *
     * @param name its name
     * @param position which of its repetitions, from 1; 0 for the first there is
     */
    public record Step(Name name, int position) {}

    /** The leaf that stands for the text directly inside an element, that of its children left out. */
    public static final Name OWN_TEXT = new Name("", "text()");

    private static final String NAME = "(?:(" + Xml.NAME + "):)?(" + Xml.NAME + ")";
    private static final Pattern STEP = Pattern.compile(NAME + "(?:\\[([1-9]\\d{0,5})\\])?");
    private static final Pattern ATTRIBUTE = Pattern.compile("@" + NAME);

    public ElementPath {
        steps = List.copyOf(steps);
    }

    /** Whether the leaf is an attribute. */
    public boolean ofAttribute() {
        return leaf != null && !leaf.equals(OWN_TEXT);
    }

    /** The path at which a field of an XML layout stands. */
    public static ElementPath of(Field field) {
        return parse("path", ((Place.Path) field.place()).path());
    }

    /** Reads a path from the root to an element. */
    static ElementPath absolute(String part, String text) {
        ElementPath path = parse(part, text);
        if (!path.absolute || path.leaf != null || path.steps.stream().anyMatch(s -> s.position > 0)) {
            throw new DefinitionException(part, "\"" + text + "\" is no path from the root to an element");
        }
        return path;
    }

    /** Reads a path below an element: {@code name}, {@code address/town}, {@code @id}, {@code herd[2]/@id}, {@code text()}. */
    static ElementPath relative(String part, String text) {
        ElementPath path = parse(part, text);
        if (path.absolute) {
            throw new DefinitionException(part, "\"" + text + "\" starts at the root; a field stands below its record");
        }
        return path;
    }

    /** Reads a path of either kind. */
    public static ElementPath parse(String part, String text) {
        if (text == null || text.isBlank()) {
            throw new DefinitionException(part, "must not be empty");
        }
        boolean absolute = text.startsWith("/");
        List<Step> steps = new ArrayList<>();
        Name leaf = null;
        String[] words = (absolute ? text.substring(1) : text).split("/", -1);
        for (int i = 0; i < words.length; i++) {
            Matcher step = STEP.matcher(words[i]);
            Matcher attribute = ATTRIBUTE.matcher(words[i]);
            boolean last = i == words.length - 1;
            if (last && words[i].equals("text()")) {
                leaf = OWN_TEXT;
            } else if (last && attribute.matches()) {
                leaf = name(attribute);
            } else if (step.matches()) {
                steps.add(new Step(name(step), step.group(3) == null ? 0 : Integer.parseInt(step.group(3))));
            } else if (!(words.length == 1 && words[i].equals("."))) {
                throw new DefinitionException(part, "\"" + words[i] + "\" is no step of a path in " + text);
            }
        }
        return new ElementPath(absolute, steps, leaf);
    }

    private static Name name(Matcher m) {
        return new Name(m.group(1) == null ? "" : m.group(1), m.group(2));
    }

    /** All prefixes that the path uses. */
    List<String> prefixes() {
        List<String> all = new ArrayList<>();
        steps.forEach(s -> all.add(s.name().prefix()));
        if (leaf != null) {
            all.add(leaf.prefix());
        }
        all.removeIf(String::isEmpty);
        return all;
    }
}
