package ninepin.core.destination.tables;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import ninepin.core.deliver.TableDelivery;
import ninepin.core.deliver.TableDescription;
import ninepin.core.deliver.TableDescription.Column;
import ninepin.core.job.Delivery;
import ninepin.core.job.Leg;
import ninepin.core.job.Shortcoming;
import ninepin.core.layout.Layout;
import ninepin.core.shape.Origin;
import ninepin.core.shape.Rule;

/** What keeps the rows of a leg from taking the keys of rows that they belong to. */
final class KeyReadiness {

    private final Layout shaped;
    private final Leg leg;
    private final List<Optional<TableDescription>> tables;
    private final List<Shortcoming> found = new ArrayList<>();

    /**
     * @param shaped the layout of the documents
     * @param leg a leg to tables
     * @param tables the tables of all deliveries of the job
     */
    KeyReadiness(Layout shaped, Leg leg, List<Optional<TableDescription>> tables) {
        this.shaped = shaped;
        this.leg = leg;
        this.tables = tables;
    }

    List<Shortcoming> check() {
        for (int own = 0; own < leg.parts().size(); own++) {
            for (Rule rule : leg.parts().get(own).shaping()) {
                String problem = rule.take() instanceof Origin.OfKey of ? problem(own, of.table()) : null;
                if (problem != null) {
                    found.add(new Shortcoming(
                            true,
                            4,
                            leg.deliveries().get(own),
                            rule.target(),
                            "JOB-44",
                            rule.target() + " takes the key of a row of " + ((Origin.OfKey) rule.take()).table() + ": "
                                    + problem));
                }
            }
        }
        return found;
    }

    private String problem(int own, String table) {
        int parent = 0;
        while (parent < leg.parts().size() && !fills(leg.parts().get(parent), table)) {
            parent++;
        }
        if (parent == leg.parts().size()) {
            return "no delivery to the same database fills that table.";
        }
        if (parent >= own) {
            return "its delivery has to stand before this one, so that the row is there first.";
        }
        Delivery of = leg.parts().get(parent);
        Delivery here = leg.parts().get(own);
        if (of.summary() != null || here.summary() != null) {
            return "groups belong to no row.";
        }
        if (((TableDelivery) of.to()).mode() == TableDelivery.Mode.REMOVE) {
            return "its rows are removed.";
        }
        if (!belongs(here.type(shaped), of.type(shaped))) {
            return "a "
                    + shaped.recordTypes().get(Math.max(0, here.type(shaped))).name() + " belongs to no "
                    + shaped.recordTypes().get(Math.max(0, of.type(shaped))).name() + ", of which its rows are made.";
        }
        return ofColumns(of, tables.get(leg.deliveries().get(parent)));
    }

    /** A statement for each row fills no table that is known. */
    private static boolean fills(Delivery delivery, String table) {
        TableDelivery to = (TableDelivery) delivery.to();
        return to.mode() != TableDelivery.Mode.STATEMENT && to.table().equals(table);
    }

    private boolean belongs(int type, int to) {
        for (int t = type; t >= 0; t = shaped.parentIndex(t)) {
            if (t == to) {
                return true;
            }
        }
        return false;
    }

    private static String ofColumns(Delivery of, Optional<TableDescription> table) {
        if (table.isEmpty()) {
            return null;
        }
        Optional<Column> numbered =
                table.get().columns().stream().filter(Column::numbered).findFirst();
        if (numbered.isEmpty()) {
            return "the database numbers none of its columns.";
        }
        String name = numbered.get().name();
        return of.columns().stream().anyMatch(name::equalsIgnoreCase)
                ? "a rule fills " + name + " there, so the database does not number it. Take the rule out."
                : null;
    }
}
