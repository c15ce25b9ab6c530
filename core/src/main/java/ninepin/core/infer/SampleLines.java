package ninepin.core.infer;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import ninepin.core.layout.FileCharset;

/**
 * The lines of a sample, without blank ones.
 *
 * @param lines their text
 * @param lineEnd the line end that most of them have, in words
 * @param mixed whether others have another one
 * @param starts the places in the list at which the lines of each sample begin
 */
public record SampleLines(List<String> lines, String lineEnd, boolean mixed, List<Integer> starts) {

    /** The part of a proposal that says how much of the sample it rests on. */
    public static final String LOOKED_AT = "looked at";

    public static final int MOST_LINES = 100_000;
    /** As many cells as half a second is enough for. */
    public static final int MOST_CELLS = 1_000_000;
    /** So many lines say how the file is written. */
    private static final int FIRST = 2_000;

    /**
     * @param whole whether the bytes are all of the sample; otherwise the last line may be cut and is left out
     */
    public static SampleLines of(byte[] bytes, FileCharset charset, boolean whole) {
        String text = new String(bytes, charset.charset());
        if (!text.isEmpty() && text.charAt(0) == '\ufeff') {
            text = text.substring(1);
        }
        List<String> lines = new ArrayList<>();
        int[] ends = new int[3];
        int start = 0;
        for (int i = 0; i < text.length() && lines.size() < MOST_LINES; i++) {
            char c = text.charAt(i);
            if (c != '\n' && c != '\r' && c != '\u0085') {
                continue;
            }
            boolean both = c == '\r' && i + 1 < text.length() && text.charAt(i + 1) == '\n';
            ends[both ? 0 : c == '\r' ? 2 : 1]++;
            add(lines, text.substring(start, i));
            i += both ? 1 : 0;
            start = i + 1;
        }
        if (whole && lines.size() < MOST_LINES) {
            add(lines, text.substring(start));
        }
        int most = ends[0] >= ends[1] && ends[0] >= ends[2] ? 0 : ends[1] >= ends[2] ? 1 : 2;
        boolean mixed = ends[0] + ends[1] + ends[2] > ends[most];
        return new SampleLines(lines, List.of("CR LF", "LF", "CR").get(most), mixed, List.of(0));
    }

    /** These and the lines of a further sample, whose first line is left out when it is the same header row. */
    public SampleLines and(SampleLines more) {
        List<String> all = new ArrayList<>(lines);
        List<Integer> begin = new ArrayList<>(starts);
        begin.add(all.size());
        boolean same =
                !lines.isEmpty() && !more.lines.isEmpty() && more.lines.get(0).equals(lines.get(0));
        all.addAll(
                same && lines.size() > 1 && looksLikeNames() ? more.lines.subList(1, more.lines.size()) : more.lines);
        return new SampleLines(all, lineEnd, mixed || more.mixed || !more.lineEnd.equals(lineEnd), begin);
    }

    /** Whether the first line may name columns: no digit stands in it. */
    private boolean looksLikeNames() {
        return lines.get(0).chars().noneMatch(Character::isDigit);
    }

    /** The first lines, which say how the file is written. */
    public List<String> first() {
        return start(lines, FIRST);
    }

    /** Says that only the first lines of a sample were looked at, in place of what was said of it before. */
    public static void sayLookedAt(int lines, List<Proposal.Guess> guesses) {
        guesses.removeIf(g -> g.part().equals(LOOKED_AT));
        guesses.add(new Proposal.Guess(
                LOOKED_AT,
                String.format(Locale.ROOT, "the first %,d lines", lines),
                Proposal.Sureness.UNSURE,
                "Lines further down may have longer or other values; check them on the bench."));
    }

    /** So many of some lines, and two at least. */
    public static List<String> start(List<String> lines, int most) {
        return lines.subList(0, Math.min(lines.size(), Math.max(2, most)));
    }

    /** The number of samples that the lines are of. */
    public int samples() {
        return starts.size();
    }

    private static void add(List<String> lines, String line) {
        if (!line.isBlank() && !line.equals("\u001a")) {
            lines.add(line);
        }
    }
}
