package ninepin.server.connections;

import java.util.List;

/** Knows who needs a connection. */
public interface ConnectionUse {

    /** The names of the jobs whose draft or live version delivers through a connection. */
    List<String> jobsUsing(String connection);
}
