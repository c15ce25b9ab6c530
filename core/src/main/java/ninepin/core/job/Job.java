package ninepin.core.job;

import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import ninepin.core.deliver.TableDelivery;
import ninepin.core.deliver.Tally;
import ninepin.core.layout.Check;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.Field;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Names;
import ninepin.core.layout.RecordType;
import ninepin.core.run.Limits;
import ninepin.core.run.RunPlan;
import ninepin.core.shape.Origin;
import ninepin.core.shape.Rule;
import ninepin.core.shape.RunFacts;

/**
 * A job: the sheet with its five sections.
 *
 * @param name the name it is known by; lower case letters, digits and hyphens
 * @param title the name people read
 * @param description what it is for, or null
 * @param pickUp where files come from and when one is ready, or null for files given by hand
 * @param layout the name of the layout
 * @param checks what the job checks beyond the layout
 * @param asked the values asked at start
 * @param shaping one rule for each target field
 * @param delivery where the rows go, or null while that is not decided
 * @param limits how many rejects a run may have
 * @param afterCrash what happens to runs that were under way when the application died
 */
public record Job(
        String name,
        String title,
        String description,
        PickUp pickUp,
        String layout,
        List<FieldChecks> checks,
        List<AskedValue> asked,
        List<Rule> shaping,
        TableDelivery delivery,
        Limits limits,
        AfterCrash afterCrash) {

    /** What happens to runs that were under way when the application died. */
    public enum AfterCrash {
        /** They are restarted when the application is back. */
        RESTART,
        /** They wait for a person to restart them. */
        OFFER;

        @Override
        public String toString() {
            return name().toLowerCase();
        }
    }

    /**
     * Checks that the job adds to a field of its layout.
     *
     * @param field the field
     * @param checks the checks
     */
    public record FieldChecks(String field, List<Check> checks) {
        public FieldChecks {
            checks = checks == null ? List.of() : List.copyOf(checks);
        }
    }

    /**
     * A value that the person or the schedule supplies when a run starts.
     *
     * @param name the name rules know it by
     * @param prompt the question, or null for the name
     * @param value what the schedule uses, and what the person is offered; null when it has to be given
     */
    public record AskedValue(String name, String prompt, String value) {
        public AskedValue {
            if (name == null || !name.matches("[A-Za-z][A-Za-z0-9_]{0,62}")) {
                throw new DefinitionException(
                        "asked.name",
                        "\"" + name + "\" is not a name: letters, digits and underscores, a letter first");
            }
        }
    }

    public Job {
        Names.requireSlug("job name", name);
        Names.requireSlug("layout", layout);
        title = title == null || title.isBlank() ? name : title;
        checks = checks == null ? List.of() : List.copyOf(checks);
        asked = asked == null ? List.of() : List.copyOf(asked);
        shaping = shaping == null ? List.of() : List.copyOf(shaping);
        limits = limits == null ? Limits.NONE : limits;
        afterCrash = afterCrash == null ? AfterCrash.RESTART : afterCrash;
        Set<String> targets = new HashSet<>();
        for (Rule rule : shaping) {
            if (!targets.add(rule.target().toLowerCase())) {
                throw new DefinitionException("shaping." + rule.target(), "has a second rule");
            }
        }
        Set<String> names = new HashSet<>();
        for (AskedValue value : asked) {
            if (!names.add(value.name())) {
                throw new DefinitionException("asked." + value.name(), "is asked twice");
            }
        }
    }

    /** The layout with the checks of the job added to its own. */
    public Layout withChecks(Layout base) {
        if (checks.isEmpty()) {
            return base;
        }
        RecordType type = base.onlyType();
        for (FieldChecks own : checks) {
            if (type.indexOf(own.field()) < 0) {
                throw new DefinitionException(
                        "checks." + own.field(), "there is no such field in the layout " + base.name());
            }
        }
        List<Field> fields = type.fields().stream().map(this::withChecks).toList();
        return new Layout(base.name(), base.title(), base.format(), List.of(new RecordType(type.name(), fields)));
    }

    private Field withChecks(Field field) {
        List<Check> all = new ArrayList<>(field.checks());
        checks.stream().filter(c -> c.field().equals(field.name())).forEach(c -> all.addAll(c.checks()));
        return new Field(field.name(), field.header(), field.column(), field.type(), all);
    }

    /**
     * What a run of this job has to do.
     *
     * @param base its layout
     * @param facts what the run knows about itself; values not given at start are taken from the job
     * @param accepted the account up to which rejects no longer count against the limits
     */
    public RunPlan plan(Layout base, RunFacts facts, Tally accepted) {
        return new RunPlan(
                withChecks(base),
                shaping,
                new RunFacts(facts.runNumber(), facts.fileName(), facts.today(), askedValues(facts.asked())),
                limits,
                accepted,
                RunPlan.CHUNK_ROWS);
    }

    /** The facts of a run that is only looked at. */
    public RunFacts sampleFacts(String fileName, LocalDate today) {
        return new RunFacts(0, fileName, today, askedValues(Map.of()));
    }

    /** The values given at start, and the job's own for those that were not. */
    public Map<String, String> askedValues(Map<String, String> given) {
        Map<String, String> values = new TreeMap<>();
        for (AskedValue value : asked) {
            String text = given.getOrDefault(value.name(), value.value());
            if (text != null) {
                values.put(value.name(), text);
            }
        }
        return values;
    }

    /** The values asked at start for which neither the person nor the job has one. */
    public List<String> missingAskedValues(Map<String, String> given) {
        Set<String> there = askedValues(given).keySet();
        return shaping.stream()
                .filter(r -> r.take() instanceof Origin.Asked)
                .map(r -> ((Origin.Asked) r.take()).name())
                .filter(n -> !there.contains(n))
                .distinct()
                .toList();
    }
}
