package ninepin.core.job;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Stream;
import ninepin.core.codes.CodeTables;
import ninepin.core.deliver.Destination;
import ninepin.core.deliver.OwnStatement;
import ninepin.core.deliver.Tally;
import ninepin.core.document.DocumentPlan;
import ninepin.core.document.Documents;
import ninepin.core.document.PlannedDelivery;
import ninepin.core.formula.Formula;
import ninepin.core.layout.Check;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.Field;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Names;
import ninepin.core.layout.RecordType;
import ninepin.core.lookup.LookUp;
import ninepin.core.lookup.LookUpTable;
import ninepin.core.lookup.LookUpTables;
import ninepin.core.pickup.PickUp;
import ninepin.core.run.ExecutionMode;
import ninepin.core.run.Limits;
import ninepin.core.run.RunPlan;
import ninepin.core.shape.Origin;
import ninepin.core.shape.Rule;
import ninepin.core.shape.RunFacts;
import ninepin.core.shape.Sequences;
import ninepin.core.shape.ShapingContext;

/**
 * A job: the sheet with its five sections.
 *
 * @param name the name it is known by; lower case letters, digits and hyphens
 * @param title the name people read
 * @param description what it is for, or null
 * @param pickUp where files come from and when one is ready, or null for files given by hand
 * @param layout the name of the layout
 * @param checks what the job checks beyond the layout
 * @param documents what it says of documents, or null where records stand for themselves
 * @param asked the values asked at start
 * @param deliveries what is made of the records and where it goes
 * @param limits how many rejects a run may have
 * @param commit when what is delivered becomes visible
 * @param statements statements of its own that it runs in the databases it delivers to
 * @param together how deliveries to several places go together; null for the usual way
 * @param afterCrash what happens to runs that were under way when the application died
 */
public record Job(
        String name,
        String title,
        String description,
        PickUp pickUp,
        String layout,
        List<FieldChecks> checks,
        Documents documents,
        List<AskedValue> asked,
        List<Delivery> deliveries,
        Limits limits,
        Commit commit,
        List<OwnStatement> statements,
        ExecutionMode together,
        AfterCrash afterCrash) {

    /** When what is delivered becomes visible in the target. */
    public enum Commit {
        /** In parts, as the file is read; a restart goes on from the last one. */
        PARTS,
        /** When the file is complete, all at once; a restart begins anew. */
        WHOLE,
        /**
         * When the file is complete, all at once, from staging tables; a restart goes on. For files too large for one
         * transaction.
         */
        STAGED;

        @Override
        public String toString() {
            return name().toLowerCase();
        }
    }

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

    /** The rows of a chunk that goes to an application: so many documents may be sent again after a crash. */
    private static final int REQUESTS = 50;

    public Job {
        Names.requireSlug("job name", name);
        Names.requireSlug("layout", layout);
        title = title == null || title.isBlank() ? name : title;
        checks = checks == null ? List.of() : List.copyOf(checks);
        documents = Documents.PLAIN.equals(documents) ? null : documents;
        asked = asked == null ? List.of() : List.copyOf(asked);
        deliveries = deliveries == null ? List.of() : List.copyOf(deliveries);
        limits = limits == null ? Limits.NONE : limits;
        commit = commit == null ? Commit.PARTS : commit;
        statements = statements == null ? List.of() : List.copyOf(statements);
        together = ExecutionMode.USUAL.equals(together) ? null : together;
        afterCrash = afterCrash == null ? AfterCrash.RESTART : afterCrash;
        Set<String> names = new HashSet<>();
        for (AskedValue value : asked) {
            if (!names.add(value.name())) {
                throw new DefinitionException("asked." + value.name(), "is asked twice");
            }
        }
    }

    /** A job that delivers what the records of a layout become, and asks for nothing else. */
    public static Job of(String name, String layout, List<Delivery> deliveries) {
        return new Job(name, null, null, null, layout, null, null, null, deliveries, null, null, null, null, null);
    }

    /** The layout with the checks of the job added to its own. */
    public Layout withChecks(Layout base) {
        if (checks.isEmpty()) {
            return base;
        }
        Map<Layout.FieldPlace, List<Check>> added = new HashMap<>();
        for (FieldChecks own : checks) {
            Layout.FieldPlace place = base.place(0, own.field())
                    .orElseThrow(() -> new DefinitionException(
                            "checks." + own.field(), "there is no such field in the layout " + base.name()));
            added.computeIfAbsent(place, p -> new ArrayList<>()).addAll(own.checks());
        }
        List<RecordType> types = new ArrayList<>();
        for (int t = 0; t < base.recordTypes().size(); t++) {
            RecordType type = base.recordTypes().get(t);
            List<Field> fields = new ArrayList<>();
            for (int f = 0; f < type.fields().size(); f++) {
                List<Check> all = new ArrayList<>(type.fields().get(f).checks());
                all.addAll(added.getOrDefault(new Layout.FieldPlace(t, f), List.of()));
                fields.add(type.fields().get(f).withChecks(all));
            }
            types.add(type.withFields(fields));
        }
        return base.withTypes(types);
    }

    /** The rules of all deliveries. */
    public List<Rule> rules() {
        return deliveries.stream().flatMap(d -> d.shaping().stream()).toList();
    }

    /** The same with other deliveries. */
    public Job withDeliveries(List<Delivery> others) {
        return new Job(
                name,
                title,
                description,
                pickUp,
                layout,
                checks,
                documents,
                asked,
                others,
                limits,
                commit,
                statements,
                together,
                afterCrash);
    }

    /** Its legs, in the order of their first deliveries; those that are not decided stand in none. */
    public List<Leg> legs() {
        Map<String, List<Integer>> places = new LinkedHashMap<>();
        for (int d = 0; d < deliveries.size(); d++) {
            Destination to = deliveries.get(d).to();
            if (to != null && to.decided()) {
                places.computeIfAbsent(to.place(), p -> new ArrayList<>()).add(d);
            }
        }
        List<Leg> legs = new ArrayList<>();
        places.forEach((place, of) -> legs.add(
                new Leg(legs.size(), place, of, of.stream().map(deliveries::get).toList())));
        return legs;
    }

    /** Whether a leg is delivered all at once: where that is asked for, and where a table is replaced. */
    private boolean deliversWhole(Leg leg) {
        Destination to = leg.to();
        boolean replaces = commit != Commit.STAGED && leg.parts().stream().anyMatch(p -> p.to().replacesAll());
        return replaces
                || !to.takesEachDocument() && (commit == Commit.WHOLE || commit == Commit.STAGED && !to.intoDatabase());
    }

    /** The connection that its sequences stand in: the first one to a database; null while there is none. */
    public String connection() {
        return legs().stream()
                .map(Leg::to)
                .filter(Destination::intoDatabase)
                .map(Destination::connection)
                .findFirst()
                .orElse(null);
    }

    /** The statements that it runs in the database of a leg. */
    public List<OwnStatement> statements(Leg leg) {
        return !leg.to().intoDatabase()
                ? List.of()
                : statements.stream()
                        .filter(s -> s.connection().equals(leg.to().connection()))
                        .toList();
    }

    /** The host variables of its statements: what is asked at start, site values, and facts of the run. */
    public Map<String, String> hosts(RunFacts facts) {
        Map<String, String> values = new TreeMap<>();
        asked.forEach(a -> values.put(a.name(), null));
        values.putAll(facts.withAsked(askedValues(facts.asked())).hosts());
        values.put("today", facts.today().toString());
        values.put("started_at", facts.startedAt().withNano(0).toString().replace('T', ' '));
        values.put("run", Long.toString(facts.runNumber()));
        values.put("file", facts.fileName());
        values.put("job", name);
        return values;
    }

    /** How deliveries to several places go together. */
    public ExecutionMode executionMode() {
        return together == null ? ExecutionMode.USUAL : together;
    }

    /** What it says of its documents. */
    public Documents ofDocuments() {
        return documents == null ? Documents.PLAIN : documents;
    }

    /**
     * What is made of a file.
     *
     * @throws DefinitionException where the job does not fit the layout
     */
    public DocumentPlan documentPlan(Layout base) {
        Layout shaped = ofDocuments().shaped(base);
        List<PlannedDelivery> planned = new ArrayList<>();
        for (Delivery delivery : deliveries) {
            int type = delivery.type(shaped);
            if (type < 0) {
                throw new DefinitionException(
                        "deliveries.of", "there is no record type " + delivery.of() + " in " + layout);
            }
            int lane = delivery.lane() == null ? -1 : ofDocuments().ways().indexOf(delivery.lane());
            if (delivery.lane() != null && lane < 0) {
                throw new DefinitionException("deliveries.lane", "there is no lane " + delivery.lane());
            }
            planned.add(new PlannedDelivery(delivery.table(), type, lane, delivery.shaping(), delivery.summary()));
        }
        return ofDocuments().plan(withChecks(base), planned);
    }

    /**
     * What a run of this job has to do.
     *
     * @param base its layout
     * @param context what rules can take; values not given at start are taken from the job
     * @param accepted the account up to which rejects no longer count against the limits
     */
    public RunPlan plan(Layout base, ShapingContext context, Tally accepted) {
        return plan(base, context, accepted, null);
    }

    /**
     * What a leg of a run has to do.
     *
     * @param leg the leg; null for all that the job delivers, of which there is one leg
     */
    public RunPlan plan(Layout base, ShapingContext context, Tally accepted, Leg leg) {
        Map<String, String> values = new TreeMap<>();
        asked.forEach(a -> values.put(a.name(), null));
        values.putAll(askedValues(context.facts().asked()));
        RunFacts facts = context.facts().withAsked(values);
        List<LookUp> read =
                context.lookUps().tables().stream().map(LookUpTable::lookUp).toList();
        if (!read.equals(ofDocuments().lookUps())) {
            throw new DefinitionException("documents.lookUps", "what they look into has not been read");
        }
        DocumentPlan documents = documentPlan(base);
        boolean all = leg == null || leg.deliveries().size() == deliveries.size();
        boolean whole = leg == null ? legs().stream().anyMatch(this::deliversWhole) : deliversWhole(leg);
        return new RunPlan(
                all ? documents : documents.only(leg.deliveries()),
                context.with(facts),
                leg == null ? limits : leg.limits().orElse(limits),
                accepted,
                whole,
                leg != null && leg.to().takesEachDocument() ? REQUESTS : RunPlan.CHUNK_ROWS);
    }

    /** The formulas of a job that are no rules, with the record type from which each is seen. */
    public List<Documents.Seen> formulas() {
        return Stream.concat(
                        ofDocuments().formulas().stream(),
                        deliveries.stream()
                                .filter(d -> d.summary() != null)
                                .flatMap(d -> d.summary().formulas().stream().map(f -> new Documents.Seen(d.of(), f))))
                .toList();
    }

    /** What rules can take while the job is looked at: what is asked at start as the schedule would answer it. */
    public ShapingContext sampleContext(RunFacts facts, CodeTables codes, LookUpTables lookUps) {
        Map<String, String> values = new TreeMap<>();
        asked.forEach(a -> values.put(a.name(), a.value()));
        return new ShapingContext(facts.withAsked(values), codes, lookUps, Sequences.anew());
    }

    /** The code lists that rules and conditions name, each once. */
    public List<String> codeLists() {
        return Stream.concat(
                        rules().stream().flatMap(r -> r.take().codeLists().stream()),
                        formulas().stream().flatMap(f -> Formula.codeLists(f.text()).stream()))
                .distinct()
                .sorted()
                .toList();
    }

    /** The values given at start, and the job's own for those that were not. */
    public Map<String, String> askedValues(Map<String, String> given) {
        Map<String, String> values = new TreeMap<>();
        for (AskedValue value : asked) {
            String text = given.get(value.name()) == null ? value.value() : given.get(value.name());
            if (text != null) {
                values.put(value.name(), text);
            }
        }
        return values;
    }

    /** The values asked at start for which neither the person nor the job has one. */
    public List<String> missingAskedValues(Map<String, String> given) {
        Set<String> there = askedValues(given).keySet();
        return Stream.concat(
                        rules().stream().flatMap(r -> asks(r.take()).stream()),
                        formulas().stream()
                                .flatMap(f -> Formula.hosts(f.text()).stream())
                                .filter(h ->
                                        asked.stream().anyMatch(a -> a.name().equalsIgnoreCase(h))))
                .filter(n -> !there.contains(n))
                .distinct()
                .toList();
    }

    /** The values asked at start that a rule takes. */
    static List<String> asks(Origin take) {
        return take instanceof Origin.Asked of
                ? List.of(of.name())
                : take instanceof Origin.OfFormula of ? Formula.hosts(of.formula()) : List.of();
    }
}
