package ninepin.core.format.lines;

import java.nio.charset.StandardCharsets;
import ninepin.core.record.RecordBuffer;

/** A record of a file in UTF-16, held in UTF-8. */
final class Utf16Record extends RecordBuffer {

    @Override
    public long byteOf(int place) {
        return offset + Utf16Window.width(buffer, start, start + place);
    }

    @Override
    public boolean transcribed() {
        return true;
    }

    @Override
    public byte[] fileBytes() {
        return text(StandardCharsets.UTF_8).getBytes(StandardCharsets.UTF_16BE);
    }
}
