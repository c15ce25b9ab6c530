package ninepin.server.codes;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.time.DateTimeException;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.stream.IntStream;
import ninepin.core.bytes.MemorySource;
import ninepin.core.check.RecordChecker;
import ninepin.core.codes.CodeList;
import ninepin.core.format.Formats;
import ninepin.core.format.Proposals;
import ninepin.core.format.delimited.SpreadsheetText;
import ninepin.core.layout.DataType;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.Delimited;
import ninepin.core.layout.Field;
import ninepin.core.layout.FileCharset;
import ninepin.core.layout.Layout;
import ninepin.core.layout.RecordType;
import ninepin.core.record.Opening;
import ninepin.core.record.RecordReader;
import ninepin.core.record.RecordWriter;
import ninepin.core.value.Value;

/** A code list as a delimited file: a column for each of its own, and two for the days on which a line holds. */
final class CodeListFile {

    static final String FROM = "valid from";
    static final String TO = "valid to";

    private static final DataType TEXT = new DataType.CharacterVarying(10_000);

    /**
     * The lines of a file.
     *
     * @param columns the names of its columns
     * @param entries its lines
     * @param dropped how many lines had no value in the first column
     */
    record Lines(List<String> columns, List<CodeList.Entry> entries, int dropped) {}

    private CodeListFile() {}

    /** Reads a file however it is delimited; its charset, delimiter and header are found out. */
    static Lines read(byte[] bytes) throws IOException {
        MemorySource source = new MemorySource(bytes);
        Layout proposed = Proposals.of(source, "codes", null).layout();
        if (!Formats.of(proposed).hasColumns()) {
            return oneColumn(bytes, proposed.format().charset());
        }
        RecordType type = proposed.firstType();
        List<Field> fields = type.fields().stream()
                .map(f -> new Field(f.name(), f.place(), TEXT, List.of()))
                .toList();
        Layout layout = proposed.withTypes(List.of(type.withFields(fields)));
        Opening opening = Formats.open(source, layout);
        RecordChecker checker = new RecordChecker(layout, opening, LocalDate.EPOCH);
        RecordReader reader = opening.reader(source, opening.body());
        List<List<String>> rows = new ArrayList<>();
        RecordReader.Item item;
        while ((item = reader.next()) != RecordReader.Item.END) {
            if (item == RecordReader.Item.RECORD && reader.record().fault() == null) {
                checker.check(reader.record());
                List<String> row = new ArrayList<>();
                for (Value value : checker.values()[0]) {
                    String text =
                            value.text(layout.format().charset().ofValues().charset());
                    row.add(text == null || text.isEmpty() ? null : SpreadsheetText.original(text));
                }
                rows.add(row);
            }
        }
        return lines(fields.stream().map(Field::heading).toList(), rows);
    }

    private static Lines oneColumn(byte[] bytes, FileCharset charset) {
        List<List<String>> rows = new String(bytes, charset.charset())
                .lines()
                .map(l -> java.util.Collections.singletonList(l.isBlank() ? null : SpreadsheetText.original(l.strip())))
                .toList();
        return lines(List.of("value"), rows);
    }

    private static Lines lines(List<String> names, List<List<String>> rows) {
        int from = indexOf(names, FROM);
        int to = indexOf(names, TO);
        List<Integer> own = IntStream.range(0, names.size())
                .filter(c -> c != from && c != to)
                .boxed()
                .toList();
        List<CodeList.Entry> entries = new ArrayList<>();
        int dropped = 0;
        for (List<String> row : rows) {
            List<String> values = new ArrayList<>();
            own.forEach(c -> values.add(c < row.size() ? row.get(c) : null));
            if (values.isEmpty() || values.get(0) == null) {
                dropped++;
                continue;
            }
            entries.add(new CodeList.Entry(values, day(row, from), day(row, to)));
        }
        return new Lines(own.stream().map(names::get).toList(), entries, dropped);
    }

    private static int indexOf(List<String> names, String wanted) {
        return IntStream.range(0, names.size())
                .filter(c -> names.get(c).strip().toLowerCase(Locale.ROOT).equals(wanted))
                .findFirst()
                .orElse(-1);
    }

    private static LocalDate day(List<String> row, int column) {
        String text = column < 0 || column >= row.size() ? null : row.get(column);
        try {
            return text == null ? null : LocalDate.parse(text.strip());
        } catch (DateTimeException e) {
            throw new DefinitionException(
                    "entries", "\"" + text + "\" is no day: " + FROM + " and " + TO + " are written as 2026-11-23");
        }
    }

    /** Writes a list as a file that {@link #read} reads back. */
    static byte[] write(CodeList list) throws IOException {
        boolean dated = list.entries().stream().anyMatch(e -> e.from() != null || e.to() != null);
        List<String> names = new ArrayList<>(list.columns());
        if (dated) {
            names.add(FROM);
            names.add(TO);
        }
        List<Field> fields = new ArrayList<>();
        for (String name : names) {
            fields.add(Field.under(name, TEXT));
        }
        Layout layout = new Layout(
                "codes",
                null,
                new Delimited(FileCharset.UTF_8, ';', '"', true, 0, null),
                List.of(new RecordType("code", fields)));
        ByteArrayOutputStream bytes = new ByteArrayOutputStream();
        try (RecordWriter writer = Formats.writer(bytes, layout)) {
            for (CodeList.Entry entry : list.entries()) {
                List<String> row = new ArrayList<>();
                for (int c = 0; c < list.columns().size(); c++) {
                    row.add(SpreadsheetText.safe(entry.value(c)));
                }
                if (dated) {
                    row.add(entry.from() == null ? null : entry.from().toString());
                    row.add(entry.to() == null ? null : entry.to().toString());
                }
                writer.write(0, row);
            }
        }
        return bytes.toByteArray();
    }
}
