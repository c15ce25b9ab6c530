package ninepin.core.destination.tables;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import ninepin.core.deliver.DatabaseAddress;
import ninepin.core.deliver.DatabaseKind;
import ninepin.core.deliver.Destination;
import ninepin.core.deliver.Places;
import ninepin.core.deliver.RowCounts;
import ninepin.core.deliver.TableDelivery;
import ninepin.core.deliver.TableDelivery.Mode;
import ninepin.core.deliver.TableDescription;
import ninepin.core.deliver.TableLoad;
import ninepin.core.deliver.TakenBack;
import ninepin.core.deliver.Target;
import ninepin.core.deliver.TargetException;
import ninepin.core.deliver.database.DatabaseTarget;
import ninepin.core.deliver.database.Dialect;
import ninepin.core.deliver.database.OwnStatements;
import ninepin.core.deliver.database.RehearsalTarget;
import ninepin.core.deliver.database.RowStatement;
import ninepin.core.deliver.database.StagedTarget;
import ninepin.core.deliver.database.TakingBack;
import ninepin.core.destination.support.DestinationSupport;
import ninepin.core.destination.support.PastDelivery;
import ninepin.core.destination.support.TargetContext;
import ninepin.core.job.Delivery;
import ninepin.core.job.Job;
import ninepin.core.job.Leg;
import ninepin.core.job.Shortcoming;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.Layout;
import ninepin.core.shape.Origin;
import ninepin.core.shape.Rule;
import ninepin.core.shape.RunFacts;

/** Tables of one database. */
public record TablesSupport(Job job, Leg leg) implements DestinationSupport {

    private DatabaseAddress database(Places places) {
        return places.database(leg.to().connection());
    }

    /** The tables of a leg, in order. */
    public List<TableLoad> loads() {
        return leg.parts().stream()
                .map(p -> new TableLoad((TableDelivery) p.to(), p.columns(), parents(p)))
                .toList();
    }

    /** The tables of the deliveries of a job that have one, in order. */
    public static List<TableLoad> loadsOf(Job job) {
        return job.legs().stream()
                .filter(l -> l.to().intoDatabase())
                .flatMap(l -> new TablesSupport(job, l).loads().stream())
                .toList();
    }

    /** The fields of a delivery's rows that take the key of a row of another table of the leg. */
    private List<TableLoad.ParentKey> parents(Delivery delivery) {
        List<TableLoad.ParentKey> all = new ArrayList<>();
        List<Rule> filling = delivery.shaping().stream().filter(Rule::fills).toList();
        for (int field = 0; field < filling.size(); field++) {
            if (filling.get(field).take() instanceof Origin.OfKey of) {
                for (int load = 0; load < leg.parts().size(); load++) {
                    if (of.table().equals(leg.parts().get(load).table())) {
                        all.add(new TableLoad.ParentKey(field, load));
                        break;
                    }
                }
            }
        }
        return all;
    }

    @Override
    public List<String> words() {
        return leg.parts().stream()
                .map(p -> (TableDelivery) p.to())
                .map(d -> (d.fillsTable() ? d.table() : "each row to a statement (" + d.table() + ")") + " in "
                        + d.connection()
                        + (d.fillsTable() ? ", " + d.mode().words() : "")
                        + (d.key().isEmpty() ? "" : " by " + String.join(", ", d.key())))
                .toList();
    }

    @Override
    public Target open(TargetContext at) throws TargetException {
        if (!at.places().ownSql() && runsForRows()) {
            throw new TargetException(TargetException.Kind.UNUSABLE, "SQL-02", Places.OWN_SQL_OFF, null);
        }
        OwnStatements own = new OwnStatements(job.statements(leg), job.hosts(at.facts()));
        return job.commit() == Job.Commit.STAGED
                ? new StagedTarget(database(at.places()), loads(), at.key(), own, at.stop()::requested)
                : new DatabaseTarget(database(at.places()), loads(), at.key(), own, at.stop()::requested);
    }

    /** Whether a statement of the job's own is run for rows. */
    private boolean runsForRows() {
        return leg.parts().stream().anyMatch(p -> !p.to().fillsTable());
    }

    @Override
    public Target rehearsal(Places places, RunFacts facts) throws TargetException {
        return new RehearsalTarget(database(places), loads());
    }

    @Override
    public Optional<TableDescription> describe(Destination to, Places places) throws TargetException {
        if (to.fillsTable()) {
            return places.table(to.connection(), to.table());
        }
        try {
            DatabaseKind kind = places.database(to.connection()).kind();
            return Optional.of(RowStatement.describe(kind, (TableDelivery) to));
        } catch (DefinitionException e) {
            throw new TargetException(TargetException.Kind.UNUSABLE, "SQL-01", e.getMessage() + ".", e);
        }
    }

    @Override
    public boolean isDescribedElsewhere() {
        return true;
    }

    @Override
    public List<Shortcoming> check(Layout shaped, List<Optional<TableDescription>> described) {
        List<Shortcoming> found = new ArrayList<>(new KeyReadiness(shaped, leg, described).check());
        if (job.commit() == Job.Commit.STAGED
                && loads().stream().anyMatch(t -> !t.parents().isEmpty())) {
            found.add(Shortcoming.ofPlace(
                    leg.label(),
                    "JOB-52",
                    "Rows that take a key of the database are not delivered by staging tables, where they have none yet."
                            + " Let the file be one transaction, or become visible in parts."));
        }
        return found;
    }

    @Override
    public List<Shortcoming> check(RunFacts facts, Places places) {
        DatabaseAddress address = database(places);
        List<Shortcoming> found = new ArrayList<>(ofStatements(facts, places, address));
        if (Dialect.of(address).stages()) {
            return found;
        }
        String title = address.driver().title();
        if (job.commit() == Job.Commit.STAGED) {
            found.add(Shortcoming.ofPlace(
                    leg.label(),
                    "JOB-53",
                    "Ninepin makes no staging tables in " + title
                            + ". Let the file be one transaction, or become visible in parts."));
        }
        List<TableLoad> loads = loads();
        boolean ofChanged = loads.stream()
                .flatMap(l -> l.parents().stream())
                .anyMatch(p -> loads.get(p.load()).delivery().mode().byKey());
        if (ofChanged) {
            found.add(Shortcoming.ofPlace(
                    leg.label(),
                    "JOB-54",
                    title + " tells the keys of rows only where all of them are added. Let the delivery that others"
                            + " belong to only add rows."));
        }
        boolean byKey = loads.stream().anyMatch(l -> l.delivery().mode().byKey());
        found.add(new Shortcoming(
                false,
                5,
                -1,
                leg.label(),
                "JOB-55",
                "In " + title + (byKey ? " rows are changed by key one at a time, and" : "")
                        + " what a run has added cannot be taken back from here."));
        return found;
    }

    /** What keeps the statements for rows from running, which the server does not tell before it runs them. */
    private List<Shortcoming> ofStatements(RunFacts facts, Places places, DatabaseAddress address) {
        List<Shortcoming> found = new ArrayList<>();
        for (Delivery delivery : leg.parts()) {
            TableDelivery to = (TableDelivery) delivery.to();
            if (to.fillsTable()) {
                continue;
            }
            if (!places.ownSql()) {
                found.add(Shortcoming.ofPlace(to.table(), "JOB-46", Places.OWN_SQL_OFF));
            }
            if (job.commit() == Job.Commit.STAGED) {
                found.add(Shortcoming.ofPlace(
                        to.table(),
                        "JOB-56",
                        "A statement for each row is not run from staging tables. Let the file be one transaction, or become"
                                + " visible in parts."));
            }
            found.addAll(ofVariables(delivery, to, facts, address));
        }
        return found;
    }

    private List<Shortcoming> ofVariables(
            Delivery delivery, TableDelivery to, RunFacts facts, DatabaseAddress address) {
        try {
            Set<String> known = lower(delivery.columns());
            known.addAll(lower(List.copyOf(job.hosts(facts).keySet())));
            return RowStatement.parse(address.kind(), to).variables().stream()
                    .distinct()
                    .filter(v -> !known.contains(v.toLowerCase()))
                    .map(v -> Shortcoming.ofPlace(
                            to.table(),
                            "JOB-57",
                            "The statement takes :" + v + ", which no rule fills and no host variable is."))
                    .toList();
        } catch (DefinitionException e) {
            return List.of(Shortcoming.ofPlace(to.table(), "JOB-46", e.getMessage() + "."));
        }
    }

    @Override
    public Head check(Delivery delivery, int number, Optional<TableDescription> described) {
        TableDelivery to = (TableDelivery) delivery.to();
        List<Shortcoming> found = new ArrayList<>();
        if (!to.fillsTable()) {
            return new Head(found, described.orElse(null), false, "");
        }
        if (described.isEmpty()) {
            found.add(blocking(
                    number, to.table(), "JOB-07", "There is no table " + to.table() + " in " + to.connection() + "."));
            return new Head(found, null, false, "");
        }
        TableDescription table = described.get();
        if (table.view()) {
            found.add(
                    blocking(number, to.table(), "JOB-32", to.table() + " is a view. Choose the table that it shows."));
            return new Head(found, null, false, "");
        }
        if (!table.transactional()) {
            found.add(blocking(
                    number,
                    to.table(),
                    "JOB-08",
                    "The table is kept by the engine " + table.engine()
                            + ", which has no transactions: a restart could load rows twice. Use InnoDB."));
        }
        found.addAll(ofKey(delivery, number, to, table));
        boolean adds = to.mode() != Mode.CHANGE && to.mode() != Mode.REMOVE;
        return new Head(found, table, adds, "(NOT NULL, no default) ");
    }

    private static Shortcoming blocking(int number, String subject, String code, String message) {
        return new Shortcoming(true, 5, number, subject, code, message);
    }

    private static List<Shortcoming> ofKey(Delivery delivery, int number, TableDelivery to, TableDescription table) {
        List<Shortcoming> found = new ArrayList<>();
        if (!to.mode().byKey()) {
            return found;
        }
        if (to.key().isEmpty()) {
            found.add(blocking(
                    number, to.table(), "JOB-33", "Say by which columns a row of " + to.table() + " is known."));
            return found;
        }
        Set<String> key = lower(to.key());
        for (String column : to.key()) {
            if (table.column(column).isEmpty()) {
                found.add(blocking(
                        number, column, "JOB-10", "The key names " + column + ", which the table does not have."));
            } else if (delivery.shaping().stream().noneMatch(r -> r.target().equalsIgnoreCase(column))) {
                found.add(blocking(number, column, "JOB-11", "The key column " + column + " has no rule."));
            }
        }
        if (table.uniqueKeys().stream().noneMatch(k -> lower(k).equals(key))) {
            found.add(blocking(
                    number,
                    String.join(", ", to.key()),
                    "JOB-12",
                    "No unique index of " + to.table() + " covers exactly " + String.join(", ", to.key())
                            + ": rows could be changed that are not meant. "
                            + (table.uniqueKeys().isEmpty()
                                    ? "The table has no unique index."
                                    : "Unique are: " + keysInWords(table) + ".")));
            return found;
        }
        for (List<String> other : table.uniqueKeys()) {
            boolean fed = other.stream().allMatch(c -> delivery.shaping().stream()
                    .anyMatch(r -> r.target().equalsIgnoreCase(c)));
            if (!lower(other).equals(key) && fed && to.mode() == Mode.ADD_OR_CHANGE) {
                found.add(new Shortcoming(
                        false,
                        5,
                        number,
                        String.join(", ", other),
                        "JOB-13",
                        "The table has another unique index, on " + String.join(", ", other)
                                + ": a row that collides there changes that row."));
            }
        }
        return found;
    }

    private static String keysInWords(TableDescription table) {
        return table.uniqueKeys().stream()
                .map(k -> String.join(", ", k))
                .reduce((a, b) -> a + "; " + b)
                .orElse("");
    }

    private static Set<String> lower(List<String> names) {
        Set<String> set = new TreeSet<>();
        names.forEach(n -> set.add(n.toLowerCase()));
        return set;
    }

    @Override
    public List<String> keyOf(Delivery delivery, TableDescription described) {
        if (!delivery.to().fillsTable()) {
            return List.of();
        }
        return TakingBack.keyOf(new TableLoad((TableDelivery) delivery.to(), delivery.columns()), described);
    }

    @Override
    public List<String> obstacles(PastDelivery of) throws TargetException {
        List<String> against = new ArrayList<>();
        DatabaseAddress address = database(of.places());
        if (!Dialect.of(address).stages()) {
            return List.of("Rows in " + address.driver().title() + " are not taken back from here.");
        }
        for (TableLoad load : loads()) {
            Mode mode = load.delivery().mode();
            String table = load.delivery().table();
            if (!load.delivery().fillsTable()) {
                against.add("What a statement of the job's own has done with rows is not known.");
                continue;
            }
            RowCounts rows = of.rows().apply(table);
            boolean adds = mode == Mode.ADD
                    || (mode == Mode.ADD_OR_CHANGE || mode == Mode.ADD_MISSING)
                            && rows.changed() == 0
                            && rows.unchanged() == 0;
            if (!adds) {
                against.add(
                        "Rows of " + table + " were changed, left or removed, and what they were before is not known.");
                continue;
            }
            Optional<TableDescription> described = describe(load.delivery(), of.places());
            if (described.isEmpty()) {
                against.add("There is no table " + table + " any more.");
            } else if (TakingBack.keyOf(load, described.get()).isEmpty()) {
                against.add("Rows of " + table + " are known by no unique key that the run gave them.");
            }
        }
        return against;
    }

    @Override
    public Optional<List<TakenBack>> takeBack(PastDelivery of, PastDelivery.Undoing how)
            throws TargetException, IOException, InterruptedException {
        return new TablesTakenBack(leg, loads(), database(of.places()), of, how).take();
    }
}
