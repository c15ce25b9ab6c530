package ninepin.core.format.fixedlength;

import java.io.IOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeSet;
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
import ninepin.core.layout.Field;
import ninepin.core.layout.FileCharset;
import ninepin.core.layout.FixedLength;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Recognition;
import ninepin.core.layout.RecordType;

/** A fixed-length layout, for any text: record types by the letters at the start of lines, fields by what stands in the columns. */
public final class FixedProposer implements Proposer {

    private static final int MOST_TYPES = 8;
    /** The most fields of a type; the last of them has what is left of the line. */
    private static final int MOST_FIELDS = 2_000;
    /** The characters of a line in which edges are looked for. */
    private static final int MOST_WIDTH = 20_000;

    @Override
    public Optional<Proposal> propose(Samples samples) throws IOException {
        Samples.Text text = samples.text();
        return Optional.of(propose(samples.name(), samples.title(), text.charset(), text.all(), text.guesses()));
    }

    private static Proposal propose(
            String name, String title, FileCharset charset, SampleLines sample, List<Guess> guesses) {
        List<String> lines = sample.lines();
        if (lines.isEmpty()) {
            guesses.add(0, new Guess("kind", "fixed-length", Sureness.UNSURE, "There is no line in the sample."));
            lines = List.of("x");
        }
        int longest = lines.stream().mapToInt(String::length).max().orElse(1);
        long whole = lines.stream().filter(l -> l.length() == longest).count();
        boolean oneLength = whole >= lines.size() * 0.9 && longest <= DataType.CharacterVarying.MOST;
        if (guesses.stream().noneMatch(g -> g.part().equals("kind"))) {
            guesses.add(
                    0,
                    new Guess(
                            "kind",
                            "fixed-length",
                            oneLength && lines.size() > 2 ? Sureness.SURE : Sureness.LIKELY,
                            "No delimiter stands in all lines; "
                                    + (oneLength
                                            ? "lines have " + longest + " characters."
                                            : "lines differ in length.")));
        }
        guesses.add(new Guess(
                "length",
                oneLength ? longest + " characters" : "any",
                whole == lines.size() ? Sureness.SURE : Sureness.LIKELY,
                whole + " of " + lines.size() + " lines have " + longest + " characters."));
        int tag = tagLength(lines);
        Map<String, List<String>> byTag = new LinkedHashMap<>();
        List<String> sequence = new ArrayList<>();
        for (String line : lines) {
            String own = tag == 0 ? "" : line.substring(0, tag);
            byTag.computeIfAbsent(own, t -> new ArrayList<>()).add(line);
            sequence.add(own);
        }
        RecordTypeGuess types = tag == 0 ? null : RecordTypeGuess.of(sequence, sample.samples(), guesses);
        List<RecordType> all = new ArrayList<>();
        List<List<FieldGuess>> fields = new ArrayList<>();
        int looked = lines.size();
        for (Map.Entry<String, List<String>> own : byTag.entrySet()) {
            Fields found = fields(own.getValue(), tag, longest);
            if (found.looked() < own.getValue().size()) {
                looked = Math.min(looked, found.looked());
            }
            List<FieldGuess> guessed = found.all();
            if (types != null && own.getValue().size() == sample.samples()) {
                List<Integer> counts = byTag.values().stream()
                        .filter(l -> l != own.getValue())
                        .map(List::size)
                        .toList();
                guessed = TrailerDigits.split(guessed, own.getValue().get(0), counts);
            }
            fields.add(guessed);
            all.add(
                    types == null
                            ? new RecordType("record", List.of(guessed.get(0).field()))
                            : new RecordType(
                                    types.name(own.getKey()),
                                    new Recognition.Tag(null, 1, List.of(own.getKey())),
                                    types.parent(own.getKey()),
                                    null,
                                    null,
                                    List.of(guessed.get(0).field())));
        }
        if (looked < lines.size()) {
            SampleLines.sayLookedAt(looked, guesses);
        }
        guesses.add(
                new Guess(
                        "field edges",
                        fields.stream().mapToInt(List::size).sum() + " fields",
                        Sureness.UNSURE,
                        "Edges stand where blanks, letters, digits and leading zeros begin; drag them on the ruler above the file."));
        FixedLength format =
                new FixedLength(charset, null, null, oneLength ? longest : null, !oneLength, 0, BlankRows.SKIP);
        return FieldGuess.proposal(new Layout(name, title, format, all), guesses, fields);
    }

    /** The length of the tag at the start of lines: few different beginnings with letters in them; 0 for none. */
    private static int tagLength(List<String> lines) {
        if (lines.stream().anyMatch(l -> l.length() < 3)) {
            return 0;
        }
        for (int length = 1; length <= 3; length++) {
            int n = length;
            TreeSet<String> tags = new TreeSet<>();
            lines.forEach(l -> tags.add(l.substring(0, n)));
            boolean letters = tags.stream().allMatch(t -> t.matches("[A-Z][A-Z0-9]*"));
            boolean digits = length == 2 && tags.stream().allMatch(t -> t.matches("\\d\\d"));
            boolean few = tags.size() > 1 && tags.size() <= MOST_TYPES && tags.size() * 2 <= lines.size();
            if (few && (letters || digits && differentShapes(lines, length))) {
                return length < 3 && letters && goesOn(lines, length) ? length + 1 : length;
            }
        }
        return 0;
    }

    /** Whether lines that begin alike all go on with the same letter, which then is part of the tag. */
    private static boolean goesOn(List<String> lines, int tag) {
        Map<String, Character> next = new LinkedHashMap<>();
        return lines.stream().allMatch(l -> {
            char c = l.charAt(tag);
            Character before = next.putIfAbsent(l.substring(0, tag), c);
            return c >= 'A' && c <= 'Z' && (before == null || before == c);
        });
    }

    /** Whether lines with different beginnings are written differently behind them. */
    private static boolean differentShapes(List<String> lines, int tag) {
        Map<String, String> shapes = new LinkedHashMap<>();
        for (String line : lines) {
            shapes.putIfAbsent(
                    line.substring(0, tag),
                    line.substring(tag).replaceAll("\\d", "9").replaceAll("[A-Za-z]", "A"));
        }
        return shapes.values().stream().distinct().count() == shapes.size();
    }

    /**
     * The fields of a record type.
     *
     * @param looked how many of its lines were looked at
     */
    private record Fields(List<FieldGuess> all, int looked) {}

    private static Fields fields(List<String> lines, int tag, int longest) {
        List<FieldGuess> fields = new ArrayList<>();
        int width =
                lines.stream().mapToInt(l -> l.stripTrailing().length()).max().orElse(longest);
        int looked = Math.min(MOST_WIDTH, Math.max(width, tag + 1));
        List<Integer> all =
                new ColumnEdges(SampleLines.start(lines, SampleLines.MOST_CELLS * 10 / looked), tag, looked).edges();
        List<Integer> edges = all.subList(0, Math.min(MOST_FIELDS, all.size()));
        List<String> rows = SampleLines.start(lines, SampleLines.MOST_CELLS / edges.size());
        for (int e = 0; e < edges.size(); e++) {
            int from = edges.get(e);
            boolean last = e + 1 == edges.size();
            int to = last ? Math.max(width, from + 1) : edges.get(e + 1);
            List<String> values = rows.stream()
                    .map(l -> l.substring(Math.min(from, l.length()), Math.min(to, l.length())))
                    .toList();
            if (values.stream().allMatch(String::isBlank) && fields.size() + edges.size() - e > 1) {
                continue;
            }
            TypeGuess type = TypeGuess.of(values, to - from);
            boolean text = type.type() instanceof DataType.CharacterVarying;
            int end = last && text ? Math.max(to, longest) : to;
            DataType own = text
                    ? new DataType.CharacterVarying(Math.min(DataType.CharacterVarying.MOST, end - from))
                    : type.type();
            fields.add(new FieldGuess(Field.at(from + 1, end - from, "field " + (fields.size() + 1), own), type));
        }
        return new Fields(fields, rows.size());
    }
}
