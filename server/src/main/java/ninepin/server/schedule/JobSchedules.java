package ninepin.server.schedule;

import java.time.Instant;
import java.util.Date;
import java.util.Optional;
import ninepin.core.pickup.PickUp;
import org.quartz.CronScheduleBuilder;
import org.quartz.JobBuilder;
import org.quartz.JobDetail;
import org.quartz.JobKey;
import org.quartz.ScheduleBuilder;
import org.quartz.Scheduler;
import org.quartz.SchedulerException;
import org.quartz.SimpleScheduleBuilder;
import org.quartz.Trigger;
import org.quartz.TriggerBuilder;
import org.quartz.TriggerKey;
import org.springframework.stereotype.Component;

/** The schedules of live jobs in Quartz: one Quartz job and one trigger for each. */
@Component
public class JobSchedules {

    private static final String GROUP = "pick-up";

    private final Scheduler scheduler;

    JobSchedules(Scheduler scheduler) {
        this.scheduler = scheduler;
    }

    /** Schedules a job as its pick-up says, in place of what was scheduled; nothing when there is no pick-up. */
    public void put(String job, PickUp pickUp) {
        if (pickUp == null) {
            remove(job);
            return;
        }
        ScheduleBuilder<?> when = pickUp.schedule().cron() != null
                ? CronScheduleBuilder.cronSchedule(
                                Cron.toQuartz(pickUp.schedule().cron()))
                        .withMisfireHandlingInstructionFireAndProceed()
                : SimpleScheduleBuilder.repeatSecondlyForever(pickUp.schedule().everySeconds())
                        .withMisfireHandlingInstructionNextWithRemainingCount();
        JobDetail detail = JobBuilder.newJob(LookJob.class)
                .withIdentity(job, GROUP)
                .usingJobData(LookJob.JOB, job)
                .storeDurably()
                .build();
        Trigger trigger = TriggerBuilder.newTrigger()
                .withIdentity(job, GROUP)
                .forJob(detail)
                .withSchedule(when)
                .startNow()
                .build();
        try {
            scheduler.addJob(detail, true);
            if (scheduler.checkExists(trigger.getKey())) {
                scheduler.rescheduleJob(trigger.getKey(), trigger);
            } else {
                scheduler.scheduleJob(trigger);
            }
        } catch (SchedulerException e) {
            throw new IllegalStateException("The schedule of " + job + " could not be kept", e);
        }
    }

    /** Looks once more for files of a job, a little later: some were not ready yet. */
    public void lookAgain(String job, int seconds) {
        Trigger again = TriggerBuilder.newTrigger()
                .withIdentity(job + " again", GROUP)
                .forJob(job, GROUP)
                .startAt(Date.from(Instant.now().plusSeconds(Math.max(1, seconds))))
                .build();
        try {
            if (!scheduler.checkExists(again.getKey())) {
                scheduler.scheduleJob(again);
            }
        } catch (SchedulerException e) {
            throw new IllegalStateException("The schedule of " + job + " could not be kept", e);
        }
    }

    public void remove(String job) {
        try {
            scheduler.deleteJob(JobKey.jobKey(job, GROUP));
        } catch (SchedulerException e) {
            throw new IllegalStateException("The schedule of " + job + " could not be removed", e);
        }
    }

    /** When a job looks for files next. */
    public Optional<Instant> next(String job) {
        try {
            Trigger trigger = scheduler.getTrigger(TriggerKey.triggerKey(job, GROUP));
            return Optional.ofNullable(trigger).map(Trigger::getNextFireTime).map(Date::toInstant);
        } catch (SchedulerException e) {
            return Optional.empty();
        }
    }
}
