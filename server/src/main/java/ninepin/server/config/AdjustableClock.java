package ninepin.server.config;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;

/** The machine's clock, which can be set back for a while. */
public final class AdjustableClock extends Clock {

    private volatile Duration behind = Duration.ZERO;

    /** Sets the clock so that it is now the given instant and runs on from there; null sets it right. */
    public void pretend(Instant now) {
        behind = now == null ? Duration.ZERO : Duration.between(now, Instant.now());
    }

    @Override
    public ZoneId getZone() {
        return ZoneId.systemDefault();
    }

    @Override
    public Clock withZone(ZoneId zone) {
        return Clock.fixed(instant(), zone);
    }

    @Override
    public Instant instant() {
        return Instant.now().minus(behind);
    }
}
