package ninepin.core.bytes;

import java.io.IOException;

/** The first bytes of a source, as if there were no more. */
public final class HeadSource implements ByteSource {

    private final ByteSource source;
    private final long size;

    public HeadSource(ByteSource source, long size) {
        this.source = source;
        this.size = Math.min(size, source.size());
    }

    @Override
    public long size() {
        return size;
    }

    @Override
    public int read(long position, byte[] into, int offset, int length) throws IOException {
        if (position >= size) {
            return -1;
        }
        return source.read(position, into, offset, (int) Math.min(length, size - position));
    }

    @Override
    public void close() throws IOException {
        source.close();
    }
}
