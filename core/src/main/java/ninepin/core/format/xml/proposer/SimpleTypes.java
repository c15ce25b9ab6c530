package ninepin.core.format.xml.proposer;

import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.regex.Pattern;
import java.util.regex.PatternSyntaxException;
import ninepin.core.format.xml.schema.Node;
import ninepin.core.format.xml.schema.Node.Name;
import ninepin.core.format.xml.schema.Schema;
import ninepin.core.format.xml.schema.Schema.Component;
import ninepin.core.layout.Check;
import ninepin.core.layout.DataType;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.Severity;

/** Simple types (XML Schema part 2) as data types, their facets as checks. */
final class SimpleTypes {

    /** What is known of a simple type; facets of a restriction stand over those of its base. */
    static final class Facets {
        String base = "string";
        final List<String> enumeration = new ArrayList<>();
        final List<String> patterns = new ArrayList<>();
        Integer minLength;
        Integer maxLength;
        Integer totalDigits;
        Integer fractionDigits;
        String least;
        String most;
        boolean exclusive;
        String note;
    }

    private static final int TEXT = 255;
    private static final int INTEGER_DIGITS = 18;
    private static final int FRACTION = 12;
    /** What is not stated of a number with an exponent: half of its digits are left for either side of the point. */
    private static final int FRACTION_OF_DOUBLE = 19;

    static final String DATE = "yyyy-MM-dd[X]";
    static final String TIME = "HH:mm:ss[.SSSSSSSSS][X]";
    static final String DATE_TIME = "yyyy-MM-dd'T'HH:mm:ss[.SSSSSSSSS][X]";
    private static final int DEEPEST = 32;

    private final Schema schema;

    SimpleTypes(Schema schema) {
        this.schema = schema;
    }

    /** What is known of a type by its name. */
    Facets named(Name name, String from) {
        return named(name, from, 0);
    }

    private Facets named(Name name, String from, int depth) {
        if (name == null || Node.SCHEMA.equals(name.namespace())) {
            Facets facets = new Facets();
            facets.base = name == null ? "string" : name.local();
            return facets;
        }
        Component type = schema.find("type", name, from);
        return type.node().is("simpleType") ? of(type, depth + 1) : new Facets();
    }

    /** What is known of a simple type that stands in the document. */
    Facets of(Component type) {
        return of(type, 0);
    }

    private Facets of(Component type, int depth) {
        Node restriction = type.node().child("restriction");
        if (restriction == null || depth > DEEPEST) {
            Facets facets = new Facets();
            facets.note = type.node().child("list") != null ? "a list of values" : "values of several types";
            return facets;
        }
        Node inner = restriction.child("simpleType");
        Facets facets = inner != null
                ? of(type.of(inner), depth + 1)
                : named(restriction.name("base"), String.valueOf(type.node().get("name")), depth);
        restrict(facets, restriction);
        return facets;
    }

    /** Adds the facets of a restriction. */
    static void restrict(Facets facets, Node restriction) {
        List<Node> values = restriction.all("enumeration");
        if (!values.isEmpty()) {
            facets.enumeration.clear();
            values.forEach(v -> facets.enumeration.add(value(v)));
        }
        List<String> patterns =
                restriction.all("pattern").stream().map(SimpleTypes::value).toList();
        if (!patterns.isEmpty()) {
            facets.patterns.add(patterns.size() == 1 ? patterns.get(0) : "(" + String.join(")|(", patterns) + ")");
        }
        for (Node facet : restriction.children) {
            switch (facet.local) {
                case "length" -> {
                    facets.minLength = number(facet);
                    facets.maxLength = facets.minLength;
                }
                case "minLength" -> facets.minLength = number(facet);
                case "maxLength" -> facets.maxLength = number(facet);
                case "totalDigits" -> facets.totalDigits = number(facet);
                case "fractionDigits" -> facets.fractionDigits = number(facet);
                case "minInclusive" -> facets.least = value(facet);
                case "maxInclusive" -> facets.most = value(facet);
                case "minExclusive", "maxExclusive" -> {
                    facets.exclusive = true;
                    facets.note = facet.local + " " + value(facet);
                }
                default -> {}
            }
        }
    }

    private static String value(Node facet) {
        String value = facet.get("value");
        if (value == null) {
            throw new DefinitionException("xsd", "a " + facet.local + " has no value");
        }
        return value;
    }

    private static Integer number(Node facet) {
        try {
            return Integer.valueOf(value(facet).strip());
        } catch (NumberFormatException e) {
            return null;
        }
    }

    /** The data type of a simple type. */
    static DataType type(Facets f) {
        return switch (f.base) {
            case "int", "short", "byte", "unsignedInt", "unsignedShort", "unsignedByte", "gYear" ->
                new DataType.IntegerNumber();
            case "integer", "nonNegativeInteger", "positiveInteger", "nonPositiveInteger", "negativeInteger" ->
                whole(f, DataType.Decimal.MOST_DIGITS);
            case "long" -> whole(f, 19);
            case "unsignedLong" -> whole(f, 20);
            case "decimal" -> {
                int scale = f.fractionDigits == null ? FRACTION : Math.min(f.fractionDigits, 30);
                int digits = f.totalDigits == null
                        ? DataType.Decimal.MOST_DIGITS
                        : Math.min(f.totalDigits, DataType.Decimal.MOST_DIGITS);
                yield new DataType.Decimal(Math.max(digits, Math.max(1, scale)), scale, '.', null);
            }
            case "double", "float" ->
                new DataType.Decimal(DataType.Decimal.MOST_DIGITS, FRACTION_OF_DOUBLE, '.', null, null, true);
            case "boolean" -> new DataType.Bool(List.of("true", "1"), List.of("false", "0"));
            case "date" -> new DataType.Date(DATE);
            case "time" -> new DataType.Time(TIME);
            case "dateTime" -> new DataType.Timestamp(DATE_TIME);
            case "base64Binary", "hexBinary" ->
                new DataType.CharacterVarying(
                        f.maxLength == null
                                ? DataType.CharacterVarying.MOST
                                : Math.min(DataType.CharacterVarying.MOST, f.maxLength * 2 + 4));
            default -> new DataType.CharacterVarying(length(f));
        };
    }

    /** A whole number, of as many digits as the facets leave. */
    private static DataType whole(Facets f, int most) {
        int digits = f.totalDigits == null ? most : Math.min(f.totalDigits, most);
        if (f.least != null && f.most != null) {
            digits = Math.min(digits, Math.max(digitsOf(f.least, most), digitsOf(f.most, most)));
        }
        return digits <= INTEGER_DIGITS ? new DataType.IntegerNumber() : new DataType.Decimal(digits, 0, '.', null);
    }

    private static int digitsOf(String number, int otherwise) {
        String digits = number.strip().replaceFirst("^[-+]", "");
        return digits.matches("[0-9]+") ? digits.length() : otherwise;
    }

    private static int length(Facets f) {
        int longest = f.enumeration.stream().mapToInt(String::length).max().orElse(0);
        int most = f.maxLength != null ? f.maxLength : longest > 0 ? longest : TEXT;
        return Math.max(1, Math.min(most, DataType.CharacterVarying.MOST));
    }

    /** The checks that the facets make. */
    static List<Check> checks(Facets f, boolean required) {
        List<Check> checks = new ArrayList<>();
        if (required) {
            checks.add(new Check.Required(Severity.REJECT));
        }
        boolean text = type(f) instanceof DataType.CharacterVarying;
        if (text && !f.enumeration.isEmpty()) {
            checks.add(new Check.OneOf(List.copyOf(f.enumeration), Severity.REJECT));
        }
        if (text && f.minLength != null && f.minLength > 0) {
            checks.add(new Check.Length(f.minLength, null, Severity.REJECT));
        }
        if (text) {
            f.patterns.stream()
                    .filter(SimpleTypes::compiles)
                    .forEach(p -> checks.add(new Check.Matches(p, Severity.REJECT)));
        }
        boolean zoned = Set.of("date", "time", "dateTime").contains(f.base);
        String least = f.least != null ? f.least : f.base.equals("positiveInteger") ? "1" : natural(f) ? "0" : null;
        if (!text && !zoned && (least != null || f.most != null)) {
            checks.add(new Check.Range(least, f.most, Severity.REJECT));
        }
        return checks;
    }

    private static boolean natural(Facets f) {
        return f.base.equals("nonNegativeInteger") || f.base.startsWith("unsigned");
    }

    /** Whether a pattern of the schema means the same here; few do not, such as those with \\i and \\c. */
    private static boolean compiles(String pattern) {
        try {
            Pattern.compile(pattern);
            return !pattern.contains("-[") && !pattern.matches(".*\\\\[icIC].*");
        } catch (PatternSyntaxException e) {
            return false;
        }
    }

    /** What of a type could not become a check, in words, or null. */
    static String note(Facets f) {
        List<String> lost = f.patterns.stream()
                .filter(p -> !compiles(p))
                .map(p -> "pattern " + p)
                .toList();
        String more = lost.isEmpty() ? null : "not checked: " + String.join(", ", lost);
        return f.note == null ? more : more == null ? "not checked: " + f.note : more + ", " + f.note;
    }
}
