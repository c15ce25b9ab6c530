package ninepin.core.deliver;

import java.util.Arrays;
import java.util.Locale;
import ninepin.core.layout.DefinitionException;

/** The kinds of databases that rows are delivered to. */
public enum DatabaseKind {
    /** MariaDB, and MySQL as far as it speaks the same. */
    MARIADB("MariaDB", 3306),
    POSTGRESQL("PostgreSQL", 5432),
    /** Whatever a driver of the operator leads to; connections know it by the name of the driver. */
    OTHER("another database", 0);

    private final String words;
    private final int port;

    DatabaseKind(String words, int port) {
        this.words = words;
        this.port = port;
    }

    public String words() {
        return words;
    }

    /** The port that its servers usually listen on. */
    public int port() {
        return port;
    }

    /**
     * A kind by its name, as {@link #toString} gives it.
     *
     * @throws DefinitionException where there is none
     */
    public static DatabaseKind named(String name) {
        return Arrays.stream(values())
                .filter(k -> k != OTHER && k.toString().equals(name))
                .findFirst()
                .orElseThrow(
                        () -> new DefinitionException(
                                "kind",
                                "\"" + name
                                        + "\" is no kind of database; known are mariadb, postgresql and the drivers of this installation"));
    }

    @Override
    public String toString() {
        return name().toLowerCase(Locale.ROOT);
    }
}
