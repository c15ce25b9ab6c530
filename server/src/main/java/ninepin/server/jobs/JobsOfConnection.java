package ninepin.server.jobs;

import java.util.List;
import ninepin.server.connections.ConnectionUse;
import org.springframework.stereotype.Component;

/** Tells which jobs deliver or look up through a connection. */
@Component
class JobsOfConnection implements ConnectionUse {

    private final JobMapper jobs;

    JobsOfConnection(JobMapper jobs) {
        this.jobs = jobs;
    }

    @Override
    public List<String> usersOf(String connection) {
        return jobs.deliveringThrough(connection);
    }
}
