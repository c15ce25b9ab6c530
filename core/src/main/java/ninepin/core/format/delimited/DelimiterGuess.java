package ninepin.core.format.delimited;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import ninepin.core.infer.SampleLines;

/**
 * What separates the fields of a sample's lines.
 *
 * @param delimiter the delimiter
 * @param quote the quote, or null where none is used
 * @param share the share of lines that have as many columns as most
 * @param columns the columns that most lines have
 * @param tagged whether the number of columns hangs on the first of them
 */
record DelimiterGuess(char delimiter, Character quote, double share, int columns, boolean tagged) {

    private static final String CANDIDATES = ";\t|,";
    /** The most columns that a layout is proposed with. */
    private static final int MOST_COLUMNS = 3_000;

    static Optional<DelimiterGuess> of(SampleLines sample) {
        Character quote = quote(sample);
        DelimiterGuess best = null;
        for (char c : CANDIDATES.toCharArray()) {
            DelimiterGuess guess = judge(sample, c, quote);
            if (guess.columns > 1
                    && guess.columns <= MOST_COLUMNS
                    && guess.share >= 0.7
                    && (best == null || guess.score() > best.score())) {
                best = guess;
            }
        }
        return Optional.ofNullable(best);
    }

    private double score() {
        return share + Math.min(columns, 20) * 0.01;
    }

    private static DelimiterGuess judge(SampleLines sample, char delimiter, Character quote) {
        Map<Integer, Integer> counts = new HashMap<>();
        Map<String, Map<Integer, Integer>> byTag = new HashMap<>();
        List<List<String>> rows = rows(sample.first(), delimiter, quote);
        for (List<String> row : rows) {
            counts.merge(row.size(), 1, Integer::sum);
            byTag.computeIfAbsent(row.get(0), t -> new HashMap<>()).merge(row.size(), 1, Integer::sum);
        }
        Map.Entry<Integer, Integer> most =
                counts.entrySet().stream().max(Map.Entry.comparingByValue()).orElse(Map.entry(0, 0));
        double share = rows.isEmpty() ? 0 : (double) most.getValue() / rows.size();
        boolean fewTags = byTag.size() > 1 && byTag.size() <= 8 && byTag.size() * 2 <= rows.size();
        boolean oneWidth = byTag.values().stream().allMatch(m -> m.size() == 1)
                && byTag.keySet().stream().allMatch(t -> t.length() <= 6 && t.length() > 0);
        if (fewTags && oneWidth && share < 1) {
            return new DelimiterGuess(delimiter, quote, 1, most.getKey(), true);
        }
        return new DelimiterGuess(delimiter, quote, share, most.getKey(), false);
    }

    private static Character quote(SampleLines sample) {
        long doubles = sample.lines().stream().filter(l -> l.indexOf('"') >= 0).count();
        return doubles > 0 ? '"' : null;
    }

    /** The columns of each record; a line break inside quotes does not end it. */
    static List<List<String>> rows(List<String> lines, char delimiter, Character quote) {
        List<List<String>> rows = new ArrayList<>();
        List<String> row = new ArrayList<>();
        StringBuilder cell = new StringBuilder();
        boolean inside = false;
        int joined = 0;
        for (String line : lines) {
            for (int i = 0; i < line.length(); i++) {
                char c = line.charAt(i);
                if (quote != null && c == quote && (inside || cell.length() == 0)) {
                    if (inside && i + 1 < line.length() && line.charAt(i + 1) == quote) {
                        cell.append(quote);
                        i++;
                    } else {
                        inside = !inside;
                    }
                } else if (c == delimiter && !inside) {
                    row.add(cell.toString());
                    cell.setLength(0);
                } else {
                    cell.append(c);
                }
            }
            if (inside && ++joined < 20) {
                cell.append('\n');
                continue;
            }
            inside = false;
            joined = 0;
            row.add(cell.toString());
            cell.setLength(0);
            rows.add(row);
            row = new ArrayList<>();
        }
        return rows;
    }
}
