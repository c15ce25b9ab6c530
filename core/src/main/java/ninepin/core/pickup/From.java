package ninepin.core.pickup;

import ninepin.core.bytes.FilePattern;
import ninepin.core.layout.DefinitionException;

/** Where records come from. One record for each kind of source. */
public sealed interface From {

    /** Whether what comes may be the same as before: rows of a query may be, a file is sent again by mistake. */
    default boolean repeats() {
        return false;
    }

    /** What becomes at the source of what was taken. */
    default Settlement settlement() {
        return Settlement.NONE;
    }

    /**
     * Files of a folder.
     *
     * @param root the name of a configured root folder
     * @param folder the folder below it, with forward slashes; empty for the root itself
     * @param pattern the names of files that are taken: {@code *} for any characters, {@code ?} for one
     */
    record Folder(String root, String folder, String pattern) implements From {

        public Folder {
            folder = new FilePattern(root, folder, pattern)
                    .require("pickUp.from")
                    .folder();
        }

        /** Whether a file's name fits the pattern. Case counts. */
        public boolean takes(String fileName) {
            return new FilePattern(root, folder, pattern).takes(fileName);
        }
    }

    /**
     * Rows of a database: they are copied, as one look at the database, to a file in the layout of the job, which is then run
     * like any other.
     *
     * @param connection the name of the connection
     * @param statement the query, with host variables such as {@code :today}
     * @param key the column that puts the rows in order; null for the order of the query itself
     * @param onlyNew whether only rows are taken whose key comes behind that of the last row taken
     * @param lagSeconds with onlyNew: how long a row may be committed after one with a higher key was; rows are taken so
     *     much later
     * @param writtenBy who wrote it, as the application has noted; or null
     */
    record Query(String connection, String statement, String key, boolean onlyNew, int lagSeconds, String writtenBy)
            implements From {

        private static final int MOST_LAG = 86_400;

        public Query {
            connection = connection == null ? "" : connection.strip();
            statement = statement == null ? "" : statement;
            key = key == null || key.isBlank() ? null : key.strip();
            if (onlyNew && key == null) {
                throw new DefinitionException("pickUp.from.key", "says by which column new rows are known");
            }
            if (lagSeconds < 0 || lagSeconds > MOST_LAG) {
                throw new DefinitionException("pickUp.from.lagSeconds", "goes from 0 to " + MOST_LAG);
            }
            lagSeconds = onlyNew ? lagSeconds : 0;
        }

        /** Whether it is said what is asked. */
        public boolean decided() {
            return !connection.isEmpty() && !statement.isBlank();
        }

        @Override
        public boolean repeats() {
            return true;
        }
    }
}
