package ninepin.core.job;

import java.time.LocalTime;
import java.time.format.DateTimeParseException;
import ninepin.core.bytes.FilePattern;
import ninepin.core.layout.DefinitionException;

/**
 * Where files come from and when one is ready.
 *
 * @param root the name of a configured root folder; null where a database is asked
 * @param folder the folder below it, with forward slashes; empty for the root itself
 * @param pattern the names of files that are taken: {@code *} for any characters, {@code ?} for one
 * @param everySeconds how often the folder is looked at, 1 to 86,400; null when {@code cron} says when
 * @param cron when the folder is looked at, as five cron fields (minute, hour, day, month, weekday); or null
 * @param readySeconds for how long size and time of a file must not have changed before it is taken, 0 to 86,400
 * @param sameFileAgain whether a file with the same bytes as one delivered before is taken again
 * @param expectedBy the time of day by which a file is expected every day, as {@code HH:mm}; or null
 * @param query what a database is asked in place of looking into a folder, or null
 */
public record PickUp(
        String root,
        String folder,
        String pattern,
        Integer everySeconds,
        String cron,
        int readySeconds,
        boolean sameFileAgain,
        String expectedBy,
        QuerySource query) {

    public PickUp {
        if (query == null) {
            folder = new FilePattern(root, folder, pattern).require("pickUp").folder();
        } else if (root != null || folder != null || pattern != null) {
            throw new DefinitionException("pickUp.query", "is in place of a folder, not beside it");
        }
        cron = cron == null || cron.isBlank() ? null : cron.strip();
        if (everySeconds == null && cron == null) {
            everySeconds = 30;
        }
        if (everySeconds != null && cron != null) {
            throw new DefinitionException("pickUp.cron", "is instead of a number of seconds, not beside it");
        }
        if (everySeconds != null && (everySeconds < 1 || everySeconds > 86_400)) {
            throw new DefinitionException("pickUp.everySeconds", "must be from 1 to 86400");
        }
        if (cron != null && cron.split("\\s+").length != 5) {
            throw new DefinitionException("pickUp.cron", "has five fields: minute, hour, day, month, weekday");
        }
        if (readySeconds < 0 || readySeconds > 86_400) {
            throw new DefinitionException("pickUp.readySeconds", "must be from 0 to 86400");
        }
        if (expectedBy != null) {
            try {
                LocalTime.parse(expectedBy);
            } catch (DateTimeParseException e) {
                throw new DefinitionException("pickUp.expectedBy", "is a time of day such as 20:00");
            }
        }
    }

    /** Whether files with the same bytes may come again: rows of a query may be the same as before. */
    public boolean takesAgain() {
        return sameFileAgain || query != null;
    }

    /** Whether a file's name fits the pattern. Case counts. */
    public boolean takes(String fileName) {
        return new FilePattern(root, folder, pattern).takes(fileName);
    }
}
