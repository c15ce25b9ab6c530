package ninepin.core.run;

import ninepin.core.check.Finding;
import ninepin.core.layout.Severity;
import ninepin.core.record.Locator;
import tools.jackson.databind.annotation.JsonDeserialize;
import tools.jackson.databind.annotation.JsonSerialize;
import tools.jackson.databind.util.StdConverter;

/** A finding as it stands in a journal: the parts of its place beside the others, as journals have always had them. */
record FindingForm(
        Severity severity,
        String code,
        long line,
        long record,
        String field,
        String target,
        int columnFrom,
        int columnTo,
        String path,
        long offset,
        int length,
        String found,
        String expected,
        String advice) {

    /** Says of a finding that it is written and read in this form. */
    @JsonSerialize(converter = Written.class)
    @JsonDeserialize(converter = Read.class)
    interface Mixed {}

    /** From the form to the finding. */
    static final class Read extends StdConverter<FindingForm, Finding> {
        @Override
        public Finding convert(FindingForm f) {
            return new Finding(
                    f.severity,
                    f.code,
                    new Locator(f.line, f.columnFrom, f.columnTo, f.path),
                    f.record,
                    f.field,
                    f.target,
                    f.offset,
                    f.length,
                    f.found,
                    f.expected,
                    f.advice);
        }
    }

    /** From the finding to the form. */
    static final class Written extends StdConverter<Finding, FindingForm> {
        @Override
        public FindingForm convert(Finding f) {
            return new FindingForm(
                    f.severity(),
                    f.code(),
                    f.line(),
                    f.record(),
                    f.field(),
                    f.target(),
                    f.at().columnFrom(),
                    f.at().columnTo(),
                    f.at().path(),
                    f.offset(),
                    f.length(),
                    f.found(),
                    f.expected(),
                    f.advice());
        }
    }
}
