package ninepin.core.shape;

import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.Collections;
import java.util.Map;
import java.util.TreeMap;

/**
 * What a run knows about itself. The same after a restart as before it.
 *
 * @param runNumber the number of the run
 * @param fileName the name of the file as it was picked up
 * @param today the date on which the run was first asked for
 * @param startedAt when the run first started
 * @param environment the name of the environment
 * @param site the site values of the environment, by name
 * @param asked values asked at start, by name; null where there is none
 */
public record RunFacts(
        long runNumber,
        String fileName,
        LocalDate today,
        LocalDateTime startedAt,
        String environment,
        Map<String, String> site,
        Map<String, String> asked) {

    public RunFacts {
        site = site == null ? Map.of() : Map.copyOf(site);
        asked = asked == null ? Map.of() : Collections.unmodifiableMap(new TreeMap<>(asked));
    }

    /** A run of an environment that has no name and no values. */
    public RunFacts(long runNumber, String fileName, LocalDate today, Map<String, String> asked) {
        this(runNumber, fileName, today, today.atStartOfDay(), "", Map.of(), asked);
    }

    /** The same facts with other values asked at start. */
    public RunFacts withAsked(Map<String, String> values) {
        return new RunFacts(runNumber, fileName, today, startedAt, environment, site, values);
    }

    /** What formulas name behind a colon: the site values, and what was asked at start before those. */
    public Map<String, String> hosts() {
        Map<String, String> all = new TreeMap<>(site);
        all.putAll(asked);
        return all;
    }
}
