package ninepin.core.document;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import ninepin.core.bytes.MemorySource;
import ninepin.core.check.Finding;
import ninepin.core.check.RecordChecker;
import ninepin.core.format.Formats;
import ninepin.core.layout.Layout;
import ninepin.core.lookup.LookUpTables;
import ninepin.core.record.Opening;
import ninepin.core.shape.RowBuffer;
import ninepin.core.shape.ShapingContext;

/**
 * The rows that a delivery makes of the groups of its summary.
 *
 * @param groups each row's group, as it stands in the file of the groups
 * @param refused why a group makes no row; a finding for each reason
 */
public record GroupRows(List<String> groups, List<Finding> refused) {

    /**
     * Makes the rows.
     *
     * @param shaper has seen all documents
     * @param delivery the index of the delivery
     * @param rows takes a row for each group, in the order of their keys
     * @param made told of each row
     */
    public static GroupRows of(
            DocumentPlan plan,
            DocumentShaper shaper,
            int delivery,
            ShapingContext context,
            RowBuffer rows,
            Runnable made)
            throws IOException {
        Layout layout = shaper.layoutOf(delivery);
        MemorySource file = new MemorySource(shaper.groupsOf(delivery));
        DocumentPlan own = plan.deliveries().get(delivery).ofGroups(layout);
        Opening opening = Formats.open(file, layout);
        RecordChecker checker =
                new RecordChecker(layout, opening, context.facts().today());
        List<String> groups = new ArrayList<>();
        List<Finding> refused = new ArrayList<>();
        DocumentStream stream = new DocumentStream(
                opening.reader(file, opening.body()),
                checker,
                own,
                (record, entry) ->
                        groups.add(record.text(StandardCharsets.UTF_8).strip()));
        DocumentShaper of = new DocumentShaper(own, stream, context.with(LookUpTables.NONE));
        RowSink sink = new RowSink() {
            @Override
            public RowBuffer rows(int ofDelivery) {
                return rows;
            }

            @Override
            public void made(int ofDelivery, int record) {
                made.run();
            }
        };
        for (DocumentStream.Step step = stream.next(); step != DocumentStream.Step.END; step = stream.next()) {
            if (step == DocumentStream.Step.DOCUMENT) {
                of.settle(sink);
                if (of.refused()) {
                    refused.addAll(stream.document().get(0).findings());
                }
            }
        }
        return new GroupRows(groups, refused);
    }
}
