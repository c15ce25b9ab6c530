package ninepin.core.run;

import java.util.Arrays;
import ninepin.core.document.OpenDocument;
import ninepin.core.record.Locator;

/** Where the records of a chunk stand in the file, and the bytes of those that are held in another encoding. */
final class Records {

    private long[] offsets = new long[1024];
    private long[] lines = new long[1024];
    private long[] numbers = new long[1024];
    private int[] lengths = new int[1024];
    private Fate[] fates = new Fate[1024];
    /** Null as long as no record has bytes of its own. */
    private byte[][] raws;

    /** Null as long as lines tell where all of them stand. */
    private Locator[] locators;

    private int count;

    /**
     * Adds a record.
     *
     * @param raw its bytes, where they cannot be sliced out of the file; else null
     */
    int add(OpenDocument.Entry record, byte[] raw) {
        if (count == offsets.length) {
            int larger = count * 2;
            offsets = Arrays.copyOf(offsets, larger);
            lines = Arrays.copyOf(lines, larger);
            numbers = Arrays.copyOf(numbers, larger);
            lengths = Arrays.copyOf(lengths, larger);
            fates = Arrays.copyOf(fates, larger);
        }
        offsets[count] = record.offset();
        lines[count] = record.line();
        numbers[count] = record.number();
        fates[count] = Fate.of(record);
        lengths[count] = raw == null ? record.length() : (int) Math.min(Integer.MAX_VALUE, record.fullLength());
        if (raw != null && raws == null) {
            raws = new byte[lengths.length][];
        }
        if (raws != null) {
            raws = raws.length < lengths.length ? Arrays.copyOf(raws, lengths.length) : raws;
            raws[count] = raw;
        }
        Locator own = record.ownLocator();
        if (own != null && locators == null) {
            locators = new Locator[lengths.length];
        }
        if (locators != null) {
            locators = locators.length < lengths.length ? Arrays.copyOf(locators, lengths.length) : locators;
            locators[count] = own;
        }
        return count++;
    }

    /** The bytes of a record that cannot be sliced out of the file, or null. */
    byte[] raw(int record) {
        return raws == null ? null : raws[record];
    }

    int count() {
        return count;
    }

    void truncate(int toCount) {
        count = toCount;
        if (toCount == 0) {
            raws = null;
            locators = null;
        }
    }

    long offset(int record) {
        return offsets[record];
    }

    long line(int record) {
        return lines[record];
    }

    /** Where a record stands, as people find it. */
    Locator locator(int record) {
        Locator own = locators == null ? null : locators[record];
        return own == null ? Locator.line(lines[record]) : own;
    }

    long number(int record) {
        return numbers[record];
    }

    /** What it comes to as long as its document is not refused. */
    Fate fate(int record) {
        return fates[record];
    }

    int length(int record) {
        return lengths[record];
    }
}
