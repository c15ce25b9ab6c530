package ninepin.core.check;

import java.nio.ByteBuffer;
import java.nio.CharBuffer;
import java.nio.charset.Charset;
import java.nio.charset.CharsetDecoder;
import java.nio.charset.CodingErrorAction;
import ninepin.core.value.Problem;

/** Bytes that are no character of their charset, which a lenient decoder would turn into U+FFFD without a word. */
final class Undecodable {

    private Undecodable() {}

    /** What is wrong with a text that could not be decoded, with the first byte that is no character. */
    static Problem at(byte[] bytes, int from, int to, Charset charset) {
        CharsetDecoder decoder = charset.newDecoder()
                .onMalformedInput(CodingErrorAction.REPORT)
                .onUnmappableCharacter(CodingErrorAction.REPORT);
        ByteBuffer in = ByteBuffer.wrap(bytes, from, to - from);
        decoder.decode(in, CharBuffer.allocate(to - from + 1), true);
        int at = Math.min(in.position(), to - 1);
        return Problem.wrongByte(charset.name(), bytes[at], at - from);
    }
}
