package ninepin.core.pickup;

import java.time.LocalTime;
import java.time.format.DateTimeParseException;
import ninepin.core.layout.DefinitionException;

/**
 * When a job looks for something.
 *
 * @param everySeconds how often, 1 to 86,400; null when {@code cron} says when
 * @param cron five cron fields (minute, hour, day, month, weekday); or null
 * @param expectedBy the time of day by which something is expected every day, as {@code HH:mm}; or null
 */
public record Times(Integer everySeconds, String cron, String expectedBy) {

    private static final int USUAL = 30;
    private static final int DAY = 86_400;

    public Times {
        cron = cron == null || cron.isBlank() ? null : cron.strip();
        if (everySeconds == null && cron == null) {
            everySeconds = USUAL;
        }
        if (everySeconds != null && cron != null) {
            throw new DefinitionException("pickUp.schedule.cron", "is instead of a number of seconds, not beside it");
        }
        if (everySeconds != null && (everySeconds < 1 || everySeconds > DAY)) {
            throw new DefinitionException("pickUp.schedule.everySeconds", "must be from 1 to " + DAY);
        }
        if (cron != null && cron.split("\\s+").length != 5) {
            throw new DefinitionException("pickUp.schedule.cron", "has five fields: minute, hour, day, month, weekday");
        }
        if (expectedBy != null) {
            try {
                LocalTime.parse(expectedBy);
            } catch (DateTimeParseException e) {
                throw new DefinitionException("pickUp.schedule.expectedBy", "is a time of day such as 20:00");
            }
        }
    }
}
