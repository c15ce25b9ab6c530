package ninepin.core.layout;

import java.util.HashSet;
import java.util.List;
import java.util.Set;

/**
 * A workbook of sheets (ISO/IEC 29500, .xlsx).
 *
 * @param hiddenRows what happens to hidden rows; null for {@link HiddenRows#READ}
 * @param mergedCells which of the cells that are merged have the value; null for {@link MergedCells#FIRST}
 * @param headerAnyCase whether names of header rows are compared without regard to upper and lower case
 * @param missingColumns whether a header row may lack columns whose fields need no value
 */
public record Workbook(HiddenRows hiddenRows, MergedCells mergedCells, boolean headerAnyCase, boolean missingColumns)
        implements Format {

    /** What happens to hidden rows. */
    public enum HiddenRows {
        READ,
        SKIP;

        @Override
        public String toString() {
            return name().toLowerCase();
        }
    }

    /** Which of the cells that are merged have the value. */
    public enum MergedCells {
        /** The first one; the others are empty, as in the file. */
        FIRST,
        /** Each of them. */
        EACH;

        @Override
        public String toString() {
            return name().toLowerCase();
        }
    }

    public Workbook {
        hiddenRows = hiddenRows == null ? HiddenRows.READ : hiddenRows;
        mergedCells = mergedCells == null ? MergedCells.FIRST : mergedCells;
    }

    /** Hidden rows are read, the first of merged cells has the value. */
    public Workbook() {
        this(null, null, false, false);
    }

    @Override
    public FileCharset charset() {
        return FileCharset.UTF_8;
    }

    /** Rows in which nothing stands are not in the file, or have formats only. */
    @Override
    public BlankRows blankRows() {
        return BlankRows.SKIP;
    }

    @Override
    public boolean tells(Recognition when) {
        return when instanceof Recognition.Rows;
    }

    @Override
    public boolean tellsEach() {
        return true;
    }

    @Override
    public boolean sharesPlaces() {
        return false;
    }

    @Override
    public void requirePlace(String part, Field field) {
        Place place = field.place();
        if (!(place instanceof Place.Header || place instanceof Place.Letter || place instanceof Place.SheetName)) {
            throw new DefinitionException(part, "needs the name over its column, or the letters of its column");
        }
        if (!NumberForm.of(field.type()).equals(NumberForm.PLAIN)) {
            throw new DefinitionException(part + ".type.form", "numbers of a workbook have no form of their own");
        }
    }

    @Override
    public void requireTypes(List<RecordType> types) {
        Set<Recognition.Rows.Table> plain = new HashSet<>();
        for (RecordType type : types) {
            if (!(type.when() instanceof Recognition.Rows rows)) {
                continue;
            }
            String part = "recordTypes." + type.name() + ".when";
            if (rows.plain() && !plain.add(rows.table())) {
                throw new DefinitionException(part, "is told from another record type by nothing");
            }
            boolean named = type.fields().stream().anyMatch(f -> f.place() instanceof Place.Header);
            if (named && Integer.valueOf(0).equals(rows.header())) {
                throw new DefinitionException(
                        part + ".header", "is needed: fields of " + type.name() + " stand under names");
            }
        }
    }
}
