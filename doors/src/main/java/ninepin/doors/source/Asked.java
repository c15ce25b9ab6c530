package ninepin.doors.source;

import java.io.IOException;
import java.nio.file.Path;
import ninepin.core.layout.Layout;

/** A source that gives records whenever it is asked, by hand too, and knows what they look like. */
public interface Asked extends SourceSupport {

    /** Whether it is said what is asked. */
    boolean decided();

    /** The layout of a file of its records. */
    Layout layout(SourceContext context, String name) throws SourceException;

    /** Makes a file of its first records. */
    void sample(SourceContext context, Path into) throws SourceException, IOException;
}
