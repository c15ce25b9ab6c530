package ninepin.server.runs;

import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import ninepin.server.runs.FindingMapper.DayRow;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** How often each reason is found, day by day: which grow, and whose files bring them. */
@RestController
class ReasonTrends {

    /**
     * A reason over time.
     *
     * @param counts how often it was found, for each day
     * @param all how often in all
     * @param before how often a day on which the job ran, in the first half of the days; -1 where it ran on none
     * @param after the same in the second half
     */
    record Trend(
            String job,
            String title,
            String severity,
            String code,
            String reason,
            List<Long> counts,
            long all,
            double before,
            double after) {}

    /** The days, and the reasons that were found on them, the most frequent first. */
    record Trends(List<LocalDate> days, List<Trend> reasons) {}

    private static final int MOST_DAYS = 92;
    private static final int MOST_REASONS = 60;

    private final FindingMapper findings;
    private final Clock clock;

    ReasonTrends(FindingMapper findings, Clock clock) {
        this.findings = findings;
        this.clock = clock;
    }

    private static double rate(long count, long days) {
        return days == 0 ? -1 : (double) count / days;
    }

    /** What was found in runs, day by day, the most frequent reasons first. */
    @GetMapping("/api/v1/reasons")
    Trends trends(@RequestParam(required = false) String job, @RequestParam(defaultValue = "28") int days) {
        int many = Math.min(Math.max(days, 2), MOST_DAYS);
        LocalDate today = LocalDate.ofInstant(clock.instant(), ZoneOffset.UTC);
        LocalDate first = today.minusDays(many - 1L);
        Instant since = first.atStartOfDay().toInstant(ZoneOffset.UTC);
        Map<String, long[]> ran = new HashMap<>();
        findings.runDays(since).forEach(r -> {
            int half = r.day().toEpochDay() - first.toEpochDay() < many / 2 ? 0 : 1;
            ran.computeIfAbsent(r.job(), k -> new long[2])[half]++;
        });
        Map<List<String>, long[]> counts = new LinkedHashMap<>();
        for (DayRow row : findings.byDay(job, since)) {
            int day = (int) (row.day().toEpochDay() - first.toEpochDay());
            if (day >= 0 && day < many) {
                counts.computeIfAbsent(
                                        List.of(row.job(), row.title(), row.severity(), row.code(), row.reason()),
                                        k -> new long[many])[day] +=
                        row.count();
            }
        }
        List<Trend> reasons = new ArrayList<>();
        counts.forEach((of, each) -> {
            List<Long> list = new ArrayList<>();
            long all = 0;
            long before = 0;
            for (int d = 0; d < many; d++) {
                list.add(each[d]);
                all += each[d];
                before += d < many / 2 ? each[d] : 0;
            }
            long[] ranOn = ran.getOrDefault(of.get(0), new long[2]);
            reasons.add(new Trend(
                    of.get(0),
                    of.get(1),
                    of.get(2),
                    of.get(3),
                    of.get(4),
                    list,
                    all,
                    rate(before, ranOn[0]),
                    rate(all - before, ranOn[1])));
        });
        reasons.sort((a, b) -> Long.compare(b.all(), a.all()));
        return new Trends(
                first.datesUntil(today.plusDays(1)).toList(),
                reasons.stream().limit(MOST_REASONS).toList());
    }
}
