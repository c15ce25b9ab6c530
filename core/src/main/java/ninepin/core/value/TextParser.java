package ninepin.core.value;

import ninepin.core.bytes.Utf8;
import ninepin.core.bytes.Words;
import ninepin.core.layout.DataType;
import ninepin.core.layout.FileCharset;

/** Text: proves that the bytes are characters of the charset, counts them, and hands the slice on. */
final class TextParser extends ValueParser {

    private final int most;
    private final FileCharset charset;

    TextParser(DataType.CharacterVarying type, FileCharset charset) {
        this.most = type.length();
        this.charset = charset;
    }

    @Override
    public Problem parse(byte[] bytes, int from, int to, Value into) {
        long all = 0;
        boolean zero = false;
        int i = from;
        for (; i + Long.BYTES <= to; i += Long.BYTES) {
            long word = Words.at(bytes, i);
            all |= word;
            zero |= Words.hasZero(word);
        }
        if (i < to) {
            long word = Words.upToEight(bytes, i, to - i);
            all |= word;
            zero |= Words.hasZero(word | Words.EACH << (to - i << 3));
        }
        if (zero) {
            into.setNull();
            return nul(bytes, from);
        }
        int characters = to - from;
        if ((all & Words.HIGH) != 0) {
            int bad = charset == FileCharset.UTF_8 ? Utf8.firstBad(bytes, from, to) : firstUndefined(bytes, from, to);
            if (bad >= 0) {
                into.setNull();
                return Utf8.isHalf(bytes, bad, to)
                        ? half(bytes, from, bad)
                        : Problem.wrongByte(charset.label(), bytes[bad], bad - from);
            }
            if (charset == FileCharset.UTF_8) {
                characters = Utf8.count(bytes, from, to);
            }
        }
        into.setText(bytes, from, to, characters);
        if (characters > most) {
            into.setNull();
            return new Problem(
                    "LEN-01",
                    "at most " + most + " characters",
                    "It has " + characters + "; raise the length in the layout.");
        }
        return null;
    }

    @Override
    public PlacedParser placed(int at, int length) {
        return new PlacedParser.Text(at, length, most, charset == FileCharset.ISO_8859_1);
    }

    private int firstUndefined(byte[] bytes, int from, int to) {
        if (charset == FileCharset.WINDOWS_1252) {
            for (int i = from; i < to; i++) {
                int b = bytes[i] & 0xff;
                if (b == 0x81 || b == 0x8d || b == 0x8f || b == 0x90 || b == 0x9d) {
                    return i;
                }
            }
        }
        return -1;
    }

    private Problem nul(byte[] bytes, int from) {
        int at = 0;
        while (bytes[from + at] != 0) {
            at++;
        }
        return new Problem("CHR-02", "text", "Byte " + (at + 1) + " is NUL (0x00).");
    }

    private static Problem half(byte[] bytes, int from, int bad) {
        return new Problem(
                "CHR-01",
                "text of whole characters",
                "Character " + (Utf8.count(bytes, from, bad) + 1)
                        + " is half of one, as UTF-16 writes those beyond U+FFFF; its other half is missing.");
    }
}
