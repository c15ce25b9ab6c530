package ninepin.server.config;

/** Names of files that come from outside. */
public final class FileNames {

    private FileNames() {}

    /** As long as a name is kept; the end of a longer one, which tells the kind of file. */
    private static final int MOST = 200;

    /** The name without the folders and control characters a browser may send with it. */
    public static String plain(String name, String otherwise) {
        String plain = name == null ? "" : name.replaceAll("^.*[/\\\\]", "").replaceAll("[\\x00-\\x1f]", "");
        if (plain.isBlank() || plain.equals(".") || plain.equals("..")) {
            return otherwise;
        }
        return plain.length() > MOST ? plain.substring(plain.length() - MOST) : plain;
    }
}
