package ninepin.core.shape;

import java.time.LocalDate;
import java.util.Map;

/**
 * What a run knows about itself. The same after a restart as before it.
 *
 * @param runNumber the number of the run
 * @param fileName the name of the file as it was picked up
 * @param today the date on which the run first started
 * @param asked values asked at start, by name
 */
public record RunFacts(long runNumber, String fileName, LocalDate today, Map<String, String> asked) {

    public RunFacts {
        asked = asked == null ? Map.of() : Map.copyOf(asked);
    }
}
