package ninepin.server.runs;

import org.quartz.Scheduler;
import org.quartz.SchedulerException;
import org.springframework.boot.ApplicationArguments;
import org.springframework.boot.ApplicationRunner;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;

/** Looks after what an earlier process has left once the application is up, and only then lets schedules begin. */
@Component
@Order(20)
class Recovery implements ApplicationRunner {

    private final RunKeeper keeper;
    private final Scheduler scheduler;

    Recovery(RunKeeper keeper, Scheduler scheduler) {
        this.keeper = keeper;
        this.scheduler = scheduler;
    }

    @Override
    public void run(ApplicationArguments args) throws SchedulerException {
        keeper.start();
        scheduler.start();
    }
}
