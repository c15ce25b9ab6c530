package ninepin.core.format.xml;

import java.io.IOException;
import java.nio.charset.Charset;
import java.util.Arrays;
import java.util.stream.Stream;
import ninepin.core.bytes.ByteSource;
import ninepin.core.record.Position;
import ninepin.core.record.RecordReader;

/**
 * Cuts XML files where a record begins by the look of it: where the start tag of the first record stands again. A piece
 * is read behind the bytes that stand before the first record, so that the elements around it are open.
 */
final class XmlCuts {

    private static final int WINDOW = 1 << 16;
    private static final int LONGEST_NAME = 1000;

    private XmlCuts() {}

    /** How many bytes stand before the first record; -1 where none can be read. */
    static long prologue(XmlOpening opening, ByteSource source) throws IOException {
        RecordReader reader = opening.reader(source, Position.START);
        boolean any =
                reader.next() == RecordReader.Item.RECORD && reader.record().fault() == null;
        return any ? reader.record().offset() : -1;
    }

    /** Where to cut, in order. */
    static long[] of(XmlOpening opening, ByteSource source, int pieces) throws IOException {
        long prologue = prologue(opening, source);
        if (prologue < 0) {
            return new long[0];
        }
        byte[] name = name(source.slice(prologue, LONGEST_NAME), opening.charset());
        long[] places = new long[pieces - 1];
        int found = 0;
        for (int i = 1; i < pieces && name.length > 0; i++) {
            long wanted = prologue + (source.size() - prologue) / pieces * i;
            long at = next(source, wanted, name, opening.charset());
            if (at > (found == 0 ? prologue : places[found - 1])) {
                places[found++] = at;
            }
        }
        return Arrays.copyOf(places, found);
    }

    /** A start tag up to the end of its name; empty where it is too long. */
    private static byte[] name(byte[] tag, Charset charset) {
        byte[][] ends = ends(charset);
        for (int i = 0; i < tag.length; i++) {
            if (ended(tag, i, ends)) {
                return Arrays.copyOf(tag, i);
            }
        }
        return new byte[0];
    }

    /** What may stand behind the name of a start tag. */
    private static byte[][] ends(Charset charset) {
        return Stream.of(" ", "\t", "\r", "\n", ">", "/")
                .map(s -> s.getBytes(charset))
                .toArray(byte[][]::new);
    }

    private static boolean ended(byte[] bytes, int at, byte[][] ends) {
        for (byte[] end : ends) {
            if (at + end.length <= bytes.length && Arrays.equals(bytes, at, at + end.length, end, 0, end.length)) {
                return true;
            }
        }
        return false;
    }

    private static long next(ByteSource source, long from, byte[] name, Charset charset) throws IOException {
        byte[][] ends = ends(charset);
        int step = WINDOW - name.length - Integer.BYTES;
        for (long at = from; at < source.size(); at += step) {
            byte[] bytes = source.slice(at, WINDOW);
            for (int i = 0; i < Math.min(step, bytes.length - name.length); i++) {
                if (bytes[i] == name[0]
                        && Arrays.equals(bytes, i, i + name.length, name, 0, name.length)
                        && ended(bytes, i + name.length, ends)) {
                    return at + i;
                }
            }
        }
        return -1;
    }
}
