package ninepin.core.testing;

import java.nio.charset.Charset;
import java.util.List;
import java.util.stream.Stream;
import ninepin.core.deliver.TableDelivery;
import ninepin.core.job.Delivery;
import ninepin.core.job.Job;
import ninepin.core.layout.Check;
import ninepin.core.layout.DataType;
import ninepin.core.layout.FileCharset;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Severity;
import ninepin.core.run.Limits;
import ninepin.core.shape.Origin;
import ninepin.core.shape.Rule;
import ninepin.core.shape.RunFact;
import ninepin.core.shape.Touch;

/** The laboratory's results in a small form: a layout, a job, a table and lines to put in a file. */
public final class Quality {

    public static final Charset CHARSET = Charset.forName("windows-1252");
    public static final String HEADER = "Sample;Farm;Test;Value;Taken;Remark\r\n";
    public static final String TABLE = "CREATE TABLE quality_result (sample VARCHAR(12) NOT NULL, farm INT NOT NULL,"
            + " test VARCHAR(8) NOT NULL, value DECIMAL(8,2), taken_on DATE NOT NULL, remark VARCHAR(60), run BIGINT,"
            + " line BIGINT, PRIMARY KEY (sample, test)) ENGINE=InnoDB";

    private Quality() {}

    public static Layout layout() {
        return Layouts.delimited()
                .charset(FileCharset.WINDOWS_1252)
                .field("Sample", new DataType.CharacterVarying(12), new Check.Required(null))
                .field(
                        "Farm",
                        new DataType.IntegerNumber(),
                        new Check.Required(null),
                        new Check.Range("1", "999", null))
                .field("Test", new DataType.CharacterVarying(8), new Check.OneOf(List.of("FAT", "PROT"), null))
                .field("Value", new DataType.Decimal(8, 2, ',', null), new Check.Range("0", "10", Severity.NOTE))
                .field("Taken", new DataType.Date("dd.MM.yyyy"), new Check.Required(null))
                .field("Remark", new DataType.CharacterVarying(60))
                .build();
    }

    public static Job job(TableDelivery.Mode mode, Limits limits) {
        List<String> key = mode == TableDelivery.Mode.ADD ? List.of() : List.of("sample", "test");
        return new Job(
                "quality",
                "Quality",
                null,
                null,
                "test",
                null,
                null,
                null,
                List.of(new Delivery(
                        null,
                        new TableDelivery("warehouse", "quality_result", mode, key),
                        List.of(
                                take("sample", "Sample", Touch.Kind.TRIM, Touch.Kind.UPPER),
                                take("farm", "Farm"),
                                take("test", "Test"),
                                take("value", "Value"),
                                take("taken_on", "Taken"),
                                take("remark", "Remark", Touch.Kind.TRIM),
                                new Rule("run", new Origin.OfRun(RunFact.RUN_NUMBER), null, null),
                                new Rule("line", new Origin.OfRun(RunFact.LINE_NUMBER), null, null)))),
                limits,
                null,
                null,
                null,
                null);
    }

    /** A statement that puts rows of the first so many lines into the table, as another run left them. */
    public static String rowsThatAreThere(int count) {
        return "INSERT INTO quality_result SELECT CONCAT('S', seq), 1 + seq % 214, IF(seq % 2 = 0, 'FAT', 'PROT'),"
                + " 3 + (10 + seq % 90) / 100, '2026-11-03', CONCAT('Prüfung ', seq), 7, seq FROM seq_1_to_" + count;
    }

    /** The job with a check that a sample and test stand once in the file. */
    public static Job uniqueSampleAndTest(Job job) {
        Check unique = new Check.Unique(List.of("Test"), Severity.REJECT);
        return new Job(
                job.name(),
                job.title(),
                job.description(),
                job.pickUp(),
                job.layout(),
                List.of(new Job.FieldChecks("Sample", List.of(unique))),
                job.documents(),
                job.asked(),
                job.deliveries(),
                job.limits(),
                job.commit(),
                job.statements(),
                job.together(),
                job.afterCrash());
    }

    public static Rule take(String target, String field, Touch.Kind... touches) {
        return new Rule(
                target,
                new Origin.OfField(field),
                Stream.of(touches).map(Touch::of).toList(),
                null);
    }

    /** A good line for a sample number. */
    public static String line(int n) {
        return "s" + n + ";" + (1 + n % 214) + ";" + (n % 2 == 0 ? "FAT" : "PROT") + ";" + 3 + "," + (10 + n % 90)
                + ";03.11.2026;Prüfung " + n + "\r\n";
    }
}
