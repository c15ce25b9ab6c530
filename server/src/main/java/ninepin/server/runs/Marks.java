package ninepin.server.runs;

import java.nio.file.Path;
import java.util.Optional;
import ninepin.core.deliver.Mark;
import ninepin.core.deliver.Places;
import ninepin.core.deliver.Target;
import ninepin.core.deliver.TargetException;
import ninepin.core.destination.Destinations;
import ninepin.core.destination.support.TargetContext;
import ninepin.core.job.Job;
import ninepin.core.job.Leg;
import ninepin.core.run.StopSignal;
import ninepin.server.runs.RunMapper.RunRow;
import org.springframework.stereotype.Component;
import org.springframework.web.ErrorResponseException;

/** The marks that runs have in their places, which are only looked at. */
@Component
class Marks {

    private final RunPlans plans;
    private final LegAccounts legAccounts;
    private final Places places;

    Marks(RunPlans plans, LegAccounts legAccounts, Places places) {
        this.plans = plans;
        this.legAccounts = legAccounts;
        this.places = places;
    }

    /**
     * How far a run has come in one of its places.
     *
     * @return empty where nothing is committed there
     * @throws TargetException where the place cannot be asked
     */
    Optional<Mark> of(RunRow row, Job job, Leg leg) throws TargetException {
        Path journal = legAccounts.journal(row.id(), leg.number());
        String key = LegAccounts.key(row.runKey(), leg.number());
        try (Target target = Destinations.of(job, leg)
                .open(new TargetContext(places, plans.facts(row), key, journal, new StopSignal()))) {
            return target.look();
        } catch (ErrorResponseException e) {
            throw new TargetException(
                    TargetException.Kind.UNUSABLE, "DBS-10", e.getBody().getDetail(), e);
        }
    }
}
