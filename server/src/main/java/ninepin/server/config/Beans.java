package ninepin.server.config;

import java.time.Clock;
import ninepin.core.format.Transcripts;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

@Configuration
class Beans {

    /** The clock everything asks; the demo turns it back to make its past runs. */
    @Bean
    Clock clock() {
        return new AdjustableClock();
    }

    /** The texts that workbooks and the like are read as. */
    @Bean
    Transcripts transcripts(NinepinSettings settings) {
        return new Transcripts(settings.data().resolve("transcripts"));
    }
}
