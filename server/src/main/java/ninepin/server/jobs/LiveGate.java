package ninepin.server.jobs;

import java.util.List;
import ninepin.core.job.Shortcoming;
import ninepin.server.jobs.JobMapper.JobRow;

/** Has a say in whether a draft may be put live. */
public interface LiveGate {

    /** What speaks against it. */
    List<Shortcoming> against(JobRow row, Jobs.Definition draft);
}
