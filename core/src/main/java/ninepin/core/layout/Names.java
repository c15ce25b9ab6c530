package ninepin.core.layout;

import java.util.regex.Pattern;

/** Rules for the names that definitions are known by. */
public final class Names {

    private static final Pattern SLUG = Pattern.compile("[a-z0-9](?:[a-z0-9-]{0,62}[a-z0-9])?");

    private Names() {}

    /** Requires a name fit for a file name and an address: lower case letters, digits and hyphens, at most 64. */
    public static String requireSlug(String part, String name) {
        if (name == null || !SLUG.matcher(name).matches()) {
            throw new DefinitionException(
                    part, "\"" + name + "\" is not a name: use lower case letters, digits and hyphens, 64 at most");
        }
        return name;
    }

    public static String requireText(String part, String text) {
        if (text == null || text.isBlank()) {
            throw new DefinitionException(part, "must not be empty");
        }
        return text;
    }
}
