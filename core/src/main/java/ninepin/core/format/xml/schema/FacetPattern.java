package ninepin.core.format.xml.schema;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.Deque;
import java.util.List;
import java.util.TreeSet;
import java.util.regex.Pattern;
import java.util.regex.PatternSyntaxException;
import ninepin.core.format.xml.schema.PositionAutomaton.Part;

/**
 * A regular expression of a schema (W3C XML Schema 1.0, Part 2, Appendix F), read as a position automaton to find out whether a
 * matcher that tries one way after the other could take exponential time: whether some text leads from a position back to it in
 * two ways (exponential ambiguity; Weber and Seidl 1991).
 */
final class FacetPattern {

    /** Thrown where it takes too much to tell. */
    private static final class TooLarge extends RuntimeException {
        private static final long serialVersionUID = 1L;
    }

    /** Thrown where it cannot be read; a validator will say why. */
    static final class Unread extends Exception {
        private static final long serialVersionUID = 1L;
    }

    /** The most positions. */
    private static final int MOST = 2_000;
    /** What finding out which characters a position takes costs, in pairs of positions that are looked at. */
    private static final int COST_OF_POSITION = 1_000;

    /** How much may be looked at, for all expressions of a schema together, in pairs of positions. */
    static final class Budget {
        private long left = 100_000_000;

        private void take(long pairs) {
            left -= pairs;
            if (left < 0) {
                throw new TooLarge();
            }
        }
    }

    private static final int DEEPEST = 100;
    /** A count above it stands for any number. */
    private static final int COPIES = 3;

    private final String text;
    private int at;
    private final List<String> classes = new ArrayList<>();
    private final PositionAutomaton automaton = new PositionAutomaton();
    /** Whether a step that can be made again and again can be made in two ways, as in {@code (a+)+}. */
    private boolean stepsTwice;

    private boolean countsNothing;
    private final Budget budget;

    private FacetPattern(String text, Budget budget) {
        this.budget = budget;
        this.text = text;
    }

    /** Whether matching it may take exponential time, or it is too large to tell. */
    static boolean mayRunAway(String pattern, Budget budget) throws Unread {
        FacetPattern read = new FacetPattern(pattern, budget);
        try {
            read.alternatives(0);
            if (read.at < pattern.length()) {
                throw new Unread();
            }
            return read.countsNothing || read.stepsTwice || read.isAmbiguous();
        } catch (TooLarge e) {
            return true;
        }
    }

    private boolean more() {
        return at < text.length();
    }

    private Part alternatives(int depth) throws Unread {
        if (depth > DEEPEST) {
            throw new Unread();
        }
        Part all = sequence(depth);
        while (more() && text.charAt(at) == '|') {
            at++;
            all = all.or(sequence(depth));
        }
        return all;
    }

    private Part sequence(int depth) throws Unread {
        Part all = Part.empty();
        while (more() && text.charAt(at) != '|' && text.charAt(at) != ')') {
            all = automaton.then(all, piece(depth));
        }
        return all;
    }

    /** The positions that follow a position, sooner or later. */
    private static BitSet ahead(int from, BitSet[] steps) {
        BitSet reached = new BitSet();
        Deque<Integer> open = new ArrayDeque<>(List.of(from));
        while (!open.isEmpty()) {
            steps[open.poll()].stream().filter(q -> !reached.get(q)).forEach(q -> {
                reached.set(q);
                open.add(q);
            });
        }
        return reached;
    }

    private Part piece(int depth) throws Unread {
        int start = at;
        Part one = atom(depth);
        int end = at;
        int[] times = quantifier();
        int least = times[0];
        int most = times[1];
        if (most == 0) {
            return Part.empty();
        }
        if (most < 0 || most > COPIES) {
            // So many optional copies one after the other are as many ways to read one text.
            countsNothing |= one.optional() && most > COPIES;
            stepsTwice |= automaton.loop(one);
            return one.optionalToo(least == 0);
        }
        Part all = one.optionalToo(least == 0);
        for (int copy = 1; copy < most; copy++) {
            int behind = at;
            at = start;
            Part next = atom(depth);
            if (at != end) {
                throw new Unread();
            }
            at = behind;
            all = automaton.then(all, next.optionalToo(copy >= least));
        }
        return all;
    }

    /** How often: from, to; to is -1 for any number. */
    private int[] quantifier() throws Unread {
        if (!more()) {
            return new int[] {1, 1};
        }
        switch (text.charAt(at)) {
            case '?' -> {
                at++;
                return new int[] {0, 1};
            }
            case '*' -> {
                at++;
                return new int[] {0, -1};
            }
            case '+' -> {
                at++;
                return new int[] {1, -1};
            }
            case '{' -> {
                int close = text.indexOf('}', at);
                if (close < 0) {
                    throw new Unread();
                }
                String[] bounds = text.substring(at + 1, close).split(",", -1);
                at = close + 1;
                try {
                    int least = Integer.parseInt(bounds[0].strip());
                    int most =
                            bounds.length == 1 ? least : bounds[1].isBlank() ? -1 : Integer.parseInt(bounds[1].strip());
                    return new int[] {least, most};
                } catch (NumberFormatException e) {
                    throw new Unread();
                }
            }
            default -> {
                return new int[] {1, 1};
            }
        }
    }

    private Part atom(int depth) throws Unread {
        char c = text.charAt(at);
        if (c == '(') {
            at++;
            Part inner = alternatives(depth + 1);
            if (!more() || text.charAt(at) != ')') {
                throw new Unread();
            }
            at++;
            return inner;
        }
        if (c == '[') {
            int from = at;
            at = behindClass(at);
            return position(text.substring(from, at).replace("-[", "&&[^").replace("&&[^^", "&&["));
        }
        if (c == '\\') {
            int from = at;
            at += 2;
            if (at > text.length()) {
                throw new Unread();
            }
            if ("pP".indexOf(text.charAt(from + 1)) >= 0) {
                at = text.indexOf('}', from) + 1;
                if (at == 0) {
                    throw new Unread();
                }
            }
            return position(escape(text.substring(from, at)));
        }
        if (c == '.') {
            at++;
            return position("[^\n\r]");
        }
        int code = text.codePointAt(at);
        at += Character.charCount(code);
        return position(Pattern.quote(Character.toString(code)));
    }

    /** Escapes that XML Schema has for itself. */
    private static String escape(String escape) {
        return switch (escape) {
            case "\\i" -> "[\\p{L}_:]";
            case "\\I" -> "[^\\p{L}_:]";
            case "\\c" -> "[\\p{L}\\p{Nd}_:.-]";
            case "\\C" -> "[^\\p{L}\\p{Nd}_:.-]";
            case "\\w" -> "[^\\p{P}\\p{Z}\\p{C}]";
            case "\\W" -> "[\\p{P}\\p{Z}\\p{C}]";
            default ->
                escape.startsWith("\\p{Is") || escape.startsWith("\\P{Is")
                        ? escape.substring(0, 3) + "In" + escape.substring(5)
                        : escape;
        };
    }

    private int behindClass(int open) throws Unread {
        int depth = 0;
        for (int i = open; i < text.length(); i++) {
            char c = text.charAt(i);
            if (c == '\\') {
                i++;
            } else if (c == '[') {
                depth++;
            } else if (c == ']' && --depth == 0) {
                return i + 1;
            }
        }
        throw new Unread();
    }

    private Part position(String characters) {
        if (classes.size() >= MOST) {
            throw new TooLarge();
        }
        classes.add(characters);
        return automaton.position();
    }

    /** Which positions share a character, found by characters that stand for all there are. */
    private BitSet[] shared() throws Unread {
        budget.take((long) classes.size() * COST_OF_POSITION);
        TreeSet<Integer> characters = new TreeSet<>();
        for (int c = 0x20; c < 0x180; c++) {
            characters.add(c);
        }
        text.codePoints().forEach(c -> {
            for (int near = Math.max(1, c - 1); near <= Math.min(Character.MAX_CODE_POINT, c + 1); near++) {
                characters.add(near);
            }
        });
        for (int c : new int[] {'\t', '\n', '\r', 0x3B1, 0x416, 0x5D0, 0x660, 0x905, 0x2028, 0x4E2D, 0xAC00, 0x1F600}) {
            characters.add(c);
        }
        BitSet[] takes = new BitSet[classes.size()];
        List<String> each = characters.stream().map(Character::toString).toList();
        try {
            for (int p = 0; p < takes.length; p++) {
                Pattern one = Pattern.compile(classes.get(p), Pattern.DOTALL);
                takes[p] = new BitSet();
                for (int c = 0; c < each.size(); c++) {
                    takes[p].set(c, one.matcher(each.get(c)).matches());
                }
            }
        } catch (PatternSyntaxException e) {
            throw new Unread();
        }
        BitSet[] shared = new BitSet[takes.length];
        for (int p = 0; p < takes.length; p++) {
            shared[p] = new BitSet();
            for (int q = 0; q < takes.length; q++) {
                shared[p].set(q, takes[p].intersects(takes[q]));
            }
        }
        return shared;
    }

    /** Whether a pair of the same position leads, by one text, to a pair of different ones and back. */
    private boolean isAmbiguous() throws Unread {
        int n = classes.size();
        BitSet[] shared = shared();
        BitSet[] before = new BitSet[n];
        for (int p = 0; p < n; p++) {
            before[p] = new BitSet();
        }
        for (int p = 0; p < n; p++) {
            int from = p;
            automaton.follows().get(p).stream().forEach(q -> before[q].set(from));
        }
        BitSet[] after = automaton.follows().toArray(BitSet[]::new);
        BitSet looked = new BitSet();
        for (int p = 0; p < n; p++) {
            BitSet around = looked.get(p) ? new BitSet() : ahead(p, after);
            if (!around.get(p)) {
                continue;
            }
            // Of positions that lead to each other one is enough.
            around.and(ahead(p, before));
            looked.or(around);
            BitSet ahead = reached(p, n, shared, after);
            ahead.and(reached(p, n, shared, before));
            for (int q = 0; q < n; q++) {
                ahead.clear(q * n + q);
            }
            if (!ahead.isEmpty()) {
                return true;
            }
        }
        return false;
    }

    /** The pairs of positions that one text leads to from a position taken twice. */
    private BitSet reached(int p, int n, BitSet[] shared, BitSet[] steps) {
        BitSet seen = new BitSet(n * n);
        Deque<int[]> open = new ArrayDeque<>();
        open.add(new int[] {p, p});
        while (!open.isEmpty()) {
            int[] pair = open.poll();
            BitSet others = steps[pair[1]];
            for (int a = steps[pair[0]].nextSetBit(0); a >= 0; a = steps[pair[0]].nextSetBit(a + 1)) {
                BitSet together = (BitSet) others.clone();
                together.and(shared[a]);
                for (int b = together.nextSetBit(0); b >= 0; b = together.nextSetBit(b + 1)) {
                    budget.take(1);
                    if (!seen.get(a * n + b)) {
                        seen.set(a * n + b);
                        open.add(new int[] {a, b});
                    }
                }
            }
        }
        return seen;
    }
}
