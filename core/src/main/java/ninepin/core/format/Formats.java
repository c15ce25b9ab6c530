package ninepin.core.format;

import ninepin.core.layout.Delimited;
import ninepin.core.layout.FixedLength;
import ninepin.core.layout.Format;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Xml;

/** The formats that there are. */
public final class Formats {

    private Formats() {}

    /** All that is known of the format of a layout. */
    public static FormatSupport of(Layout layout) {
        Format format = layout.format();
        if (format instanceof Delimited delimited) {
            return new DelimitedSupport(layout, delimited);
        }
        if (format instanceof FixedLength fixed) {
            return new FixedLengthSupport(layout, fixed);
        }
        return new XmlSupport(layout, (Xml) format);
    }
}
