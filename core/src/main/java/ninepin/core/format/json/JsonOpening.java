package ninepin.core.format.json;

import java.io.IOException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import ninepin.core.bytes.ByteSource;
import ninepin.core.format.lines.LineCuts;
import ninepin.core.layout.Json;
import ninepin.core.layout.Layout;
import ninepin.core.record.Fault;
import ninepin.core.record.Opening;
import ninepin.core.record.Position;
import ninepin.core.record.RecordReader;

/**
 * A JSON file. Its records are found while it is read.
 *
 * @param fault what keeps the file from being read, or null
 */
record JsonOpening(Layout layout, Fault fault) implements Opening {

    static JsonOpening of(ByteSource source, Layout layout) {
        boolean lines = ((Json) layout.format()).lines();
        return new JsonOpening(layout, source.size() == 0 && !lines ? JsonFaults.empty() : null);
    }

    @Override
    public Charset charset() {
        return StandardCharsets.UTF_8;
    }

    @Override
    public Position body() {
        return Position.START;
    }

    @Override
    public RecordReader reader(ByteSource source, Position from) {
        return new JsonReader(source, layout, from);
    }

    /** Lines only: what a part of a document is, hangs on what stands around it. */
    @Override
    public long[] cuts(ByteSource source, int pieces) throws IOException {
        return ((Json) layout.format()).lines() ? LineCuts.of(this, 0, source, pieces) : new long[0];
    }
}
