package ninepin.server.schedule;

import java.text.ParseException;
import java.time.Instant;
import java.util.Comparator;
import java.util.Date;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.Stream;
import ninepin.core.pickup.PickUp;
import org.quartz.CronScheduleBuilder;
import org.quartz.CronTrigger;
import org.quartz.JobBuilder;
import org.quartz.JobDetail;
import org.quartz.JobKey;
import org.quartz.Scheduler;
import org.quartz.SchedulerException;
import org.quartz.SimpleScheduleBuilder;
import org.quartz.Trigger;
import org.quartz.TriggerBuilder;
import org.quartz.TriggerKey;
import org.quartz.impl.calendar.CronCalendar;
import org.springframework.stereotype.Component;

/** The schedules of live jobs in Quartz: one Quartz job for each, with a trigger, or two where days and weekdays are named. */
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
        JobDetail detail = JobBuilder.newJob(LookJob.class)
                .withIdentity(job, GROUP)
                .usingJobData(LookJob.JOB, job)
                .storeDurably()
                .build();
        try {
            scheduler.addJob(detail, true);
            if (pickUp.schedule().cron() == null) {
                keep(TriggerBuilder.newTrigger()
                        .withIdentity(job, GROUP)
                        .forJob(detail)
                        .withSchedule(SimpleScheduleBuilder.repeatSecondlyForever(
                                        pickUp.schedule().everySeconds())
                                .withMisfireHandlingInstructionNextWithRemainingCount())
                        .build());
                removeSecond(job);
                return;
            }
            List<String> times = Cron.toQuartz(pickUp.schedule().cron());
            keep(atTimes(detail, job, times.get(0)).build());
            if (times.size() == 1) {
                removeSecond(job);
            } else {
                // What both name is one time, not two.
                scheduler.addCalendar(job, new CronCalendar(times.get(0)), true, true);
                keep(atTimes(detail, second(job), times.get(1))
                        .modifiedByCalendar(job)
                        .build());
            }
        } catch (SchedulerException | ParseException e) {
            throw new IllegalStateException("The schedule of " + job + " could not be kept", e);
        }
    }

    private static TriggerBuilder<CronTrigger> atTimes(JobDetail detail, String name, String quartz) {
        return TriggerBuilder.newTrigger()
                .withIdentity(name, GROUP)
                .forJob(detail)
                .withSchedule(CronScheduleBuilder.cronSchedule(quartz).withMisfireHandlingInstructionFireAndProceed());
    }

    private void keep(Trigger trigger) throws SchedulerException {
        if (scheduler.checkExists(trigger.getKey())) {
            scheduler.rescheduleJob(trigger.getKey(), trigger);
        } else {
            scheduler.scheduleJob(trigger);
        }
    }

    private static String second(String job) {
        return job + " weekdays";
    }

    private void removeSecond(String job) throws SchedulerException {
        scheduler.unscheduleJob(TriggerKey.triggerKey(second(job), GROUP));
        scheduler.deleteCalendar(job);
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
            scheduler.deleteCalendar(job);
        } catch (SchedulerException e) {
            throw new IllegalStateException("The schedule of " + job + " could not be removed", e);
        }
    }

    /** When a job looks for files next. */
    public Optional<Instant> next(String job) {
        return Stream.of(job, second(job)).flatMap(this::nextOf).min(Comparator.naturalOrder());
    }

    private Stream<Instant> nextOf(String name) {
        try {
            return Stream.ofNullable(scheduler.getTrigger(TriggerKey.triggerKey(name, GROUP)))
                    .map(Trigger::getNextFireTime)
                    .filter(Objects::nonNull)
                    .map(Date::toInstant);
        } catch (SchedulerException e) {
            return Stream.empty();
        }
    }
}
