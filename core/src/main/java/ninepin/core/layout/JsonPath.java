package ninepin.core.layout;

import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * A path to a value of a JSON document: a part of JSONPath (RFC 9535). That of a record begins with {@code $}, and {@code [*]}
 * in it stands for each element of an array; that of a field begins at its record, and is {@code @} where the record is no object.
 *
 * @param steps the way to the value
 */
public record JsonPath(List<Step> steps) {

    /** A step of a path. */
    public sealed interface Step {}

    /** To the member of an object. */
    public record Member(String name) implements Step {}

    /** To each element of an array. */
    public record Each() implements Step {}

    /** To one element of an array, counted from 0. */
    public record At(int index) implements Step {}

    private static final Pattern PLAIN =
            Pattern.compile("[A-Za-z_\\x{80}-\\x{10FFFF}][A-Za-z0-9_\\x{80}-\\x{10FFFF}-]*");
    private static final Pattern QUOTED = Pattern.compile("\\['((?:[^'\\\\]|\\\\['\\\\])*)'\\]");
    private static final Pattern INDEX = Pattern.compile("\\[(\\d{1,4})\\]");
    private static final String EACH = "[*]";

    public JsonPath {
        steps = List.copyOf(steps);
    }

    /** The path of a record. */
    public static JsonPath ofRecord(String part, String text) {
        if (text == null || !text.startsWith("$")) {
            throw new DefinitionException(part, "begins with $, which stands for the document");
        }
        JsonPath path = parse(part, text, 1);
        if (path.steps.stream().anyMatch(s -> s instanceof At)) {
            throw new DefinitionException(part, "takes each element of an array, written [*]");
        }
        return path;
    }

    /** The path of a field, from its record on. */
    public static JsonPath ofField(String part, String text) {
        if (text == null || text.isBlank()) {
            throw new DefinitionException(part, "must not be empty");
        }
        JsonPath path = parse(part, text.startsWith("@") ? text : "@." + text, 1);
        if (path.steps.stream().anyMatch(s -> s instanceof Each)) {
            throw new DefinitionException(
                    part, "takes one element of an array, as in tags[0]; for each of them there is a record type");
        }
        return path;
    }

    private static JsonPath parse(String part, String text, int from) {
        List<Step> steps = new ArrayList<>();
        int at = from;
        while (at < text.length()) {
            Matcher quoted = QUOTED.matcher(text).region(at, text.length());
            Matcher index = INDEX.matcher(text).region(at, text.length());
            boolean point = text.charAt(at) == '.';
            Matcher plain = PLAIN.matcher(text).region(Math.min(text.length(), at + 1), text.length());
            // A quoted name may come first, behind the point that is put before every path of a field.
            Matcher first = QUOTED.matcher(text).region(Math.min(text.length(), at + 1), text.length());
            if (text.startsWith(EACH, at)) {
                steps.add(new Each());
                at += EACH.length();
            } else if (quoted.lookingAt() || point && first.lookingAt()) {
                Matcher name = quoted.lookingAt() ? quoted : first;
                steps.add(new Member(name.group(1).replaceAll("\\\\(.)", "$1")));
                at = name.end();
            } else if (index.lookingAt()) {
                steps.add(new At(Integer.parseInt(index.group(1))));
                at = index.end();
            } else if (point && plain.lookingAt()) {
                steps.add(new Member(plain.group()));
                at = plain.end();
            } else {
                throw new DefinitionException(part, "cannot be read from \"" + text.substring(at) + "\" on");
            }
        }
        return new JsonPath(steps);
    }

    /** The path as it is written from a value on, such as {@code .lines[*]['odd name']}. */
    public String text() {
        StringBuilder text = new StringBuilder();
        steps.forEach(step -> text.append(text(step)));
        return text.toString();
    }

    /** The path of a field that leads along members, as it is written. */
    public static String fieldText(List<String> members) {
        String text =
                new JsonPath(members.stream().map(m -> (Step) new Member(m)).toList()).text();
        return text.isEmpty() ? "@" : text.startsWith(".") ? text.substring(1) : "@" + text;
    }

    private static String text(Step step) {
        if (step instanceof Member member) {
            return PLAIN.matcher(member.name()).matches()
                    ? "." + member.name()
                    : "['" + member.name().replaceAll("(['\\\\])", "\\\\$1") + "']";
        }
        return step instanceof At at ? "[" + at.index() + "]" : EACH;
    }
}
