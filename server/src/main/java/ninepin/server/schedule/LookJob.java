package ninepin.server.schedule;

import org.quartz.DisallowConcurrentExecution;
import org.quartz.Job;
import org.quartz.JobExecutionContext;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** What Quartz runs: one look for files. Never twice at once for one job. */
@DisallowConcurrentExecution
public class LookJob implements Job {

    static final String JOB = "job";

    private static final Logger LOG = LoggerFactory.getLogger(LookJob.class);

    private final Looker looker;

    public LookJob(Looker looker) {
        this.looker = looker;
    }

    @Override
    public void execute(JobExecutionContext context) {
        String job = context.getMergedJobDataMap().getString(JOB);
        try {
            looker.look(job);
        } catch (RuntimeException e) {
            LOG.error("Looking for files of {} failed; the schedule goes on", job, e);
        }
    }
}
