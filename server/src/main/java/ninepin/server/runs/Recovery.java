package ninepin.server.runs;

import org.springframework.boot.ApplicationArguments;
import org.springframework.boot.ApplicationRunner;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;

/** Looks after broken-off runs once the application is up. */
@Component
@Order(20)
class Recovery implements ApplicationRunner {

    private final Runs runs;

    Recovery(Runs runs) {
        this.runs = runs;
    }

    @Override
    public void run(ApplicationArguments args) {
        runs.recover();
    }
}
