package ninepin.core.bytes;

import java.io.IOException;
import java.nio.charset.Charset;
import java.util.ArrayList;
import java.util.List;

/**
 * A piece of a file as it is, line by line, whatever its layout makes of it. Reads only the bytes it shows.
 *
 * @param size the bytes of the file
 * @param lines the lines, in order
 * @param next the byte behind the last line shown
 */
public record RawPiece(long size, List<RawLine> lines, long next) {

    /**
     * A line.
     *
     * @param number its number, from 1
     * @param offset the byte at which it starts
     * @param length its bytes, the line end not counted
     * @param text its text, its first characters where it is long
     * @param cut whether more of it stands in the file than in the text
     */
    public record RawLine(long number, long offset, long length, String text, boolean cut) {}

    /** What a search found: the byte at which it stands, or -1; and how far it has looked. */
    public record Hit(long offset, long line, long lookedTo) {}

    private static final int MOST_BYTES = 4_000;
    private static final int BUFFER = 1 << 18;
    /** The most bytes that one search looks at; the next goes on behind them. */
    public static final long SEARCHED = 512L << 20;

    /** Reads so many lines from the one on in which a byte stands. */
    public static RawPiece of(ByteSource source, LineIndex index, Charset charset, long offset, int count)
            throws IOException {
        long number = index.lineAt(source, offset);
        long at = index.offsetOf(source, number);
        List<RawLine> lines = new ArrayList<>();
        while (lines.size() < count && at < source.size()) {
            long behind =
                    index.blockSize() > 0 ? Math.min(source.size(), at + index.blockSize()) : next(source, index, at);
            long length = index.blockSize() > 0 ? behind - at : withoutEnd(source, index, at, behind);
            byte[] shown = source.slice(at, (int) Math.min(length, MOST_BYTES));
            lines.add(new RawLine(number, at, length, new String(shown, charset), length > MOST_BYTES));
            number++;
            at = behind;
        }
        return new RawPiece(source.size(), lines, at);
    }

    private static long next(ByteSource source, LineIndex index, long from) throws IOException {
        long[] found = {source.size()};
        // Most lines are short: the first look is a small one.
        long to = Math.min(source.size(), from + MOST_BYTES);
        boolean[] stopped = {false};
        LineIndex.LineEnds.Sink sink = start -> {
            found[0] = start;
            stopped[0] = true;
            return false;
        };
        index.ends().each(source, from, to, sink);
        if (!stopped[0]) {
            index.ends().each(source, to, source.size(), sink);
        }
        return found[0];
    }

    private static long withoutEnd(ByteSource source, LineIndex index, long from, long behind) throws IOException {
        long length = behind - from;
        if (index.ends().wide()) {
            byte[] units = source.slice(Math.max(from, behind - 4), (int) Math.min(length, 4));
            for (int i = units.length - 2; i >= 0 && index.ends().ends(LineIndex.LineEnds.unit(units, i)); i -= 2) {
                length -= 2;
            }
            return length;
        }
        byte[] last = source.slice(Math.max(from, behind - 2), (int) Math.min(length, 2));
        for (int i = last.length - 1; i >= 0 && length > 0 && index.ends().ends(last[i] & 0xff); i--) {
            length--;
        }
        return length;
    }

    /**
     * Looks for bytes from a place on, in a part of the file.
     *
     * @param wanted what to look for, at least one byte
     */
    public static Hit find(ByteSource source, LineIndex index, byte[] wanted, long from) throws IOException {
        long at = Math.max(0, from);
        long end = Math.min(source.size(), at + SEARCHED);
        byte[] bytes = new byte[Math.max(BUFFER, wanted.length * 2)];
        while (at + wanted.length <= source.size() && at < end) {
            byte[] piece = bytes;
            int n = fill(source, at, piece);
            int place = indexOf(piece, n, wanted);
            if (place >= 0) {
                return new Hit(at + place, index.lineAt(source, at + place), at + place);
            }
            at += Math.max(1, n - wanted.length + 1);
        }
        return new Hit(-1, -1, Math.min(source.size(), at + wanted.length <= source.size() ? at : source.size()));
    }

    private static int fill(ByteSource source, long at, byte[] into) throws IOException {
        int done = 0;
        while (done < into.length) {
            int n = source.read(at + done, into, done, into.length - done);
            if (n <= 0) {
                break;
            }
            done += n;
        }
        return done;
    }

    private static int indexOf(byte[] bytes, int length, byte[] wanted) {
        byte first = wanted[0];
        for (int i = 0; i + wanted.length <= length; i++) {
            if (bytes[i] == first && java.util.Arrays.equals(bytes, i, i + wanted.length, wanted, 0, wanted.length)) {
                return i;
            }
        }
        return -1;
    }
}
