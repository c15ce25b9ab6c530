package ninepin.core.bytes;

import java.util.regex.Pattern;
import ninepin.core.layout.DefinitionException;

/**
 * Which files of a folder are meant.
 *
 * @param root the name of a configured root folder
 * @param folder the folder below it, or empty for the root itself
 * @param pattern file names with {@code *} and {@code ?}; case counts
 */
public record FilePattern(String root, String folder, String pattern) {

    private static final Pattern ABOVE = Pattern.compile("(^|/)\\.\\.?(/|$)");

    public FilePattern {
        folder = folder == null ? "" : folder.strip();
    }

    /**
     * Makes sure that it stays inside of its root.
     *
     * @param part what it is part of, for the message
     */
    public FilePattern require(String part) {
        if (root == null || root.isBlank()) {
            throw new DefinitionException(part + ".root", "names one of the configured root folders");
        }
        if (folder.startsWith("/")
                || folder.contains("\\")
                || folder.contains("\0")
                || ABOVE.matcher(folder).find()) {
            throw new DefinitionException(part + ".folder", "stays below its root: no leading slash, no \"..\"");
        }
        if (pattern == null || pattern.isBlank() || pattern.contains("/") || pattern.contains("\\")) {
            throw new DefinitionException(part + ".pattern", "is a file name with * and ?, without slashes");
        }
        return this;
    }

    /** Whether a file's name fits the pattern. */
    public boolean takes(String fileName) {
        StringBuilder regex = new StringBuilder();
        for (char c : pattern.toCharArray()) {
            regex.append(c == '*' ? ".*" : c == '?' ? "." : Pattern.quote(String.valueOf(c)));
        }
        return Pattern.compile(regex.toString(), Pattern.DOTALL)
                .matcher(fileName)
                .matches();
    }
}
