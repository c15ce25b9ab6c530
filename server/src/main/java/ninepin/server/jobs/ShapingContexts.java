package ninepin.server.jobs;

import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import ninepin.core.codes.CodeTables;
import ninepin.core.deliver.TargetException;
import ninepin.core.job.Job;
import ninepin.core.lookup.LookUpException;
import ninepin.core.lookup.LookUpTables;
import ninepin.core.shape.RunFacts;
import ninepin.core.shape.Sequences;
import ninepin.core.shape.ShapingContext;
import ninepin.server.codes.CodeListMapper;
import ninepin.server.codes.CodeLists;
import ninepin.server.config.NinepinSettings;
import ninepin.server.lookups.LookUps;
import org.springframework.stereotype.Component;

/** Makes what rules can take beside the records: facts, site values, code lists, sequences. */
@Component
public class ShapingContexts {

    /**
     * What rules can take while a job is looked at.
     *
     * @param context what they can take
     * @param lookUps when what look-ups look into was read
     * @param troubles code lists and look-ups that cannot be read, with the reason
     */
    public record Sample(ShapingContext context, List<LookUps.Read> lookUps, List<String> troubles) {}

    private final NinepinSettings settings;
    private final CodeLists codes;
    private final LookUps lookUps;
    private final Clock clock;

    ShapingContexts(NinepinSettings settings, CodeLists codes, LookUps lookUps, Clock clock) {
        this.settings = settings;
        this.codes = codes;
        this.lookUps = lookUps;
        this.clock = clock;
    }

    /**
     * For looking at a sample.
     *
     * @param missed counts for each code list the values that are not in it, or null
     */
    public Sample sample(Job job, String fileName, Map<String, Map<String, Long>> missed) {
        CodeLists.Found found = codes.find(job.codeLists(), missed);
        RunFacts facts = facts(fileName);
        LookUps.Found looked = lookUps.find(job.ofDocuments().lookUps(), facts.today());
        List<String> troubles = new ArrayList<>(found.troubles());
        troubles.addAll(looked.troubles());
        return new Sample(job.sampleContext(facts, found.tables(), looked.tables()), looked.reads(), troubles);
    }

    /** For looking at a sample, with all code lists there are. */
    public ShapingContext withAllLists(Job job, String fileName) {
        List<String> names =
                codes.all().stream().map(CodeListMapper.CodeListRow::name).toList();
        RunFacts facts = facts(fileName);
        return job.sampleContext(
                facts,
                codes.find(names, null).tables(),
                lookUps.find(job.ofDocuments().lookUps(), facts.today()).tables());
    }

    /** What is known of a file that is only looked at. */
    public RunFacts facts(String fileName) {
        LocalDateTime now = local(clock.instant());
        return new RunFacts(0, fileName, now.toLocalDate(), now, settings.environment(), settings.siteValues(), null);
    }

    /**
     * What a run knows about itself.
     *
     * @param startedAt when it first started
     */
    public RunFacts facts(long run, String fileName, LocalDate today, Instant startedAt, Map<String, String> asked) {
        return new RunFacts(
                run, fileName, today, local(startedAt), settings.environment(), settings.siteValues(), asked);
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
            throws TargetException, LookUpException {
        CodeTables tables = codes.forRun(run, job.codeLists());
        RunFacts facts = facts(run, fileName, today, startedAt, asked);
        LookUpTables looked = lookUps.forRun(run, job.ofDocuments().lookUps(), today);
        return new ShapingContext(facts, tables, looked, sequences);
    }

    /** What a run took from elsewhere beside its file, in words; empty where it took nothing. */
    public List<String> taken(long run, ShapingContext context) {
        List<String> taken = new ArrayList<>();
        List<String> lists = codes.taken(run);
        if (!lists.isEmpty()) {
            taken.add("code lists " + String.join(", ", lists));
        }
        context.lookUps()
                .tables()
                .forEach(t -> taken.add("look-up " + t.lookUp().name() + " (" + t.size() + " keys of "
                        + t.lookUp().from().sentence() + ")"));
        return taken;
    }

    private LocalDateTime local(Instant at) {
        return LocalDateTime.ofInstant(at, clock.getZone());
    }
}
