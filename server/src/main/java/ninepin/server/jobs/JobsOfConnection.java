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
    public List<Use> usesOf(String connection) {
        return jobs.deliveringThrough(connection).stream()
                .map(job -> new Use(Kind.JOB, job))
                .toList();
    }
}
