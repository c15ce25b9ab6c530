package ninepin.core.layout;

/** Where a field stands in its record. One implementation for each way to say it; which of them a file knows, its format says. */
public sealed interface Place {

    /** Where it is, in words behind the name of the field. */
    String words();

    /** Whether the place makes sense; the part is what is wrong otherwise. */
    void require(String part);

    /**
     * Under a name of the header row.
     *
     * @param name the name as it stands there
     */
    record Header(String name) implements Place {
        @Override
        public String words() {
            return "under the header \"" + name + "\"";
        }

        @Override
        public void require(String part) {
            // Any text may be a name.
        }
    }

    /**
     * In a column.
     *
     * @param number counted from 1
     */
    record Column(int number) implements Place {

        private static final int MOST = 16_384;

        @Override
        public String words() {
            return "in column " + number;
        }

        @Override
        public void require(String part) {
            if (number < 1 || number > MOST) {
                throw new DefinitionException(part + ".column", "must be from 1 to " + MOST);
            }
        }
    }

    /**
     * At a position of the record, in the units that the format counts in.
     *
     * @param start the first position, counted from 1
     * @param length how many positions it has
     */
    record Span(int start, int length) implements Place {

        /** The position behind the last one, counted from 0. */
        public int end() {
            return start - 1 + length;
        }

        @Override
        public String words() {
            return "at position " + start;
        }

        @Override
        public void require(String part) {
            if (start < 1 || length < 1) {
                throw new DefinitionException(part + ".start", "has a start and a length, both from 1");
            }
        }
    }

    /**
     * At a path of elements below that of the record.
     *
     * @param path as {@link ElementPath} reads it
     */
    record Path(String path) implements Place {
        @Override
        public String words() {
            return "at " + path;
        }

        @Override
        public void require(String part) {
            ElementPath.relative(part + ".path", path);
        }
    }

    /**
     * At a path of a JSON value, from that of the record on.
     *
     * @param path as {@link ninepin.core.layout.JsonPath} reads it
     */
    record JsonPath(String path) implements Place {
        @Override
        public String words() {
            return "at " + path;
        }

        @Override
        public void require(String part) {
            ninepin.core.layout.JsonPath.ofField(part + ".json", path);
        }
    }

    /**
     * In a column of a sheet.
     *
     * @param letter its letters, such as {@code C} or {@code AB}
     */
    record Letter(String letter) implements Place {

        public Letter {
            letter = letter == null ? null : letter.strip().toUpperCase(java.util.Locale.ROOT);
        }

        /** The number of the column, from 1. */
        public int number() {
            return CellName.column(letter);
        }

        @Override
        public String words() {
            return "in column " + letter;
        }

        @Override
        public void require(String part) {
            if (number() == 0 || number() >= CellName.MOST_COLUMNS) {
                throw new DefinitionException(part + ".letter", "names a column, from A to XFC");
            }
        }
    }

    /** In no cell: the value is the name of the sheet that its record stands on. */
    record SheetName() implements Place {
        @Override
        public String words() {
            return "the name of its sheet";
        }

        @Override
        public void require(String part) {
            // There is nothing to say.
        }
    }
}
