package ninepin.core.check;

import java.nio.charset.Charset;
import ninepin.core.layout.FileCharset;
import ninepin.core.layout.Severity;
import ninepin.core.record.Fault;
import ninepin.core.record.RawRecord;

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
        return new Finding(
                severity,
                code,
                r.locator(from, to, charset, ascii),
                r.number(),
                field,
                null,
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
                r.locator(),
                r.number(),
                null,
                null,
                r.offset(),
                (int) Math.min(r.fullLength(), 1 << 20),
                found,
                expected,
                advice);
    }
}
