package ninepin.core.preview;

import java.io.IOException;
import java.util.List;
import java.util.function.BooleanSupplier;
import ninepin.core.bytes.ByteSource;
import ninepin.core.bytes.MemorySource;
import ninepin.core.check.RecordChecker;
import ninepin.core.document.DocumentFile;
import ninepin.core.document.DocumentShaper;
import ninepin.core.document.DocumentStream;
import ninepin.core.document.RowSink;
import ninepin.core.format.Formats;
import ninepin.core.job.Delivery;
import ninepin.core.job.Job;
import ninepin.core.layout.Layout;
import ninepin.core.lookup.LookUpTables;
import ninepin.core.record.Opening;
import ninepin.core.shape.ShapingContext;
import ninepin.core.usable.Usable;

/**
 * A delivery with a summary, seen as a job of its own whose file holds the groups. So its rules are tried, proposed and
 * checked as those of any other delivery.
 *
 * @param job the job, with this one delivery
 * @param layout the layout of the groups
 * @param context what its rules can take
 * @param groups the groups of the sample; null where there is no sample
 */
public record Grouped(Job job, Layout layout, ShapingContext context, ByteSource groups) {

    /**
     * Groups the records of a sample.
     *
     * @param file the layout of the sample, with all checks
     * @param number the index of the delivery
     * @param sample the sample, or null
     * @return null where the delivery has no summary, or one that cannot be followed
     */
    public static Grouped of(Job job, Layout file, ShapingContext context, int number, ByteSource sample)
            throws IOException {
        Delivery delivery = number < job.deliveries().size() ? job.deliveries().get(number) : null;
        if (delivery == null || delivery.summary() == null) {
            return null;
        }
        Usable.Followed followed = Usable.plan(job, file, context);
        if (followed.plan().deliveries().get(number).summary() == null) {
            return null;
        }
        Layout layout = delivery.summary()
                .layout(
                        followed.plan().shaped(),
                        followed.plan().deliveries().get(number).type(),
                        followed.context());
        byte[] groups = sample == null ? null : groups(followed, file, number, sample);
        return new Grouped(
                alone(job, delivery),
                layout,
                followed.context().with(LookUpTables.NONE),
                groups == null ? null : new MemorySource(groups));
    }

    /** The job as it is for the groups of a delivery. */
    static Job alone(Job job, Delivery delivery) {
        return new Job(
                job.name(),
                job.title(),
                null,
                null,
                "summary",
                null,
                null,
                job.asked(),
                List.of(new Delivery(null, delivery.to(), delivery.shaping())),
                null,
                null,
                null,
                job.together(),
                null);
    }

    private static byte[] groups(Usable.Followed followed, Layout file, int number, ByteSource sample)
            throws IOException {
        Opening opening = Formats.open(sample, file);
        if (opening.fault() != null) {
            return null;
        }
        RecordChecker checker =
                new RecordChecker(file, opening, followed.context().facts().today());
        try (DocumentFile ordered = DocumentFile.of(sample, opening, followed.plan(), p -> {});
                DocumentStream stream = new DocumentStream(ordered.reader(opening.body()), checker, followed.plan())) {
            DocumentShaper shaper = new DocumentShaper(followed.plan(), stream, followed.context());
            RowSink nowhere = RowSink.nowhere(followed.plan().deliveries().size());
            BooleanSupplier enough = Previewer.enough(stream);
            while (!enough.getAsBoolean()) {
                DocumentStream.Step step = stream.next();
                if (step == DocumentStream.Step.END || step == DocumentStream.Step.HALT) {
                    break;
                }
                if (step == DocumentStream.Step.DOCUMENT) {
                    shaper.settle(nowhere);
                }
            }
            return shaper.groupsOf(number);
        }
    }
}
