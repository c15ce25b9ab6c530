package ninepin.core.bytes;

/** Bytes in memory, for a sample or a test. The array is not copied and must not change. */
public final class MemorySource implements ByteSource {

    private final byte[] bytes;

    public MemorySource(byte[] bytes) {
        this.bytes = bytes;
    }

    @Override
    public long size() {
        return bytes.length;
    }

    @Override
    public int read(long position, byte[] into, int offset, int length) {
        if (position >= bytes.length) {
            return -1;
        }
        int n = (int) Math.min(length, bytes.length - position);
        System.arraycopy(bytes, (int) position, into, offset, n);
        return n;
    }

    @Override
    public void close() {}
}
