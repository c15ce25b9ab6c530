package ninepin.doors.store;

import java.io.IOException;
import java.nio.file.Files;
import java.util.OptionalLong;

/**
 * Sends a file to a store exactly once: uploads it under a hidden name, puts that on record, gives it its own name and puts that
 * on record too. A hidden name that is on record and is gone was given its own: whoever waits for the file may have taken it already.
 */
public final class Sending {

    /** Where each step is put on record before the next. */
    public interface Ledger {

        /**
         * It is about to be uploaded under its hidden name; what was begun under another one is removed.
         *
         * @return false where another process has the file by now
         */
        boolean uploading();

        /**
         * It is uploaded whole under its hidden name.
         *
         * @return false where another process has the file by now
         */
        boolean uploaded();

        /** It has its own name. */
        void sent();
    }

    private Sending() {}

    /**
     * Goes on with a file from wherever it was broken off.
     *
     * @return false where another process has it by now
     */
    public static boolean send(Outgoing file, Store store, Ledger ledger) throws StoreException {
        String hidden = file.uploaded() ? file.before() : file.hidden();
        if (!file.uploaded()) {
            if (file.before() != null) {
                store.remove(file.before());
            }
            refuseTaken(file, store);
            if (!ledger.uploading()) {
                return false;
            }
            upload(file, store);
            if (!ledger.uploaded()) {
                store.remove(hidden);
                return false;
            }
        }
        if (store.size(hidden).isPresent()) {
            store.publish(hidden, file.name(), file.replace());
        }
        ledger.sent();
        return true;
    }

    /** Before a large file is sent for nothing. */
    private static void refuseTaken(Outgoing file, Store store) throws StoreException {
        if (!file.replace() && store.size(file.name()).isPresent()) {
            throw taken(file.name());
        }
    }

    /** What is said where a name is taken. */
    public static StoreException taken(String name) {
        return new StoreException(
                StoreException.Kind.TAKEN,
                "There is a file " + name + " already. Move it away; this one is sent then.",
                null);
    }

    private static void upload(Outgoing file, Store store) throws StoreException {
        long length;
        try {
            length = Files.size(file.file());
        } catch (IOException e) {
            throw new StoreException(
                    StoreException.Kind.REFUSED,
                    file.name() + " cannot be read in Ninepin's own folder: " + e.getMessage(),
                    e);
        }
        store.upload(file.file(), file.hidden());
        OptionalLong there = store.size(file.hidden());
        if (there.isEmpty() || there.getAsLong() != length) {
            throw new StoreException(
                    StoreException.Kind.AWAY,
                    "Of " + length + " bytes " + (there.isEmpty() ? "none" : there.getAsLong()) + " arrived.",
                    null);
        }
    }
}
