package ninepin.server.schedule;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.time.ZoneId;
import java.util.Date;
import java.util.List;
import java.util.Properties;
import java.util.stream.Stream;
import ninepin.core.pickup.From;
import ninepin.core.pickup.PickUp;
import ninepin.core.pickup.Times;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.quartz.Calendar;
import org.quartz.JobKey;
import org.quartz.Scheduler;
import org.quartz.SchedulerException;
import org.quartz.Trigger;
import org.quartz.TriggerUtils;
import org.quartz.impl.StdSchedulerFactory;
import org.quartz.spi.OperableTrigger;

/** What stands in a real scheduler, which is not started. */
class JobSchedulesTest {

    private Scheduler scheduler;
    private JobSchedules schedules;

    @BeforeEach
    void start() throws SchedulerException {
        Properties settings = new Properties();
        settings.setProperty("org.quartz.scheduler.instanceName", "schedules of a test");
        settings.setProperty("org.quartz.threadPool.threadCount", "1");
        settings.setProperty("org.quartz.jobStore.class", "org.quartz.simpl.RAMJobStore");
        scheduler = new StdSchedulerFactory(settings).getScheduler();
        schedules = new JobSchedules(scheduler);
    }

    @AfterEach
    void stop() throws SchedulerException {
        scheduler.shutdown();
    }

    private static PickUp at(String cron) {
        return new PickUp(new From.Folder("r", "in", "*"), new Times(null, cron, null), null, false);
    }

    private List<? extends Trigger> triggers() throws SchedulerException {
        return scheduler.getTriggersOfJob(JobKey.jobKey("a", "pick-up"));
    }

    private List<Instant> times(int count) throws SchedulerException {
        return triggers().stream()
                .flatMap(trigger -> times(trigger, count))
                .sorted()
                .limit(count)
                .toList();
    }

    private Stream<Instant> times(Trigger trigger, int count) {
        try {
            Calendar calendar =
                    trigger.getCalendarName() == null ? null : scheduler.getCalendar(trigger.getCalendarName());
            return TriggerUtils.computeFireTimes((OperableTrigger) trigger, calendar, count).stream()
                    .map(Date::toInstant);
        } catch (SchedulerException e) {
            throw new IllegalStateException(e);
        }
    }

    @Test
    void days_and_weekdays_together_are_each_time_once() throws SchedulerException {
        schedules.put("a", at("30 6 1 * 1"));
        assertThat(triggers()).hasSize(2);
        List<Instant> next = Cron.next("30 6 1 * 1", Instant.now(), ZoneId.systemDefault(), 60);
        assertThat(next).doesNotHaveDuplicates();
        assertThat(times(60)).isEqualTo(next);
        assertThat(schedules.next("a")).hasValue(next.get(0));

        schedules.put("a", at("30 6 2 * *"));
        assertThat(triggers()).hasSize(1);
        assertThat(scheduler.getCalendarNames()).isEmpty();
        assertThat(schedules.next("a"))
                .hasValue(Cron.next("30 6 2 * *", Instant.now(), ZoneId.systemDefault(), 1)
                        .get(0));

        schedules.put("a", at("30 6 1 * 1"));
        schedules.put("a", null);
        assertThat(schedules.next("a")).isEmpty();
        assertThat(scheduler.getCalendarNames()).isEmpty();
    }
}
