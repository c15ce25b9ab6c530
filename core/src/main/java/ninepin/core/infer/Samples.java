package ninepin.core.infer;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import ninepin.core.bytes.ByteSource;
import ninepin.core.layout.FileCharset;

/**
 * Files of one kind from which a layout is to be proposed. The first says how they are written; the values of all say what the
 * fields are.
 */
public final class Samples {

    /** The most bytes of a sample that are looked at. */
    public static final int MOST_BYTES = 4 << 20;

    /**
     * The samples as lines of text.
     *
     * @param charset what they are decoded by
     * @param all the lines of all of them
     * @param guesses what there is to say of charset, line ends and how much was looked at; a list of the caller's own
     */
    public record Text(FileCharset charset, SampleLines all, List<Proposal.Guess> guesses) {}

    private final List<ByteSource> files;
    private final String name;
    private final String title;
    private final byte[] first;
    /** What {@link #text} has found, whoever asked first. */
    private Text text;

    /**
     * @param files files like the ones that will come, at least one
     * @param name the name of the layout, lower case letters, digits and hyphens
     * @param title the name people read
     */
    public Samples(List<ByteSource> files, String name, String title) throws IOException {
        this.files = List.copyOf(files);
        this.name = name;
        this.title = title;
        this.first = start(files.get(0));
    }

    public List<ByteSource> files() {
        return files;
    }

    /** The name of the layout. */
    public String name() {
        return name;
    }

    /** The name of the layout that people read. */
    public String title() {
        return title;
    }

    /** The bytes of the first sample that are looked at. */
    public byte[] first() {
        return first;
    }

    /** The bytes of a sample that are looked at. */
    public static byte[] start(ByteSource sample) throws IOException {
        return sample.slice(0, (int) Math.min(sample.size(), MOST_BYTES));
    }

    /** Whether a sample is all of its file; one of the most bytes that are looked at may have been cut there. */
    public static boolean isWhole(ByteSource sample) {
        return sample.size() < MOST_BYTES;
    }

    /** Whether all of every file is looked at. */
    public boolean areWhole() {
        return files.stream().allMatch(Samples::isWhole);
    }

    /** The samples as lines of text, decoded once. */
    public Text text() throws IOException {
        if (text == null) {
            text = decoded();
        }
        return new Text(text.charset, text.all, new ArrayList<>(text.guesses));
    }

    private Text decoded() throws IOException {
        List<Proposal.Guess> guesses = new ArrayList<>();
        FileCharset charset = CharsetGuess.of(first, guesses);
        SampleLines lines = SampleLines.of(first, charset, isWhole(files.get(0)));
        guesses.add(new Proposal.Guess(
                "line ends",
                lines.lineEnd(),
                lines.mixed() ? Proposal.Sureness.LIKELY : Proposal.Sureness.SURE,
                lines.mixed() ? "Other line ends are among them; any is read." : "All lines end so."));
        for (ByteSource more : files.subList(1, files.size())) {
            lines = lines.and(SampleLines.of(start(more), charset, isWhole(more)));
        }
        if (files.size() > 1) {
            guesses.add(new Proposal.Guess(
                    "samples",
                    files.size() + " files",
                    Proposal.Sureness.SURE,
                    "The first says how they are written, the values of all what the fields are."));
        }
        if (!areWhole()) {
            guesses.add(new Proposal.Guess(
                    SampleLines.LOOKED_AT,
                    "the first " + (MOST_BYTES >> 20) + " MiB",
                    Proposal.Sureness.UNSURE,
                    "What stands behind them may hold longer or other values; the bench tells."));
        }
        if (lines.lines().size() >= SampleLines.MOST_LINES) {
            SampleLines.sayLookedAt(lines.lines().size(), guesses);
        }
        return new Text(charset, lines, guesses);
    }
}
