package ninepin.core.format.workbook;

import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.Stream;
import ninepin.core.format.workbook.Transcript.Range;
import ninepin.core.layout.CellName;
import ninepin.core.layout.CellName.Area;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Recognition;

/**
 * Which cells a layout asks for that may stand beside each other: a row of a sheet then is several records, and each gets a line of the
 * transcript.
 *
 * @param tables where rows stand, those that say in which cells
 */
record SideBySide(List<Recognition.Rows.Table> tables) {

    /** None: a row is a line. */
    static final SideBySide NONE = new SideBySide(List.of());

    static SideBySide of(Layout layout) {
        List<Recognition.Rows.Table> tables = layout.recordTypes().stream()
                .map(t -> t.when() instanceof Recognition.Rows rows ? rows.table() : null)
                .filter(t -> t != null && t.range() != null)
                .distinct()
                .toList();
        return tables.size() < 2 ? NONE : new SideBySide(tables);
    }

    /** What tells a transcript with such lines from others of its workbook; empty where a row is a line. */
    String key() {
        return tables.isEmpty()
                ? ""
                : "-" + Integer.toHexString(tables.toString().hashCode());
    }

    /** The cells of a sheet, those that share rows with others. */
    List<Area> on(String sheet, int position, List<Range> ranges) {
        List<Area> areas = new ArrayList<>();
        for (Recognition.Rows.Table table : tables) {
            if (SheetNames.match(table, sheet, position)) {
                Optional.ofNullable(area(table.range(), sheet, ranges))
                        .filter(a -> !areas.contains(a))
                        .ifPresent(areas::add);
            }
        }
        return areas.stream()
                .filter(a -> areas.stream()
                        .anyMatch(b -> !b.equals(a) && b.firstRow() <= a.lastRow() && b.lastRow() >= a.firstRow()))
                .toList();
    }

    /** The ranges and tables of a name on a sheet, whatever the case of both. */
    static Stream<Range> named(String range, String sheet, List<Range> ranges) {
        return ranges.stream()
                .filter(r -> r.name().equalsIgnoreCase(range) && r.sheet().equalsIgnoreCase(sheet));
    }

    /** The cells of a sheet by the name of a range or by corners; null where there are none. */
    static Area area(String range, String sheet, List<Range> ranges) {
        return named(range, sheet, ranges)
                .map(Range::area)
                .filter(Objects::nonNull)
                .findFirst()
                .orElseGet(() -> CellName.area(range));
    }
}
