package ninepin.server.schedule;

import java.text.ParseException;
import java.time.DayOfWeek;
import java.time.Instant;
import java.time.ZoneId;
import java.time.format.TextStyle;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Date;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.TimeZone;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import ninepin.core.layout.DefinitionException;
import org.quartz.CronExpression;

/** Five cron fields (minute, hour, day of month, month, weekday; POSIX crontab) for Quartz, and in words. */
public final class Cron {

    private static final List<String> DAYS = List.of("SUN", "MON", "TUE", "WED", "THU", "FRI", "SAT", "SUN");

    private static final String PART = "pickUp.schedule.cron";

    private Cron() {}

    /**
     * The same times as Quartz expressions: one, or two where both days of the month and weekdays are named, of which either
     * suffices (POSIX crontab).
     *
     * @throws DefinitionException where there are none
     */
    public static List<String> toQuartz(String cron) {
        String[] f = cron.strip().split("\\s+");
        if (f.length != 5) {
            throw new DefinitionException(PART, "has five fields: minute, hour, day, month, weekday");
        }
        String weekdays = weekdays(f[4]);
        List<String> quartz = new ArrayList<>();
        if (!f[2].equals("*") || weekdays.equals("*")) {
            quartz.add("0 " + f[0] + " " + f[1] + " " + f[2] + " " + f[3] + " ?");
        }
        if (!weekdays.equals("*")) {
            quartz.add("0 " + f[0] + " " + f[1] + " ? " + f[3] + " " + weekdays);
        }
        if (!quartz.stream().allMatch(CronExpression::isValidExpression)) {
            throw new DefinitionException(PART, "\"" + cron + "\" is no cron expression of five fields");
        }
        return quartz;
    }

    private static String weekdays(String field) {
        StringBuilder out = new StringBuilder();
        for (String part : field.split("(?<=[,/-])|(?=[,/-])")) {
            out.append(
                    part.matches("[0-7]") && (out.length() == 0 || out.charAt(out.length() - 1) != '/')
                            ? DAYS.get(part.charAt(0) - '0')
                            : part);
        }
        return out.toString();
    }

    /** The next times, so many at most, after a moment. */
    public static List<Instant> next(String cron, Instant after, ZoneId zone, int count) {
        return toQuartz(cron).stream()
                .flatMap(quartz ->
                        next(expression(quartz, zone), Date.from(after)).limit(count))
                .distinct()
                .sorted()
                .limit(count)
                .toList();
    }

    private static Stream<Instant> next(CronExpression quartz, Date after) {
        return Stream.iterate(quartz.getNextValidTimeAfter(after), Objects::nonNull, quartz::getNextValidTimeAfter)
                .map(Date::toInstant);
    }

    private static CronExpression expression(String quartz, ZoneId zone) {
        try {
            CronExpression expression = new CronExpression(quartz);
            expression.setTimeZone(TimeZone.getTimeZone(zone));
            return expression;
        } catch (ParseException e) {
            throw new DefinitionException(PART, "\"" + quartz + "\" is no cron expression");
        }
    }

    /** Days of the week by their names where they are listed one by one. */
    private static String named(String field) {
        if (!field.matches("[0-7](?:,[0-7])*")) {
            return weekdays(field);
        }
        return Arrays.stream(field.split(","))
                .map(d ->
                        DayOfWeek.of((Integer.parseInt(d) + 6) % 7 + 1).getDisplayName(TextStyle.FULL, Locale.ENGLISH))
                .collect(Collectors.joining(", "));
    }

    /** The times in words where they are common ones. */
    public static String words(String cron) {
        String[] f = cron.strip().split("\\s+");
        boolean at = f.length == 5 && f[0].matches("\\d{1,2}") && f[1].matches("\\d{1,2}");
        if (at && f[2].equals("*") && f[3].equals("*")) {
            String time = String.format("%02d:%02d", Integer.parseInt(f[1]), Integer.parseInt(f[0]));
            if (f[4].equals("*")) {
                return "daily at " + time;
            }
            return (f[4].equals("1-5") ? "Monday to Friday" : named(f[4])) + " at " + time;
        }
        if (at && f[2].matches("\\d{1,2}") && f[3].equals("*")) {
            return "monthly on day " + f[2] + (f[4].equals("*") ? "" : " and each " + named(f[4])) + " at "
                    + String.format("%02d:%02d", Integer.parseInt(f[1]), Integer.parseInt(f[0]));
        }
        return "at " + cron;
    }
}
