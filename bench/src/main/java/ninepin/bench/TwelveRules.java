package ninepin.bench;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import ninepin.core.bytes.FileSource;
import ninepin.core.check.RecordChecker;
import ninepin.core.deliver.TableDelivery;
import ninepin.core.document.DocumentPlan;
import ninepin.core.document.DocumentShaper;
import ninepin.core.document.DocumentStream;
import ninepin.core.document.RowSink;
import ninepin.core.format.Formats;
import ninepin.core.job.Delivery;
import ninepin.core.job.Job;
import ninepin.core.record.Opening;
import ninepin.core.shape.Origin;
import ninepin.core.shape.RowBuffer;
import ninepin.core.shape.Rule;
import ninepin.core.shape.RunFacts;
import ninepin.core.shape.ShapingContext;
import ninepin.core.shape.Touch;

/** The eight fields shaped by twelve rules, of which six are formulas. */
final class TwelveRules {

    static final String TABLE = "(id INT NOT NULL PRIMARY KEY, farm INT NOT NULL, sample VARCHAR(20), test VARCHAR(8),"
            + " taken_on DATE, remark VARCHAR(60), value_rounded DECIMAL(9,1), warm VARCHAR(4), due_on DATE,"
            + " label VARCHAR(60), month INT, farm_code VARCHAR(8)) ENGINE=InnoDB";

    private static final ShapingContext CONTEXT =
            ShapingContext.of(new RunFacts(1, "rows.csv", LocalDate.EPOCH, Map.of()));

    private TwelveRules() {}

    static Job job() {
        return Job.of(
                "twelve-rules",
                "eight-fields",
                List.of(new Delivery(
                        null,
                        new TableDelivery("bench", "shaped", TableDelivery.Mode.ADD, List.of()),
                        List.of(
                                EightFields.rule("id", "Id"),
                                EightFields.rule("farm", "Farm"),
                                EightFields.rule("sample", "Sample", Touch.Kind.TRIM, Touch.Kind.UPPER),
                                EightFields.rule("test", "Test"),
                                EightFields.rule("taken_on", "Taken"),
                                EightFields.rule("remark", "Remark", Touch.Kind.TRIM),
                                formula("value_rounded", "ROUND(Value, 1)"),
                                formula("warm", "CASE WHEN Temperature > 6 THEN 'warm' ELSE 'cool' END"),
                                formula("due_on", "Taken + INTERVAL '14' DAY"),
                                formula("label", "Test || ' of ' || UPPER(TRIM(Sample))"),
                                formula("month", "EXTRACT(YEAR FROM Taken) * 100 + EXTRACT(MONTH FROM Taken)"),
                                formula("farm_code", "'F' || LPAD(CAST(Farm AS VARCHAR(5)), 5, '0')")))));
    }

    private static Rule formula(String target, String formula) {
        return new Rule(target, new Origin.OfFormula(formula), null, null);
    }

    /**
     * The nanoseconds that reading and checking take, and shaping if it is wanted.
     *
     * @param rows how many rows there must be
     */
    static long read(Path file, boolean shaped, long rows) throws IOException {
        long begun = System.nanoTime();
        long made = pass(file, shaped, null);
        if (made != rows) {
            throw new IllegalStateException("A measure is not valid: " + made + " rows");
        }
        return System.nanoTime() - begun;
    }

    /** Writes the rows as the server's own statement takes them. */
    static void write(Path file, Path plain) throws IOException {
        try (OutputStream out = Files.newOutputStream(plain)) {
            pass(file, true, out);
        }
    }

    private static long pass(Path file, boolean shaped, OutputStream out) throws IOException {
        DocumentPlan plan =
                shaped ? job().documentPlan(EightFields.layout()) : new DocumentPlan(EightFields.layout(), List.of());
        RowBuffer buffer = new RowBuffer();
        RowSink sink = new RowSink() {
            @Override
            public RowBuffer rows(int delivery) {
                return buffer;
            }

            @Override
            public void made(int delivery, int record) {
                // Every record makes one row.
            }
        };
        long rows = 0;
        try (FileSource source = FileSource.open(file)) {
            Opening opening = Formats.open(source, EightFields.layout());
            RecordChecker checker = new RecordChecker(EightFields.layout(), opening, LocalDate.EPOCH);
            DocumentStream stream = new DocumentStream(opening.reader(source, opening.body()), checker, plan);
            DocumentShaper shaper = new DocumentShaper(plan, stream, CONTEXT);
            while (stream.next() == DocumentStream.Step.DOCUMENT) {
                shaper.settle(sink);
                rows++;
                if (buffer.rows() == 10_000) {
                    flush(buffer, out);
                }
            }
            flush(buffer, out);
        }
        return rows;
    }

    private static void flush(RowBuffer buffer, OutputStream out) throws IOException {
        if (out != null) {
            out.write(buffer.bytes(), 0, buffer.length());
        }
        buffer.clear();
    }
}
