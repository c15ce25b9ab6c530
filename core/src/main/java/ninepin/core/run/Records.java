package ninepin.core.run;

import java.util.Arrays;
import ninepin.core.document.OpenDocument;

/** Where the records of a chunk stand in the file. */
final class Records {

    private long[] offsets = new long[1024];
    private long[] lines = new long[1024];
    private long[] numbers = new long[1024];
    private int[] lengths = new int[1024];
    private int count;

    int add(OpenDocument.Entry record) {
        if (count == offsets.length) {
            int larger = count * 2;
            offsets = Arrays.copyOf(offsets, larger);
            lines = Arrays.copyOf(lines, larger);
            numbers = Arrays.copyOf(numbers, larger);
            lengths = Arrays.copyOf(lengths, larger);
        }
        offsets[count] = record.offset();
        lines[count] = record.line();
        numbers[count] = record.number();
        lengths[count] = record.length();
        return count++;
    }

    int count() {
        return count;
    }

    void truncate(int toCount) {
        count = toCount;
    }

    long offset(int record) {
        return offsets[record];
    }

    long line(int record) {
        return lines[record];
    }

    long number(int record) {
        return numbers[record];
    }

    int length(int record) {
        return lengths[record];
    }
}
