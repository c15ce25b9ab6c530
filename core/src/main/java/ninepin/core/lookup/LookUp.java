package ninepin.core.lookup;

import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import ninepin.core.bytes.FilePattern;
import ninepin.core.layout.DefinitionException;

/**
 * Fields added to the records of a type by a key, from a table or another file.
 *
 * @param name what formulas and rules name it: its fields are {@code name.field}
 * @param of the name of the record type; null for the one that documents hang on
 * @param from where it looks
 * @param key by what it finds the row; while there is none, nothing can be found
 * @param take the columns that are added; empty for all
 * @param missing what happens to a record whose key is not there
 */
public record LookUp(String name, String of, From from, List<Key> key, List<String> take, Missing missing) {

    /** Where a look-up looks. */
    public sealed interface From {

        /** The place in words. */
        String sentence();
    }

    /**
     * A table.
     *
     * @param connection the name of the connection
     * @param table the table, with or without its schema
     */
    public record InTable(String connection, String table) implements From {
        public InTable {
            connection = connection == null ? "" : connection.strip();
            table = table == null ? "" : table.strip();
        }

        @Override
        public String sentence() {
            return "the table " + table;
        }
    }

    /**
     * The newest file of a folder whose name fits.
     *
     * @param root the name of a configured root folder
     * @param folder the folder below it
     * @param pattern the file's name, with {@code *} and {@code ?}
     * @param layout the name of its layout
     * @param type the record type that it looks through; null for the first one
     */
    public record InFile(String root, String folder, String pattern, String layout, String type) implements From {
        public InFile {
            folder = new FilePattern(root, folder, pattern)
                    .require("lookUps.from")
                    .folder();
            layout = layout == null ? "" : layout.strip();
            type = type == null || type.isBlank() ? null : type;
        }

        /** Which files are meant. */
        public FilePattern files() {
            return new FilePattern(root, folder, pattern);
        }

        @Override
        public String sentence() {
            return "the file " + pattern;
        }
    }

    /**
     * A part of the key.
     *
     * @param column the column that is compared
     * @param is the formula whose value it has, seen from the record
     */
    public record Key(String column, String is) {
        public Key {
            if (column == null || column.isBlank() || is == null || is.isBlank()) {
                throw new DefinitionException(
                        "lookUps.key", "a part has a column and the formula that it is compared with");
            }
        }
    }

    /** What happens to a record whose key is not there. A key that is NULL finds nothing and asks for nothing. */
    public enum Missing {
        /** The record is refused. */
        REJECT,
        /** The fields are NULL, and a note says so. */
        NOTE,
        /** The fields are NULL. */
        BLANK;

        @Override
        public String toString() {
            return name().toLowerCase(Locale.ROOT);
        }
    }

    public LookUp {
        if (name == null || !name.matches("[A-Za-z][A-Za-z0-9_]{0,62}")) {
            throw new DefinitionException(
                    "lookUps.name", "\"" + name + "\" is not a name: letters, digits and underscores, a letter first");
        }
        if (from == null) {
            throw new DefinitionException("lookUps." + name, "says where it looks");
        }
        of = of == null || of.isBlank() ? null : of;
        key = key == null ? List.of() : List.copyOf(key);
        take = take == null ? List.of() : List.copyOf(take);
        missing = missing == null ? Missing.REJECT : missing;
        Set<String> columns = new HashSet<>();
        for (Key part : key) {
            if (!columns.add(part.column().toLowerCase(Locale.ROOT))) {
                throw new DefinitionException("lookUps." + name, "compares " + part.column() + " twice");
            }
        }
    }

    /** What has to be said before it can look, or null. */
    public String lacking() {
        if (from instanceof InTable in
                && (in.connection().isEmpty() || in.table().isEmpty())) {
            return "choose the table";
        }
        if (from instanceof InFile in && in.layout().isEmpty()) {
            return "choose the layout of the file";
        }
        return key.isEmpty() ? "say by which key it looks" : null;
    }
}
