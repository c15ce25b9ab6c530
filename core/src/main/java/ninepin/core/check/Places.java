package ninepin.core.check;

import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import ninepin.core.layout.FileCharset;
import ninepin.core.layout.Severity;
import ninepin.core.read.Fault;
import ninepin.core.read.RawRecord;

/** Makes findings: turns places in a record's bytes into lines and character columns of the file. */
final class Places {

    private final Charset charset;

    private final boolean ascii;

    Places(FileCharset charset) {
        this.charset = charset.held().charset();
        this.ascii = charset.held().ascii();
    }

    Finding finding(
            Severity severity,
            String code,
            RawRecord r,
            String field,
            int from,
            int to,
            String found,
            String expected,
            String advice) {
        int lineStart = 0;
        long line = r.line();
        // In UTF-16 a line feed is two bytes, and each of them may be a part of another character.
        int width = StandardCharsets.UTF_16LE.equals(r.encoding()) || StandardCharsets.UTF_16BE.equals(r.encoding())
                ? 2
                : 1;
        int low = StandardCharsets.UTF_16BE.equals(r.encoding()) ? 1 : 0;
        for (int i = 0; ascii && i < from; i += width) {
            int b = unit(r, i, width, low);
            if (b == '\n' || b == '\r' && unit(r, i + width, width, low) != '\n') {
                line++;
                lineStart = i + width;
            }
        }
        int first = characters(r, lineStart, from) + 1 + (line == r.line() ? r.columnBefore() : 0);
        int last = Math.max(first, first + characters(r, from, to) - 1);
        return new Finding(
                severity,
                code,
                line,
                r.number(),
                field,
                null,
                first,
                last,
                r.byteOf(from),
                (int) (r.byteOf(to) - r.byteOf(from)),
                found,
                expected,
                advice);
    }

    /** The byte, or the two of UTF-16, at a place of a record; -1 behind its end. */
    private static int unit(RawRecord r, int at, int width, int low) {
        if (at + width > r.length()) {
            return -1;
        }
        int place = r.start() + at;
        return width == 1
                ? r.buffer()[place]
                : (r.buffer()[place + 1 - low] & 0xff) << 8 | r.buffer()[place + low] & 0xff;
    }

    Finding ofFault(Fault fault, RawRecord r, String field) {
        int to = Math.min(fault.to(), r.length());
        if (fault.column() < 0) {
            return whole(
                    fault.halts() ? Severity.HALT : Severity.REJECT,
                    fault.code(),
                    r,
                    fault.found(),
                    fault.expected(),
                    fault.advice());
        }
        return finding(
                Severity.REJECT,
                fault.code(),
                r,
                field,
                fault.from(),
                to,
                fault.found(),
                fault.expected(),
                fault.advice());
    }

    Finding whole(Severity severity, String code, RawRecord r, String found, String expected, String advice) {
        return new Finding(
                severity,
                code,
                r.line(),
                r.number(),
                null,
                null,
                0,
                0,
                r.offset(),
                (int) Math.min(r.fullLength(), 1 << 20),
                found,
                expected,
                advice);
    }

    private int characters(RawRecord r, int from, int to) {
        int cut = Math.min(to, from + 100_000);
        return new String(
                        r.buffer(),
                        r.start() + from,
                        Math.max(0, cut - from),
                        r.encoding() == null ? charset : r.encoding())
                .codePoints()
                .map(c -> 1)
                .sum();
    }
}
