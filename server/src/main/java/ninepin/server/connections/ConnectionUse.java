package ninepin.server.connections;

import java.util.List;

/** Knows who needs a connection. */
public interface ConnectionUse {

    /** What would no longer work without a connection, by name. */
    List<String> usersOf(String connection);
}
