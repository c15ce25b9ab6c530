package ninepin.core.usable;

import java.util.ArrayList;
import java.util.List;
import java.util.function.Consumer;
import ninepin.core.document.DocumentCheck;
import ninepin.core.document.DocumentPlan;
import ninepin.core.document.Documents;
import ninepin.core.document.Duplicates;
import ninepin.core.document.Gathering;
import ninepin.core.document.Lanes;
import ninepin.core.document.PlannedDelivery;
import ninepin.core.document.SetAside;
import ninepin.core.document.Summary;
import ninepin.core.formula.Formula;
import ninepin.core.formula.FormulaException;
import ninepin.core.formula.FormulaScope;
import ninepin.core.formula.LookedUp;
import ninepin.core.formula.Notices;
import ninepin.core.job.Delivery;
import ninepin.core.job.Job;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.Layout;
import ninepin.core.lookup.LookUpTable;
import ninepin.core.lookup.LookUpTables;
import ninepin.core.shape.Rule;
import ninepin.core.shape.Shaper;
import ninepin.core.shape.ShapingContext;

/**
 * What of a job can be followed as it stands, for looking at a sample while it is being written; and what cannot, with
 * the reason.
 */
public final class Usable {

    /**
     * A part that cannot be followed.
     *
     * @param section the section of the sheet
     * @param subject what it is about
     * @param why the reason
     */
    public record Unusable(int section, String subject, String why) {}

    private final Layout shaped;
    private final ShapingContext context;
    private final Consumer<Unusable> refused;

    private Usable(Layout shaped, ShapingContext context, Consumer<Unusable> refused) {
        this.shaped = shaped;
        this.context = context;
        this.refused = refused;
    }

    /**
     * What can be followed of a job.
     *
     * @param plan what is made of a file
     * @param context what rules can take, with those look-ups that can be followed
     */
    public record Followed(DocumentPlan plan, ShapingContext context) {}

    /**
     * What can be followed of what a job says of documents.
     *
     * @param context what rules can take, with those look-ups that can be followed
     */
    public record FollowedDocuments(Documents documents, ShapingContext context) {}

    /** What can be followed of a job. Deliveries keep their places; one that cannot be followed makes no rows. */
    public static Followed plan(Job job, Layout file, ShapingContext all) {
        FollowedDocuments followed = documents(job.ofDocuments(), file, all, u -> {});
        Documents documents = followed.documents();
        ShapingContext context = followed.context();
        Layout shaped = documents.shaped(file);
        List<PlannedDelivery> planned = new ArrayList<>();
        for (Delivery delivery : job.deliveries()) {
            int type = Math.max(0, delivery.type(shaped));
            int lane = delivery.lane() == null ? -1 : documents.ways().indexOf(delivery.lane());
            boolean known = delivery.type(shaped) >= 0 && (delivery.lane() == null || lane >= 0);
            Summary summary = delivery.summary() == null || summaryProblem(delivery, shaped, type, context) != null
                    ? null
                    : delivery.summary();
            boolean follows = known && (summary != null) == (delivery.summary() != null);
            Layout of = summary == null ? shaped : summary.layout(shaped, type, context);
            ShapingContext with = summary == null ? context : context.with(LookUpTables.NONE);
            List<Rule> rules = delivery.shaping().stream()
                    .filter(r -> follows && problem(r, of, summary == null ? type : 0, with) == null)
                    .toList();
            planned.add(new PlannedDelivery(delivery.table(), type, lane, rules, summary));
        }
        return new Followed(documents.plan(file, planned), context);
    }

    /** The context with those look-ups that can be followed. */
    private static ShapingContext lookUps(Layout shaped, ShapingContext context, Consumer<Unusable> refused) {
        List<LookUpTable> good = new ArrayList<>();
        for (LookUpTable table : context.lookUps().tables()) {
            good.add(table);
            try {
                LookedUp.of(shaped, context.with(new LookUpTables(good)).surroundings(), good.size() - 1);
            } catch (DefinitionException e) {
                good.remove(good.size() - 1);
                refused.accept(new Unusable(4, table.lookUp().name(), e.getMessage()));
            }
        }
        return context.with(new LookUpTables(good));
    }

    /** What can be followed of what a job says of documents. */
    public static FollowedDocuments documents(
            Documents all, Layout file, ShapingContext given, Consumer<Unusable> refused) {
        Gathering gather = all.gather();
        Layout shaped = file;
        try {
            shaped = all.shaped(file);
        } catch (DefinitionException e) {
            gather = null;
            refused.accept(new Unusable(4, all.gather().document(), e.getMessage()));
        }
        ShapingContext context = lookUps(shaped, given, refused);
        Usable usable = new Usable(shaped, context, refused);
        List<SetAside> aside = all.setAside().stream().filter(usable::setAside).toList();
        List<Duplicates> duplicates =
                all.duplicates().stream().filter(usable::duplicates).toList();
        List<DocumentCheck> checks = all.checks().stream().filter(usable::check).toList();
        boolean lanes = all.ways().lanes().stream().filter(l -> !usable.lane(l)).count() == 0;
        Documents documents =
                new Documents(gather, aside, duplicates, all.lookUps(), checks, lanes ? all.lanes() : null);
        return new FollowedDocuments(documents, context);
    }

    private boolean setAside(SetAside aside) {
        return condition(4, aside.of(), aside.when(), aside.why());
    }

    private boolean check(DocumentCheck check) {
        return condition(3, null, check.condition(), check.sentence());
    }

    private boolean lane(Lanes.Lane lane) {
        return lane.when() == null || condition(4, null, lane.when(), lane.name());
    }

    private boolean duplicates(Duplicates duplicates) {
        int type = duplicates.of() == null ? shaped.headType() : shaped.typeIndex(duplicates.of());
        String missing = type < 0
                ? duplicates.of()
                : duplicates.key().stream()
                        .filter(f -> shaped.recordTypes().get(type).indexOf(f) < 0)
                        .findFirst()
                        .orElse(null);
        if (missing != null) {
            refused.accept(new Unusable(4, missing, "There is no " + missing + " to find duplicates by."));
        }
        return missing == null;
    }

    private boolean condition(int section, String of, String text, String subject) {
        int type = of == null ? shaped.headType() : shaped.typeIndex(of);
        if (type < 0) {
            refused.accept(new Unusable(section, subject, "There is no record type " + of + "."));
            return false;
        }
        try {
            Formula formula = Formula.of(text, new FormulaScope(shaped, type, context.surroundings(), new Notices()));
            if (formula.isCondition()) {
                return true;
            }
            refused.accept(new Unusable(
                    section,
                    subject,
                    "It is no condition: it gives " + formula.type().label() + "."));
        } catch (FormulaException e) {
            refused.accept(new Unusable(section, subject, "Character " + (e.from() + 1) + ": " + e.getMessage()));
        }
        return false;
    }

    /** Why a delivery's summary cannot be followed, or null. */
    public static String summaryProblem(Delivery delivery, Layout shaped, int type, ShapingContext context) {
        try {
            delivery.summary().layout(shaped, type, context);
            return null;
        } catch (DefinitionException e) {
            return e.getMessage();
        }
    }

    /** Why a rule cannot be followed, or null. */
    public static String problem(Rule rule, Layout shaped, int type, ShapingContext context) {
        try {
            new Shaper(shaped, type, List.of(rule), context);
            return null;
        } catch (DefinitionException e) {
            return e.getMessage();
        }
    }
}
