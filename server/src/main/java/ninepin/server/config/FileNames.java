package ninepin.server.config;

/** Names of files that come from outside. */
public final class FileNames {

    private FileNames() {}

    /** The name without the folders a browser may send with it. */
    public static String plain(String name, String otherwise) {
        return name == null || name.isBlank() ? otherwise : name.replaceAll("^.*[/\\\\]", "");
    }
}
