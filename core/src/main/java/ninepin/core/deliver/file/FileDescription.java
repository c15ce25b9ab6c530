package ninepin.core.deliver.file;

import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import ninepin.core.deliver.FileDelivery;
import ninepin.core.deliver.FileDelivery.Stands;
import ninepin.core.deliver.TableDescription;
import ninepin.core.deliver.TableDescription.Column;
import ninepin.core.deliver.TableDescription.Family;
import ninepin.core.layout.Check;
import ninepin.core.layout.DataType;
import ninepin.core.layout.Field;
import ninepin.core.layout.FileCheck;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Layout.FieldPlace;
import ninepin.core.layout.TemporalPattern;
import ninepin.core.value.ValueParser;

/** A record type as what rules fill, described as a table is. */
public final class FileDescription {

    private static final int ANY_WHOLE = 18;

    private FileDescription() {}

    /** What the rows of a delivery that is decided may fill. */
    public static TableDescription of(FileDelivery delivery) {
        Layout layout = delivery.file().layout();
        Set<FieldPlace> counted = RecordMaker.counted(layout).collect(Collectors.toSet());
        layout.fileChecks().stream()
                .filter(c -> c instanceof FileCheck.Sequence)
                .forEach(c -> layout.place(0, ((FileCheck.Sequence) c).field()).ifPresent(counted::add));
        List<Field> fields = delivery.recordType().fields();
        List<Column> columns = java.util.stream.IntStream.range(0, fields.size())
                .mapToObj(f -> column(fields.get(f), counted.contains(new FieldPlace(delivery.type(), f))))
                .toList();
        return new TableDescription(
                "", delivery.label(), "", true, false, layout.title(), -1, columns, List.of(), List.of());
    }

    private static Column column(Field field, boolean counted) {
        DataType type = field.type();
        boolean required = ValueParser.raw(type) || field.checks().stream().anyMatch(c -> c instanceof Check.Required);
        Family family = family(type);
        int places = Math.min(field.room(), ANY_WHOLE);
        int scale = type instanceof DataType.Decimal d ? d.scale() : fraction(type);
        int precision = type instanceof DataType.Decimal d ? d.precision() : family == Family.WHOLE ? places : 0;
        long length = type instanceof DataType.CharacterVarying text ? Math.min(text.length(), field.room()) : 0;
        return new Column(
                field.name(),
                type.label(),
                family,
                length,
                precision,
                scale,
                !required,
                counted,
                false,
                counted,
                counted ? "counted when the file is written" : "");
    }

    private static Family family(DataType type) {
        if (type instanceof DataType.CharacterVarying) {
            return Family.TEXT;
        }
        if (type instanceof DataType.IntegerNumber) {
            return Family.WHOLE;
        }
        if (type instanceof DataType.Decimal) {
            return Family.EXACT;
        }
        if (type instanceof DataType.Bool) {
            return Family.BOOLEAN_BIT;
        }
        return type instanceof DataType.Date
                ? Family.DATE
                : type instanceof DataType.Time ? Family.TIME : Family.TIMESTAMP;
    }

    private static int fraction(DataType type) {
        String pattern = type instanceof DataType.Time t
                ? t.pattern()
                : type instanceof DataType.Timestamp t ? t.pattern() : null;
        return pattern == null ? 0 : TemporalPattern.parse(pattern).fractionDigits();
    }

    /** Whether a delivery's records are the beginning or the end of a file, where its fields say what was counted. */
    public static boolean countsBeforeRecords(FileDelivery delivery) {
        return delivery.stands() == Stands.FIRST
                && RecordMaker.counted(delivery.file().layout()).anyMatch(p -> p.type() == delivery.type());
    }
}
