package ninepin.core.format.delimited;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import ninepin.core.infer.FieldGuess;
import ninepin.core.infer.Proposal;
import ninepin.core.infer.Proposal.Guess;
import ninepin.core.infer.Proposal.Sureness;
import ninepin.core.layout.BlankRows;
import ninepin.core.layout.DataType;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.Delimited;
import ninepin.core.layout.Field;
import ninepin.core.layout.FileCharset;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Place;
import ninepin.core.layout.RecordType;

/** A delimited layout from nothing but the names of its columns. */
public final class HeaderRow {

    private static final List<String> DELIMITERS = List.of("\t", ";", "|", ",");
    private static final int TEXT = 255;

    private HeaderRow() {}

    /**
     * Proposes a layout.
     *
     * @param row the header row, or the names on lines of their own
     */
    public static Proposal propose(String row, String name, String title) {
        List<String> lines = row.lines().filter(l -> !l.isBlank()).toList();
        if (lines.isEmpty()) {
            throw new DefinitionException("header", "there is no name in it");
        }
        String first = lines.get(0);
        String delimiter =
                DELIMITERS.stream().filter(first::contains).findFirst().orElse(lines.size() > 1 ? "\n" : ";");
        boolean listed = delimiter.equals("\n");
        List<List<String>> rows =
                listed ? List.of(lines) : DelimiterGuess.rows(List.of(first), delimiter.charAt(0), '"');
        if (rows.isEmpty()) {
            throw new DefinitionException("header", "a quote is not closed");
        }
        List<String> names = rows.get(0);
        List<FieldGuess> fields = new ArrayList<>();
        Set<String> used = new HashSet<>();
        for (String cell : names) {
            String header = cell.strip();
            if (header.isEmpty() || !used.add(header)) {
                throw new DefinitionException(
                        "header",
                        header.isEmpty() ? "a name is missing between two delimiters" : header + " stands twice");
            }
            Field field = new Field(
                    header.replace('.', ' '), new Place.Header(header), new DataType.CharacterVarying(TEXT), List.of());
            fields.add(FieldGuess.stated(field, Sureness.UNSURE, "text until a sample tells more"));
        }
        List<Guess> guesses = new ArrayList<>();
        guesses.add(new Guess("kind", "delimited", Sureness.SURE, "A header row names columns."));
        guesses.add(new Guess(
                "delimiter",
                listed ? "semicolon" : DelimitedProposer.nameOf(delimiter.charAt(0)),
                listed || names.size() == 1 ? Sureness.UNSURE : Sureness.SURE,
                listed ? "The names stand on lines of their own." : "It stands between the names."));
        guesses.add(new Guess("charset", "UTF-8", Sureness.UNSURE, "Names do not tell it."));
        Delimited format =
                new Delimited(FileCharset.UTF_8, listed ? ';' : delimiter.charAt(0), '"', true, 0, BlankRows.SKIP);
        List<Field> own = fields.stream().map(FieldGuess::field).toList();
        Layout layout = new Layout(name, title, format, List.of(new RecordType("record", own)));
        return FieldGuess.proposal(layout, guesses, List.of(fields));
    }
}
