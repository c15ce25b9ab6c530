package ninepin.server.jobs;

import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.List;
import java.util.Map;
import ninepin.core.codes.CodeTables;
import ninepin.core.deliver.TargetException;
import ninepin.core.job.Job;
import ninepin.core.shape.RunFacts;
import ninepin.core.shape.Sequences;
import ninepin.core.shape.ShapingContext;
import ninepin.server.codes.CodeListMapper;
import ninepin.server.codes.CodeLists;
import ninepin.server.config.NinepinSettings;
import org.springframework.stereotype.Component;

/** Makes what rules can take beside the records: facts, site values, code lists, sequences. */
@Component
public class ShapingContexts {

    /**
     * What rules can take while a job is looked at.
     *
     * @param context what they can take
     * @param troubles code lists that cannot be read, with the reason
     */
    public record Sample(ShapingContext context, List<String> troubles) {}

    private final NinepinSettings settings;
    private final CodeLists codes;
    private final Clock clock;

    ShapingContexts(NinepinSettings settings, CodeLists codes, Clock clock) {
        this.settings = settings;
        this.codes = codes;
        this.clock = clock;
    }

    /**
     * For looking at a sample.
     *
     * @param missed counts for each code list the values that are not in it, or null
     */
    public Sample sample(Job job, String fileName, Map<String, Map<String, Long>> missed) {
        CodeLists.Found found = codes.find(job.codeLists(), missed);
        return new Sample(job.sampleContext(facts(fileName), found.tables()), found.troubles());
    }

    /** For looking at a sample, with all code lists there are. */
    public ShapingContext withAllLists(Job job, String fileName) {
        List<String> names =
                codes.all().stream().map(CodeListMapper.CodeListRow::name).toList();
        return job.sampleContext(facts(fileName), codes.find(names, null).tables());
    }

    /** What is known of a file that is only looked at. */
    public RunFacts facts(String fileName) {
        LocalDateTime now = local(clock.instant());
        return new RunFacts(0, fileName, now.toLocalDate(), now, settings.environment(), settings.siteValues(), null);
    }

    /**
     * For a run.
     *
     * @param startedAt when it first started
     */
    public ShapingContext run(
            Job job,
            long run,
            String fileName,
            LocalDate today,
            Instant startedAt,
            Map<String, String> asked,
            Sequences sequences)
            throws TargetException {
        CodeTables tables = codes.forRun(run, job.codeLists());
        RunFacts facts = new RunFacts(
                run, fileName, today, local(startedAt), settings.environment(), settings.siteValues(), asked);
        return new ShapingContext(facts, tables, sequences);
    }

    private LocalDateTime local(Instant at) {
        return LocalDateTime.ofInstant(at, clock.getZone());
    }
}
