package ninepin.server.config;

import java.time.Clock;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

@Configuration
class Beans {

    /** The clock everything asks; the demo turns it back to make its past runs. */
    @Bean
    Clock clock() {
        return new AdjustableClock();
    }
}
