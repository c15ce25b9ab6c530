package ninepin.doors.store;

import java.nio.file.Path;
import java.util.OptionalLong;

/**
 * A session at a place that files are put into, such as a folder of another machine. What was sent is on record in Ninepin,
 * not here. Used by one thread.
 */
public interface Store extends AutoCloseable {

    /**
     * Uploads a file whole under a name that nobody looks for, and makes it last there.
     *
     * @param hidden a name that no other upload has
     */
    void upload(Path file, String hidden) throws StoreException;

    /** The bytes of what is there under a name; empty where there is nothing. */
    OptionalLong size(String name) throws StoreException;

    /**
     * Gives what was uploaded its own name, in one step. Done again after a break it does nothing more.
     *
     * @param replace whether a file of that name gives way
     * @throws StoreException of the kind TAKEN where one is there and may not give way
     */
    void publish(String hidden, String name, boolean replace) throws StoreException;

    /**
     * The SHA-256 of what is there under a name, in hexadecimal digits.
     *
     * @throws StoreException of the kind GONE where there is nothing
     */
    String fingerprint(String name) throws StoreException;

    /** Removes what is there under a name, if anything. */
    void remove(String name) throws StoreException;

    @Override
    void close();
}
