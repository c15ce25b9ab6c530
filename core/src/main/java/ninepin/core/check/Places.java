package ninepin.core.check;

import java.nio.charset.Charset;
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
        int width = r.unitBytes();
        for (int i = 0; ascii && i < from; i += width) {
            int b = r.unit(i);
            if (b == '\n' || b == '\r' && r.unit(i + width) != '\n') {
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
