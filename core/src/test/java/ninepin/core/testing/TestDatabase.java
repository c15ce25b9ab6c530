package ninepin.core.testing;

import java.util.List;
import ninepin.core.deliver.DatabaseAddress;

/** A real database server of the tests' own, whichever it is. */
public interface TestDatabase extends AutoCloseable {

    /** Makes a database, dropping one of that name, and says how it is reached. */
    DatabaseAddress database(String name);

    void execute(String database, String... statements);

    /** The rows of a query, each with its values joined by bars. */
    List<String> rows(String database, String query);

    /** Kills the server process (SIGKILL). */
    void kill();

    /** Starts the server process again after it was killed. */
    void launch();

    /** The port on loopback that it listens on. */
    int port();

    @Override
    void close();
}
