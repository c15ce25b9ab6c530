package ninepin.server.config;

import java.nio.charset.StandardCharsets;

/** Names of files that come from outside. */
public final class FileNames {

    private FileNames() {}

    /** As many bytes as a file system keeps of a name, with some room for what is added to it. */
    private static final int MOST_BYTES = 200;

    /**
     * The name without the folders and control characters a browser may send with it; of a long one the end, which tells the
     * kind of file.
     */
    public static String plain(String name, String otherwise) {
        String plain = name == null
                ? ""
                : name.replaceAll("^.*[/\\\\]", "").replaceAll("[\\p{Cc}\\p{Cf}\\p{Cs}\\u2028\\u2029]", "");
        plain = end(plain, MOST_BYTES);
        return plain.isBlank() || plain.equals(".") || plain.equals("..") ? otherwise : plain;
    }

    /** As much of the end of a text as some bytes hold. */
    public static String end(String text, int mostBytes) {
        int from = text.length();
        int bytes = 0;
        while (from > 0) {
            int code = text.codePointBefore(from);
            bytes += Character.toString(code).getBytes(StandardCharsets.UTF_8).length;
            if (bytes > mostBytes) {
                break;
            }
            from -= Character.charCount(code);
        }
        return text.substring(from);
    }
}
