package ninepin.core.format.lines;

import java.io.IOException;
import ninepin.core.record.RecordReader;

/** Reads records that stand on lines. */
public interface LineReader extends RecordReader {

    /** Passes over a line, whatever stands on it. */
    void passLine() throws IOException;
}
