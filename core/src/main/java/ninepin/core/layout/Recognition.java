package ninepin.core.layout;

import java.util.HashSet;
import java.util.List;
import java.util.Locale;

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

    /**
     * Rows of sheets of a workbook.
     *
     * @param sheet the name of the sheet, in which {@code *} stands for any characters and {@code ?} for one; null for every
     *     sheet, or where its position is given
     * @param position the position of the sheet among those of the workbook, from 1; null where it is found by its name
     * @param range the cells that the rows stand in: the name of a range or a table of the workbook, or corners such as
     *     {@code B4:F30}; null for all of the sheet
     * @param header the row in which the names of columns stand, from 1; 0 where there is none, null where it is to be found
     * @param untilBlank true where the rows end before the first blank one, but for those that a text tells; else null
     * @param column the letters of the column whose text tells these rows from others of the same cells, or null
     * @param values the texts in that column
     * @param last true for the last row of the cells; else null
     */
    record Rows(
            String sheet,
            Integer position,
            String range,
            Integer header,
            Boolean untilBlank,
            String column,
            List<String> values,
            Boolean last)
            implements Recognition {

        /** The cells that rows stand in, whichever of them are told from others. */
        public record Table(String sheet, Integer position, String range, Integer header, boolean untilBlank) {}

        public Rows {
            sheet = sheet == null || sheet.isBlank() || sheet.equals("*") ? null : sheet;
            range = range == null || range.isBlank() ? null : range.strip();
            column = column == null || column.isBlank() ? null : column.strip().toUpperCase(Locale.ROOT);
            values = values == null || values.isEmpty() ? null : List.copyOf(values);
            untilBlank = Boolean.TRUE.equals(untilBlank) ? true : null;
            last = Boolean.TRUE.equals(last) ? true : null;
            if (sheet != null && position != null) {
                throw new DefinitionException("when.sheet", "is found by its name or by its position, not by both");
            }
            if (position != null && position < 1) {
                throw new DefinitionException("when.position", "counts from 1");
            }
            if (header != null && (header < 0 || header > CellName.MOST_ROWS)) {
                throw new DefinitionException("when.header", "is a row of the sheet, or 0 where there is none");
            }
            if ((column == null) != (values == null)) {
                throw new DefinitionException("when.column", "and the texts that stand in it go together");
            }
            if (column != null && CellName.column(column) == 0) {
                throw new DefinitionException("when.column", "names a column, from A to XFD");
            }
            if (column != null && last != null) {
                throw new DefinitionException("when.last", "tells the rows already, without a text in a column");
            }
        }

        /** All rows of a sheet whose header is to be found. */
        public Rows(String sheet) {
            this(sheet, null, null, null, null, null, null, null);
        }

        /** The cells that they stand in. */
        public Table table() {
            return new Table(sheet, position, range, header, untilBlank != null);
        }

        /** Whether nothing tells them from others of the same cells. */
        public boolean plain() {
            return column == null && last == null;
        }

        @Override
        public String sentence() {
            String where = position != null ? "sheet " + position : sheet == null ? "each sheet" : "sheet " + sheet;
            String of = (range == null ? "" : range + " of ") + where;
            if (last != null) {
                return "is the last row of " + of;
            }
            return column == null
                    ? "is each row of " + of
                    : "has " + String.join(" or ", values) + " in column " + column + " of " + of;
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
