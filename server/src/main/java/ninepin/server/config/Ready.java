package ninepin.server.config;

import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/** Says in the log that the application answers, for the launcher. */
@Component
class Ready {

    private static final Logger LOG = LoggerFactory.getLogger(Ready.class);

    @EventListener(ApplicationReadyEvent.class)
    void ready() {
        LOG.info("Ninepin is ready");
    }
}
