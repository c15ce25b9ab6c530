package ninepin.core.layout;

import java.util.HashSet;
import java.util.List;

/** How a record type is told from the others in its file. */
public sealed interface Recognition {

    /** How it reads in a sentence after the type's name. */
    String sentence();

    /**
     * By a tag: one of a list of texts in a column, or at a position of a fixed-length record.
     *
     * @param column the column, from 1, or null
     * @param start the position, from 1, or null
     * @param values the tags; at a position all of one length
     */
    record Tag(Integer column, Integer start, List<String> values) implements Recognition {
        public Tag {
            values = values == null ? List.of() : List.copyOf(values);
            if ((column == null) == (start == null)) {
                throw new DefinitionException("when.tag", "stands either in a column or at a position");
            }
            if (column != null && column < 1 || start != null && start < 1) {
                throw new DefinitionException("when.tag", "columns and positions count from 1");
            }
            if (values.isEmpty() || values.stream().anyMatch(String::isEmpty)) {
                throw new DefinitionException("when.tag", "must not be empty");
            }
            if (start != null && values.stream().map(String::length).distinct().count() > 1) {
                throw new DefinitionException("when.tag", "tags at a position have one length");
            }
            if (new HashSet<>(values).size() < values.size()) {
                throw new DefinitionException("when.tag", "a tag stands twice");
            }
        }

        @Override
        public String sentence() {
            return "has " + String.join(" or ", values)
                    + (column != null ? " in column " + column : " at position " + start);
        }
    }

    /** The first record of the file. */
    record FirstLine() implements Recognition {
        @Override
        public String sentence() {
            return "is the first record";
        }
    }

    /** The last record of the file, blank rows behind it left out. */
    record LastLine() implements Recognition {
        @Override
        public String sentence() {
            return "is the last record";
        }
    }

    /**
     * An element of an XML file, by its path.
     *
     * @param path element names from the root on, such as {@code /r:register/r:farm}; prefixes as the format gives them
     */
    record Path(String path) implements Recognition {
        public Path {
            ElementPath.absolute("when.path", path);
        }

        @Override
        public String sentence() {
            return "is each " + path;
        }
    }

    /**
     * A value of a JSON document, by its path.
     *
     * @param path from the document on, such as {@code $.orders[*]}; see {@link ninepin.core.layout.JsonPath}
     */
    record JsonPath(String path) implements Recognition {
        public JsonPath {
            ninepin.core.layout.JsonPath.ofRecord("when.path", path);
        }

        @Override
        public String sentence() {
            return "is each " + path;
        }
    }

    /** By the key that gathers records into documents; of a layout that is made of another, never of a file. */
    record Gathered() implements Recognition {
        @Override
        public String sentence() {
            return "gathered by a key";
        }
    }
}
