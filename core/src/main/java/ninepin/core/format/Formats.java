package ninepin.core.format;

import java.io.IOException;
import java.io.OutputStream;
import java.util.List;
import ninepin.core.bytes.ByteSource;
import ninepin.core.format.delimited.DelimitedProposer;
import ninepin.core.format.delimited.DelimitedSupport;
import ninepin.core.format.fixedlength.FixedLengthSupport;
import ninepin.core.format.fixedlength.FixedProposer;
import ninepin.core.format.json.JsonProposer;
import ninepin.core.format.json.JsonSupport;
import ninepin.core.format.workbook.WorkbookProposer;
import ninepin.core.format.workbook.WorkbookSupport;
import ninepin.core.format.xml.XmlSupport;
import ninepin.core.format.xml.proposer.XmlProposer;
import ninepin.core.infer.Proposer;
import ninepin.core.layout.Delimited;
import ninepin.core.layout.FixedLength;
import ninepin.core.layout.Format;
import ninepin.core.layout.Json;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Workbook;
import ninepin.core.layout.Xml;
import ninepin.core.record.FormatSupport;
import ninepin.core.record.Opening;
import ninepin.core.record.RecordWriter;
import ninepin.core.record.WriteStyle;

/** The formats that there are. */
public final class Formats {

    /** What proposes a layout, in the order in which they are asked; the last takes any file. */
    static final List<Proposer> PROPOSERS = List.of(
            WorkbookProposer::propose,
            XmlProposer::propose,
            JsonProposer::propose,
            new DelimitedProposer(),
            new FixedProposer());

    private Formats() {}

    /** Opens a file by its layout. Reads its start only. */
    public static Opening open(ByteSource source, Layout layout) throws IOException {
        return of(layout).open(source);
    }

    /**
     * Begins a file in the usual style.
     *
     * @param out where the bytes go; closed with the writer
     */
    public static RecordWriter writer(OutputStream out, Layout layout) throws IOException {
        return of(layout).writer(out, WriteStyle.USUAL);
    }

    /** All that is known of the format of a layout. */
    public static FormatSupport of(Layout layout) {
        Format format = layout.format();
        if (format instanceof Delimited delimited) {
            return new DelimitedSupport(layout, delimited);
        }
        if (format instanceof FixedLength fixed) {
            return new FixedLengthSupport(layout, fixed);
        }
        if (format instanceof Json json) {
            return new JsonSupport(layout, json);
        }
        if (format instanceof Workbook) {
            return new WorkbookSupport(layout);
        }
        return new XmlSupport(layout, (Xml) format);
    }
}
