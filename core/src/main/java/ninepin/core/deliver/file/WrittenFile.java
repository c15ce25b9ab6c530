package ninepin.core.deliver.file;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;

/**
 * How far a file has come, kept beside the mark.
 *
 * @param number its number in the run, from 1
 * @param key what documents go to it by: the value of its group, or empty
 * @param name the name it has, or gets when it is complete
 * @param length its bytes
 * @param records its records, those counted that stand for a row each
 * @param sums for each check of the layout's that is a count, a total, a sequence or the same value, what it has come to
 * @param last for each delivery whose record stands at the end, the row that came last, or null
 * @param state what the writer has to know to go on
 * @param complete whether nothing will be added
 * @param fingerprint the SHA-256 of the file under its name, when complete
 * @param published the bytes of that, where it is made of what is written; else null
 */
public record WrittenFile(
        int number,
        String key,
        String name,
        long length,
        long records,
        List<String> sums,
        List<List<String>> last,
        String state,
        boolean complete,
        String fingerprint,
        Long published) {

    public WrittenFile {
        sums = Collections.unmodifiableList(new ArrayList<>(sums));
        last = Collections.unmodifiableList(new ArrayList<>(last));
    }

    /** The bytes of the file under its name. */
    public long size() {
        return published == null ? length : published;
    }

    /**
     * The same, complete.
     *
     * @param sha256 the SHA-256 of the file under its name
     * @param size the bytes of that
     */
    WrittenFile sealed(String sha256, long size) {
        return new WrittenFile(
                number, key, name, length, records, sums, last, state, complete, sha256, size == length ? null : size);
    }
}
