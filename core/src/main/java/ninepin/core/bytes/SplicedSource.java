package ninepin.core.bytes;

import java.io.IOException;

/** The first bytes of a source, and behind them its bytes from a later place on, as if nothing stood between. */
public final class SplicedSource implements ByteSource {

    private final ByteSource source;
    private final long first;
    private final long left;

    /**
     * @param source the whole, closed with this
     * @param first how many bytes of its start there are
     * @param from the byte that stands behind them
     */
    public SplicedSource(ByteSource source, long first, long from) {
        this.source = source;
        this.first = first;
        this.left = from - first;
    }

    @Override
    public long size() {
        return source.size() - left;
    }

    @Override
    public int read(long position, byte[] into, int offset, int length) throws IOException {
        return position < first
                ? source.read(position, into, offset, (int) Math.min(length, first - position))
                : source.read(position + left, into, offset, length);
    }

    @Override
    public void close() throws IOException {
        source.close();
    }
}
