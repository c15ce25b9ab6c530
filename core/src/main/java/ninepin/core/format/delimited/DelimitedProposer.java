package ninepin.core.format.delimited;

import java.io.IOException;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.IntStream;
import ninepin.core.infer.FieldGuess;
import ninepin.core.infer.Proposal;
import ninepin.core.infer.Proposal.Guess;
import ninepin.core.infer.Proposal.Sureness;
import ninepin.core.infer.Proposer;
import ninepin.core.infer.RecordTypeGuess;
import ninepin.core.infer.SampleLines;
import ninepin.core.infer.Samples;
import ninepin.core.infer.TypeGuess;
import ninepin.core.layout.BlankRows;
import ninepin.core.layout.DataType;
import ninepin.core.layout.Delimited;
import ninepin.core.layout.Field;
import ninepin.core.layout.FileCharset;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Place;
import ninepin.core.layout.Recognition;
import ninepin.core.layout.RecordType;

/** A delimited layout: header row or none, record types by the first column, and a type for each column. */
public final class DelimitedProposer implements Proposer {

    private static final Map<Character, String> NAMES = Map.of(';', "semicolon", ',', "comma", '\t', "tab", '|', "bar");

    /** What is written for NULL by other programs, the sign that means nothing else first. */
    private static final List<String> NULL_TEXTS =
            List.of("\\N", "NULL", "null", "NA", "N/A", "n/a", "NaN", "nan", "None", "-", "?");

    @Override
    public Optional<Proposal> propose(Samples samples) throws IOException {
        Samples.Text text = samples.text();
        return DelimiterGuess.of(text.all())
                .map(d -> propose(samples.name(), samples.title(), text.charset(), text.all(), d, text.guesses()));
    }

    /** A delimiter as people call it. */
    static String nameOf(char delimiter) {
        return NAMES.getOrDefault(delimiter, String.valueOf(delimiter));
    }

    private static Proposal propose(
            String name,
            String title,
            FileCharset charset,
            SampleLines lines,
            DelimiterGuess delimiter,
            List<Guess> guesses) {
        List<String> looked = SampleLines.start(lines.lines(), SampleLines.MOST_CELLS / delimiter.columns());
        List<List<String>> rows = DelimiterGuess.rows(looked, delimiter.delimiter(), delimiter.quote());
        if (looked.size() < lines.lines().size()) {
            SampleLines.sayLookedAt(looked.size(), guesses);
        }
        guesses.add(0, new Guess("kind", "delimited", Sureness.SURE, "Lines have the same number of columns."));
        guesses.add(new Guess(
                "delimiter",
                NAMES.get(delimiter.delimiter()),
                delimiter.share() == 1 ? Sureness.SURE : Sureness.LIKELY,
                Math.round(delimiter.share() * 100) + " % of the lines have "
                        + (delimiter.tagged() ? "the columns of their kind." : delimiter.columns() + " columns.")));
        if (delimiter.tagged()) {
            return tagged(name, title, charset, delimiter, rows, lines.samples(), guesses);
        }
        boolean header = isHeader(rows, guesses);
        List<String> names = header ? rows.get(0) : List.of();
        if (header && names.get(0).isBlank()) {
            guesses.add(new Guess("left out", "column 1", Sureness.SURE, "It has no name in the header row."));
        }
        List<List<String>> all = header ? rows.subList(1, rows.size()) : rows;
        String nullText = nullText(all, delimiter.columns());
        List<List<String>> below = nullText == null ? all : without(all, nullText);
        if (nullText != null) {
            guesses.add(new Guess(
                    "NULL",
                    "written as " + nullText,
                    nullText.equals(NULL_TEXTS.get(0)) ? Sureness.SURE : Sureness.LIKELY,
                    "It stands where other rows have values."));
        }
        List<FieldGuess> fields = columns(below, delimiter.columns(), names);
        Layout layout = new Layout(
                name,
                title,
                new Delimited(
                        charset,
                        String.valueOf(delimiter.delimiter()),
                        '"',
                        header,
                        0,
                        BlankRows.SKIP,
                        nullText == null ? null : Delimited.Habits.NONE.withNullText(nullText),
                        tolerance(below, delimiter.columns(), guesses)),
                List.of(new RecordType("record", List.of(fields.get(0).field()))));
        return FieldGuess.proposal(layout, guesses, List.of(fields));
    }

    /**
     * What stands for NULL: the sign that means nothing else, or a word that keeps the only values of a column that have no
     * type from having one.
     */
    private static String nullText(List<List<String>> rows, int columns) {
        List<List<String>> all = IntStream.range(0, columns)
                .mapToObj(c -> column(rows, c, Integer.MAX_VALUE))
                .toList();
        for (String text : NULL_TEXTS) {
            for (List<String> values : all) {
                if (values.contains(text)
                        && (text.equals(NULL_TEXTS.get(0))
                                || !(TypeGuess.of(blanked(values, text), 0).type() instanceof DataType.CharacterVarying)
                                        && values.stream().anyMatch(v -> !v.isBlank() && !v.equals(text)))) {
                    return text;
                }
            }
        }
        return null;
    }

    private static List<String> blanked(List<String> values, String text) {
        return values.stream().map(v -> v.equals(text) ? "" : v).toList();
    }

    private static List<List<String>> without(List<List<String>> rows, String text) {
        return rows.stream().map(r -> blanked(r, text)).toList();
    }

    /** Rows that end early are read; those with more columns than there are fields would lose some. */
    private static Delimited.Tolerance tolerance(List<List<String>> rows, int columns, List<Guess> guesses) {
        long fewer = rows.stream().filter(r -> r.size() < columns).count();
        long more = rows.stream().filter(r -> r.size() > columns).count();
        if (more > 0) {
            guesses.add(new Guess(
                    "rows",
                    more + " with more columns" + (fewer > 0 ? ", " + fewer + " with fewer" : ""),
                    Sureness.UNSURE,
                    "They are rejected: what stands too much in them would be lost. A delimiter may stand in a text without"
                            + " quotes."));
        }
        if (fewer == 0 || more > 0) {
            return null;
        }
        guesses.add(new Guess(
                "rows",
                fewer + " with fewer columns",
                Sureness.LIKELY,
                "They are read, and noted; the fields that they lack are blank."));
        return new Delimited.Tolerance(true, false, false, null);
    }

    private static Proposal tagged(
            String name,
            String title,
            FileCharset charset,
            DelimiterGuess delimiter,
            List<List<String>> rows,
            int samples,
            List<Guess> guesses) {
        guesses.add(new Guess("header", "none", Sureness.SURE, "The first column tells kinds of records apart."));
        Map<String, List<List<String>>> byTag = new LinkedHashMap<>();
        List<String> sequence = new ArrayList<>();
        for (List<String> row : rows) {
            byTag.computeIfAbsent(row.get(0), t -> new ArrayList<>()).add(row);
            sequence.add(row.get(0));
        }
        RecordTypeGuess types = RecordTypeGuess.of(sequence, samples, guesses);
        List<RecordType> all = new ArrayList<>();
        List<List<FieldGuess>> fields = new ArrayList<>();
        for (String tag : types.order()) {
            List<List<String>> own = byTag.get(tag);
            List<FieldGuess> guessed = columns(own, own.get(0).size(), List.of());
            fields.add(guessed);
            all.add(new RecordType(
                    types.name(tag),
                    new Recognition.Tag(1, null, List.of(tag)),
                    types.parent(tag),
                    null,
                    null,
                    List.of(guessed.get(0).field())));
        }
        Layout layout = new Layout(
                name, title, new Delimited(charset, delimiter.delimiter(), '"', false, 0, BlankRows.SKIP), all);
        return FieldGuess.proposal(layout, guesses, fields);
    }

    /** What stands in a column of the rows that have it, and so many columns at most. */
    private static List<String> column(List<List<String>> rows, int column, int most) {
        return rows.stream()
                .filter(r -> r.size() > column && r.size() <= most)
                .map(r -> r.get(column))
                .toList();
    }

    private static List<FieldGuess> columns(List<List<String>> rows, int columns, List<String> names) {
        List<FieldGuess> fields = new ArrayList<>();
        Set<String> used = new HashSet<>();
        for (int c = 0; c < columns; c++) {
            List<String> values = column(rows, c, columns);
            TypeGuess type = TypeGuess.of(values, 0);
            if (names.isEmpty()) {
                fields.add(new FieldGuess(Field.inColumn(c + 1, "column " + (c + 1), type.type()), type));
            } else if (c < names.size()
                    && !names.get(c).isBlank()
                    && used.add(names.get(c).strip())) {
                String header = names.get(c).strip();
                Field field = new Field(header.replace('.', ' '), new Place.Header(header), type.type(), List.of());
                fields.add(new FieldGuess(field, type));
            }
        }
        return fields;
    }

    /** Whether the first row names the columns: it is unlike what stands below it. */
    private static boolean isHeader(List<List<String>> rows, List<Guess> guesses) {
        List<String> first = rows.get(0);
        // A column of row numbers often has no name.
        boolean named = first.stream().skip(1).noneMatch(String::isBlank)
                && first.size() > 1
                && new HashSet<>(first).size() == first.size()
                && first.stream().noneMatch(c -> c.strip().matches("[-+]?[\\d.,:/\\s-]+"));
        if (!named || rows.size() < 2) {
            guesses.add(new Guess(
                    "header",
                    named ? "first row" : "none",
                    rows.size() < 2 ? Sureness.UNSURE : Sureness.SURE,
                    named ? "There is only one row." : "The first row has blanks or numbers, or a text twice."));
            return named;
        }
        int telling = 0;
        boolean again = false;
        for (int c = 0; c < first.size(); c++) {
            List<String> below = column(rows.subList(1, rows.size()), c, Integer.MAX_VALUE);
            boolean typed = !(TypeGuess.of(below, 0).type() instanceof DataType.CharacterVarying);
            telling += typed ? 1 : 0;
            again |= below.contains(first.get(c)) && !first.get(c).isBlank();
        }
        boolean header = telling > 0 || !again;
        guesses.add(new Guess(
                "header",
                header ? "first row" : "none",
                telling > 0 ? Sureness.SURE : Sureness.UNSURE,
                telling > 0
                        ? "Below it stand numbers or dates in " + telling + " columns; it has none."
                        : again
                                ? "Its texts come again below it."
                                : "All columns are text; it could be a record too."));
        return header;
    }
}
