package ninepin.core.infer;

import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.List;
import ninepin.core.infer.Proposal.Guess;
import ninepin.core.infer.Proposal.Sureness;
import ninepin.core.layout.FileCharset;

/** The charset of a sample, by the bytes that are no ASCII. */
final class CharsetGuess {

    private CharsetGuess() {}

    static FileCharset of(byte[] bytes, List<Guess> guesses) {
        if (bytes.length >= 2
                && (bytes[0] == (byte) 0xff && bytes[1] == (byte) 0xfe
                        || bytes[0] == (byte) 0xfe && bytes[1] == (byte) 0xff)) {
            return said(guesses, FileCharset.UTF_16, Sureness.SURE, "The sample begins with its byte order mark.");
        }
        int high = 0;
        int controls = 0;
        int ebcdic = 0;
        for (byte b : bytes) {
            int c = b & 0xff;
            high += c >= 0x80 ? 1 : 0;
            controls += c >= 0x80 && c < 0xa0 ? 1 : 0;
            ebcdic += c == 0x40 || c >= 0xf0 && c <= 0xf9 || c >= 0xc1 && c <= 0xe9 || c >= 0x81 && c <= 0xa9 ? 1 : 0;
        }
        if (bytes.length > 0 && high > bytes.length / 3 && ebcdic > bytes.length * 8L / 10) {
            return said(
                    guesses,
                    FileCharset.IBM_037,
                    Sureness.LIKELY,
                    "Blanks, digits and letters stand where EBCDIC has them.");
        }
        if (high == 0) {
            return said(
                    guesses,
                    FileCharset.UTF_8,
                    Sureness.LIKELY,
                    "There is only ASCII in the sample; ISO-8859-1 and windows-1252 would read it the same.");
        }
        if (isUtf8(bytes)) {
            return said(guesses, FileCharset.UTF_8, Sureness.SURE, high + " bytes beyond ASCII are well-formed UTF-8.");
        }
        return said(
                guesses,
                FileCharset.WINDOWS_1252,
                controls > 0 ? Sureness.LIKELY : Sureness.UNSURE,
                controls > 0
                        ? "It is no UTF-8, and has bytes that are letters and signs in windows-1252 only."
                        : "It is no UTF-8; ISO-8859-1 would read it the same.");
    }

    private static FileCharset said(List<Guess> guesses, FileCharset charset, Sureness sureness, String why) {
        guesses.add(new Guess("charset", charset.label(), sureness, why));
        return charset;
    }

    private static boolean isUtf8(byte[] bytes) {
        // The sample may be cut inside a character.
        for (int cut = 0; cut < 4 && cut < bytes.length; cut++) {
            try {
                StandardCharsets.UTF_8.newDecoder().decode(ByteBuffer.wrap(Arrays.copyOf(bytes, bytes.length - cut)));
                return true;
            } catch (CharacterCodingException e) {
                // Perhaps with a byte less.
            }
        }
        return false;
    }
}
