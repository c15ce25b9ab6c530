package ninepin.server.schedule;

import java.time.Clock;
import java.time.Instant;
import java.time.ZoneId;
import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** What a cron expression means. */
@RestController
class CronController {

    /** The times in words, and the next of them. */
    record CronTimes(String words, List<Instant> next) {}

    private static final int NEXT = 3;

    private final Clock clock;

    CronController(Clock clock) {
        this.clock = clock;
    }

    /** What five cron fields mean, and the next times. */
    @GetMapping("/api/v1/cron")
    CronTimes times(@RequestParam String text) {
        return new CronTimes(Cron.words(text), Cron.next(text, clock.instant(), ZoneId.systemDefault(), NEXT));
    }
}
