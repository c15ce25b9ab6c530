package ninepin.core.format.workbook;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import ninepin.core.bytes.ByteSource;
import ninepin.core.bytes.FileSource;
import ninepin.core.bytes.FlatFolder;
import ninepin.core.format.workbook.SampledSheet.Kind;
import ninepin.core.format.workbook.SampledSheet.SampledCell;
import ninepin.core.format.workbook.Transcript.Range;
import ninepin.core.format.workbook.Transcript.Sheet;
import ninepin.core.infer.FieldGuess;
import ninepin.core.infer.Proposal;
import ninepin.core.infer.Proposal.Guess;
import ninepin.core.infer.Proposal.Sureness;
import ninepin.core.infer.Samples;
import ninepin.core.infer.TypeGuess;
import ninepin.core.layout.CellName;
import ninepin.core.layout.DataType;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.Field;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Place;
import ninepin.core.layout.Recognition;
import ninepin.core.layout.RecordType;
import ninepin.core.layout.Workbook;

/** A layout of a workbook: its sheets or tables, the rows that name their columns, totals, and a type for each column. */
public final class WorkbookProposer {

    private static final String SHEET_FIELD = "sheet";

    private final Samples samples;
    private final List<Guess> guesses = new ArrayList<>();
    private final List<RecordType> types = new ArrayList<>();
    private final List<List<FieldGuess>> fields = new ArrayList<>();
    private final Set<String> typeNames = new HashSet<>();

    private WorkbookProposer(Samples samples) {
        this.samples = samples;
    }

    /**
     * A layout for samples that are workbooks; empty where they are not.
     *
     * @throws DefinitionException where a sample is a workbook that cannot be read, or one without tables
     */
    public static Optional<Proposal> propose(Samples samples) throws IOException {
        if (!Transcriber.looksLikeOne(samples.files().get(0).slice(0, 4))) {
            return Optional.empty();
        }
        Path folder = Files.createTempDirectory("ninepin-sample");
        try {
            List<List<TableGuess>> ofSamples = new ArrayList<>();
            for (ByteSource sample : samples.files()) {
                ofSamples.add(tables(sample, folder));
            }
            return new WorkbookProposer(samples).proposed(ofSamples);
        } finally {
            FlatFolder.remove(folder);
        }
    }

    /** The tables of a workbook. */
    private static List<TableGuess> tables(ByteSource sample, Path folder) throws IOException {
        Path file = folder.resolve("file");
        Path text = folder.resolve("text");
        Files.write(file, sample.slice(0, (int) Math.min(Integer.MAX_VALUE - 8, sample.size())));
        Transcriber.transcribe(file, SideBySide.NONE, text);
        List<TableGuess> tables = new ArrayList<>();
        try (FileSource source = FileSource.open(text)) {
            Transcript transcript = Transcript.read(source).orElseThrow();
            if (transcript.fault() != null && transcript.sheets().isEmpty()) {
                throw new DefinitionException(
                        "the sample", "cannot be read: " + transcript.fault().words());
            }
            for (Sheet sheet : transcript.sheets()) {
                SampledSheet sampled = SampledSheet.of(source, transcript, sheet);
                List<TableGuess> named = named(sampled, transcript.ranges());
                if (!named.isEmpty()) {
                    tables.addAll(named);
                } else if (sheet.visible()) {
                    Optional.ofNullable(TableGuess.of(sampled, null, -1)).ifPresent(tables::add);
                }
            }
        }
        return tables;
    }

    /** The tables of a sheet that have names: tables of the workbook, or several ranges. */
    private static List<TableGuess> named(SampledSheet sheet, List<Range> ranges) {
        List<Range> here = ranges.stream()
                .filter(r -> r.sheet().equalsIgnoreCase(sheet.name()))
                .filter(r -> r.area().firstRow() < r.area().lastRow())
                .toList();
        List<Range> tables = here.stream().filter(Range::table).toList();
        List<Range> taken = !tables.isEmpty() ? tables : here.size() > 1 ? here : List.<Range>of();
        List<TableGuess> guesses = new ArrayList<>();
        for (Range range : taken) {
            boolean meets = guesses.stream().anyMatch(g -> overlaps(g, taken, range));
            TableGuess guess = meets
                    ? null
                    : TableGuess.of(sheet.within(range.area()), range.name(), range.table() ? range.headers() : -1);
            if (guess != null) {
                guesses.add(guess);
            }
        }
        return guesses;
    }

    private static boolean overlaps(TableGuess guess, List<Range> all, Range range) {
        CellName.Area a = all.stream()
                .filter(r -> r.name().equals(guess.range()))
                .findFirst()
                .orElseThrow()
                .area();
        CellName.Area b = range.area();
        return a.firstRow() <= b.lastRow()
                && b.firstRow() <= a.lastRow()
                && a.firstColumn() <= b.lastColumn()
                && b.firstColumn() <= a.lastColumn();
    }

    private Optional<Proposal> proposed(List<List<TableGuess>> ofSamples) {
        List<TableGuess> tables = ofSamples.get(0);
        if (tables.isEmpty()) {
            throw new DefinitionException(
                    "the sample", "has no sheet with a table that a layout could be proposed from");
        }
        guesses.add(new Guess("kind", "workbook", Sureness.SURE, "It is a package of sheets (.xlsx)."));
        Map<Set<String>, List<TableGuess>> alike = new LinkedHashMap<>();
        for (TableGuess table : tables) {
            Set<String> key = new LinkedHashSet<>(table.key());
            boolean single = table.range() != null || table.header() == 0;
            if (single) {
                key.add("\n" + table.sheet() + table.range());
            }
            alike.computeIfAbsent(key, k -> new ArrayList<>()).add(table);
        }
        for (List<TableGuess> group : alike.values()) {
            String pattern = group.size() == 1 ? null : pattern(group, tables);
            if (group.size() > 1 && pattern != null) {
                add(group, pattern, ofSamples);
            } else {
                group.forEach(t -> add(List.of(t), null, ofSamples));
            }
        }
        Layout layout = new Layout(samples.name(), samples.title(), new Workbook(), List.copyOf(types));
        return Optional.of(FieldGuess.proposal(layout, guesses, fields));
    }

    /** What the names of sheets that are alike have in common and others have not; null where there is nothing. */
    private static String pattern(List<TableGuess> group, List<TableGuess> all) {
        String first = group.get(0).sheet();
        int head = first.length();
        for (TableGuess t : group) {
            int same = 0;
            while (same < Math.min(head, t.sheet().length()) && t.sheet().charAt(same) == first.charAt(same)) {
                same++;
            }
            head = same;
        }
        String pattern = first.substring(0, head) + "*";
        Recognition.Rows.Table of = new Recognition.Rows(pattern).table();
        boolean others = all.stream().anyMatch(t -> !group.contains(t) && SheetNames.match(of, t.sheet(), 0));
        return others ? null : pattern;
    }

    private void add(List<TableGuess> group, String pattern, List<List<TableGuess>> ofSamples) {
        TableGuess table = group.get(0);
        String name = typeName(table, pattern);
        String sheet = pattern != null ? pattern : table.sheet();
        Integer header = table.header() == 0 && !table.stated() ? Integer.valueOf(0) : null;
        Boolean untilBlank = group.stream().anyMatch(TableGuess::untilBlank) ? true : null;
        Recognition.Rows rows = new Recognition.Rows(sheet, null, table.range(), header, untilBlank, null, null, null);
        List<FieldGuess> own = new ArrayList<>();
        if (pattern != null) {
            DataType text = new DataType.CharacterVarying(31);
            List<String> names = group.stream().map(TableGuess::sheet).toList();
            own.add(new FieldGuess(
                    new Field(SHEET_FIELD, new Place.SheetName(), text, List.of()), TypeGuess.of(names, 0)));
        }
        Map<Integer, Field> byColumn = new HashMap<>();
        Set<String> used = new HashSet<>(Set.of(SHEET_FIELD));
        for (int i = 0; i < table.columns().size(); i++) {
            FieldGuess field = field(table, i, values(table, i, group, ofSamples), used);
            byColumn.put(table.columns().get(i), field.field());
            own.add(field);
        }
        types.add(
                new RecordType(name, rows, null, null, null, List.of(own.get(0).field())));
        fields.add(own);
        tell(group, pattern);
        if (!table.totals().isEmpty() && !table.totalled().isEmpty() && pattern == null) {
            addTotal(table, name, rows, byColumn, ofSamples);
        }
    }

    private void addTotal(
            TableGuess table,
            String name,
            Recognition.Rows rows,
            Map<Integer, Field> byColumn,
            List<List<TableGuess>> ofSamples) {
        Recognition.Rows told = new Recognition.Rows(
                rows.sheet(),
                null,
                rows.range(),
                rows.header(),
                rows.untilBlank(),
                CellName.letters(table.totalColumn()),
                table.totalTexts(),
                null);
        List<FieldGuess> own = new ArrayList<>();
        for (int column : table.totalled()) {
            Field like = byColumn.get(column);
            // A total has the decimals of what it totals, also where those of the sample happen to be zeros.
            List<SampledCell> cells =
                    new ArrayList<>(values(table, table.columns().indexOf(column), List.of(table), ofSamples));
            table.totals().forEach(r -> cells.add(r.cell(column)));
            TypeGuess seen = type(cells);
            own.add(new FieldGuess(new Field(like.name(), like.place(), seen.type(), List.of()), seen));
        }
        types.add(new RecordType(
                unique(name + " total"),
                told,
                null,
                null,
                null,
                List.of(own.get(0).field())));
        fields.add(own);
        guesses.add(new Guess(
                "total",
                "row " + table.totals().get(0).number() + " of " + table.sheet(),
                Sureness.LIKELY,
                "\"" + String.join("\", \"", table.totalTexts()) + "\" stands in column "
                        + CellName.letters(table.totalColumn()) + "."));
    }

    private void tell(List<TableGuess> group, String pattern) {
        TableGuess table = group.get(0);
        if (pattern != null) {
            guesses.add(new Guess(
                    "sheets",
                    pattern.equals("*") ? "all alike" : pattern,
                    Sureness.LIKELY,
                    group.size() + " sheets have the same columns; the name of each is a field."));
        }
        guesses.add(new Guess(
                "header",
                table.header() == 0 ? "none on " + table.sheet() : "row " + table.header() + " of " + table.sheet(),
                table.stated() ? Sureness.SURE : Sureness.LIKELY,
                table.header() == 0
                        ? "No row of texts stands above the others; fields stand by the letters of their columns."
                        : table.stated() ? "The table says so." : "It is found in each file by the names in it."));
        if (table.untilBlank()) {
            guesses.add(new Guess(
                    "rows", "until a blank one, on " + table.sheet(), Sureness.LIKELY, "Behind it stand remarks."));
        }
    }

    private String typeName(TableGuess table, String pattern) {
        String name = table.range() != null ? table.range() : pattern != null ? "row" : table.sheet();
        String plain = name.replace('.', ' ').strip();
        return unique(plain.isEmpty() ? "row" : plain);
    }

    private String unique(String name) {
        String candidate = name;
        for (int i = 2; !typeNames.add(candidate); i++) {
            candidate = name + " " + i;
        }
        return candidate;
    }

    /** The values of a column in all sheets that are alike, and in the same sheets of all samples. */
    private static List<SampledCell> values(
            TableGuess table, int index, List<TableGuess> group, List<List<TableGuess>> ofSamples) {
        List<SampledCell> values = new ArrayList<>();
        for (TableGuess t : group) {
            values.addAll(column(t, table, index));
        }
        for (List<TableGuess> others : ofSamples.subList(1, ofSamples.size())) {
            for (TableGuess other : others) {
                boolean same = other.key().equals(table.key())
                        && (group.size() > 1 || other.sheet().equalsIgnoreCase(table.sheet()));
                if (same) {
                    values.addAll(column(other, table, index));
                }
            }
        }
        return values;
    }

    /** The column of a table that has the name, or else the place, of one of another. */
    private static List<SampledCell> column(TableGuess of, TableGuess like, int index) {
        String name = like.names().get(index);
        int at = name.isEmpty() ? -1 : of.names().indexOf(name);
        return of.values(at < 0 ? like.columns().get(index) : of.columns().get(at));
    }

    private static FieldGuess field(TableGuess table, int index, List<SampledCell> values, Set<String> used) {
        TypeGuess seen = type(values);
        String name = table.names().get(index);
        String letters = CellName.letters(table.columns().get(index));
        boolean twice = table.names().indexOf(name) != table.names().lastIndexOf(name);
        boolean byName = !name.isEmpty() && !twice;
        String own = name.isEmpty()
                ? "column " + letters
                : name.replace('.', ' ').replaceAll("\\s+", " ").strip();
        own = own.substring(0, Math.min(own.length(), 100));
        while (!used.add(own)) {
            own = own + " " + letters;
        }
        Place place = byName ? new Place.Header(name) : new Place.Letter(letters);
        return new FieldGuess(new Field(own, place, seen.type(), List.of()), seen);
    }

    /** The type of cells: what they are counts more than how their texts look. */
    private static TypeGuess type(List<SampledCell> cells) {
        List<SampledCell> filled = cells.stream()
                .filter(c -> !c.isEmpty() && c.kind() != Kind.OTHER)
                .toList();
        List<String> values = cells.stream()
                .map(c -> c.kind() == Kind.OTHER
                        ? ""
                        : c.kind() == Kind.TRUTH ? c.value().toLowerCase() : c.value())
                .toList();
        if (!filled.isEmpty() && filled.stream().allMatch(c -> c.kind() == Kind.NUMBER)) {
            return numbers(values);
        }
        if (!filled.isEmpty() && filled.stream().allMatch(c -> c.kind() == Kind.MOMENT)) {
            return moments(values);
        }
        TypeGuess guess = TypeGuess.of(values, 0);
        boolean digits = guess.type() instanceof DataType.IntegerNumber || guess.type() instanceof DataType.Decimal;
        boolean texts = filled.stream().allMatch(c -> c.kind() == Kind.TEXT);
        // Whoever wrote digits as a text meant them to stay one.
        return digits && texts && !filled.isEmpty() ? as(guess, c -> c instanceof DataType.CharacterVarying) : guess;
    }

    private static TypeGuess numbers(List<String> values) {
        TypeGuess guess = TypeGuess.of(values, 0);
        return as(
                guess,
                t -> t instanceof DataType.IntegerNumber || t instanceof DataType.Decimal d && d.decimalSign() == '.');
    }

    /** Days and moments together are moments. */
    private static TypeGuess moments(List<String> values) {
        boolean timed = values.stream().anyMatch(v -> v.indexOf('T') > 0);
        return TypeGuess.of(
                values.stream()
                        .map(v -> timed && v.length() == 10 ? v + "T00:00:00" : v)
                        .toList(),
                0);
    }

    /** A guess with the first type of a kind that fits; itself where there is none. */
    private static TypeGuess as(TypeGuess guess, Predicate<DataType> kind) {
        if (kind.test(guess.type())) {
            return guess;
        }
        Optional<DataType> other = guess.alternatives().stream().filter(kind).findFirst();
        return other.map(type -> new TypeGuess(
                        type,
                        guess.sureness(),
                        guess.choices(guess.type()).stream()
                                .filter(t -> !t.equals(type))
                                .toList(),
                        guess.values(),
                        guess.blank(),
                        guess.distinct(),
                        guess.smallest(),
                        guess.largest(),
                        guess.misfits(),
                        guess.likelyKey(),
                        guess.likelyCodes(),
                        guess.note()))
                .orElse(guess);
    }
}
