package ninepin.server.runs;

import java.time.Clock;
import ninepin.server.transfer.FilesTold;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/** Puts on a run's timeline what became of its files that are sent to other machines. */
@Component
class FileEvents {

    private final RunMapper mapper;
    private final Clock clock;

    FileEvents(RunMapper mapper, Clock clock) {
        this.mapper = mapper;
        this.clock = clock;
    }

    @EventListener
    void told(FilesTold told) {
        mapper.event(told.run(), clock.instant(), told.kind(), RunExecution.shortened(told.text()), 0);
    }
}
