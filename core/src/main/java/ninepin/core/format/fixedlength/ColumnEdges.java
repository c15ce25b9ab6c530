package ninepin.core.format.fixedlength;

import java.util.ArrayList;
import java.util.List;
import java.util.TreeSet;

/**
 * Where fields begin in lines of one kind, by what stands in each character column: a field begins behind blanks, where
 * letters and digits take turns in all lines, behind a sign that ends a number, and where leading zeros begin behind
 * digits that vary.
 */
final class ColumnEdges {

    private final List<String> lines;
    private final int from;
    private final int to;
    private final double[] blank;
    private final double[] digit;
    private final double[] zero;
    private final double[] sign;
    private final int[] kinds;

    /**
     * @param from the first column looked at, behind the tag
     * @param to the column after the last one in which anything stands
     */
    ColumnEdges(List<String> lines, int from, int to) {
        this.lines = lines;
        this.from = from;
        this.to = to;
        this.blank = share(c -> c == ' ');
        this.digit = share(c -> c >= '0' && c <= '9');
        this.zero = share(c -> c == '0');
        this.sign = share(c -> c == '+' || c == '-');
        this.kinds = new int[to];
        for (int c = from; c < to; c++) {
            TreeSet<Character> seen = new TreeSet<>();
            for (String line : lines) {
                seen.add(at(line, c));
            }
            kinds[c] = seen.size();
        }
    }

    private interface Test {
        boolean holds(char c);
    }

    private double[] share(Test test) {
        double[] share = new double[to];
        for (int c = from; c < to; c++) {
            int column = c;
            share[c] = (double) lines.stream()
                            .filter(l -> test.holds(at(l, column)))
                            .count()
                    / lines.size();
        }
        return share;
    }

    private static char at(String line, int column) {
        return column < line.length() ? line.charAt(column) : ' ';
    }

    /** The columns at which fields begin, from 0. */
    List<Integer> edges() {
        TreeSet<Integer> edges = new TreeSet<>();
        edges.add(from);
        for (int c = from + 1; c < to; c++) {
            if (begins(c)) {
                edges.add(c);
            }
        }
        return withoutCrumbs(new ArrayList<>(edges));
    }

    private boolean begins(int c) {
        boolean digitsBefore = digit[c - 1] > 0.95;
        boolean digitsHere = digit[c] > 0.95;
        if (blank[c - 1] > 0.97 && blank[c] < 0.9) {
            // A word further on in a text stands in few lines, behind a single blank.
            boolean wide = c - 3 >= from && blank[c - 2] > 0.97 && blank[c - 3] > 0.97;
            return blank[c] <= 0.5 || wide;
        }
        if (sign[c - 1] > 0.95 && c - 2 >= from && digit[c - 2] > 0.95 && kinds[c - 1] <= 2) {
            return kinds[c - 1] == 2 || !digitsHere || digit[c] > 0.95 && kinds[c - 1] == 2 || blank[c] > 0.5;
        }
        if (digitsBefore && !digitsHere && sign[c] < 0.95 && digit[c] < 0.5 && punctuation(c) < 0.95) {
            return true;
        }
        if (digitsHere
                && digit[c - 1] < 0.5
                && sign[c - 1] < 0.95
                && blank[c - 1] < 0.97
                && punctuation(c - 1) < 0.95) {
            return letters(c - 1) < 0.95 || kinds[c - 1] > 3;
        }
        return digitsBefore && digitsHere && zero[c] > 0.8 && zero[c - 1] < 0.6 && kinds[c - 1] > 2;
    }

    private double punctuation(int c) {
        return (double) lines.stream()
                        .filter(l -> "-./:,".indexOf(at(l, c)) >= 0)
                        .count()
                / lines.size();
    }

    private double letters(int c) {
        return (double) lines.stream().filter(l -> Character.isLetter(at(l, c))).count() / lines.size();
    }

    /** Dates are not taken apart: eight digits that begin with a year of our time stay together. */
    private List<Integer> withoutCrumbs(List<Integer> edges) {
        List<Integer> kept = new ArrayList<>();
        int until = -1;
        for (int edge : edges) {
            if (edge < until) {
                continue;
            }
            kept.add(edge);
            if (edge + 8 <= to && lines.stream().allMatch(l -> isDay(l, edge))) {
                until = edge + 8;
                boolean minutes = edge + 12 <= to && lines.stream().allMatch(l -> isMinute(l, edge + 8));
                until += minutes ? 4 : 0;
                if (until < to && !edges.contains(until)) {
                    kept.add(until);
                }
            }
        }
        return kept;
    }

    private static boolean isDay(String line, int at) {
        return line.length() >= at + 8
                && line.substring(at, at + 8).matches("(19|20)\\d\\d(0[1-9]|1[0-2])(0[1-9]|[12]\\d|3[01])");
    }

    private static boolean isMinute(String line, int at) {
        return line.length() >= at + 4 && line.substring(at, at + 4).matches("([01]\\d|2[0-3])[0-5]\\d");
    }
}
