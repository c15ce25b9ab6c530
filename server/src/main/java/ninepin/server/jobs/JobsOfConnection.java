package ninepin.server.jobs;

import java.util.List;
import ninepin.server.connections.ConnectionUse;
import org.springframework.stereotype.Component;

/** Tells which jobs deliver through a connection. */
@Component
class JobsOfConnection implements ConnectionUse {

    private final JobMapper jobs;

    JobsOfConnection(JobMapper jobs) {
        this.jobs = jobs;
    }

    @Override
    public List<String> jobsUsing(String connection) {
        return jobs.deliveringThrough(connection);
    }
}
