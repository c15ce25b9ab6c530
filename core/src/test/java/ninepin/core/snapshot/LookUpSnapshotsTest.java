package ninepin.core.snapshot;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import ninepin.core.bytes.MemorySource;
import ninepin.core.deliver.DatabaseAddress;
import ninepin.core.job.Definitions;
import ninepin.core.job.Job;
import ninepin.core.layout.Layout;
import ninepin.core.lookup.LookUp;
import ninepin.core.lookup.LookUpException;
import ninepin.core.lookup.LookUpTables;
import ninepin.core.preview.Preview;
import ninepin.core.preview.Previewer;
import ninepin.core.shape.RunFacts;
import ninepin.core.shape.ShapingContext;
import ninepin.core.testing.MariaDbServer;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What look-ups look into, copied from a real database and from real files. */
class LookUpSnapshotsTest {

    private static final LocalDate TODAY = LocalDate.of(2026, 11, 24);
    private static final Layout FARMS = Definitions.layout(
            """
            {"name":"farms","format":{"kind":"delimited","charset":"ISO-8859-1","delimiter":";","header":true},"recordTypes":[{"name":"farm",
             "fields":[{"name":"no","type":{"is":"integer"}},{"name":"owner","type":{"is":"text","length":40},"checks":[{"rule":"required","severity":"reject"}]}]}]}
            """);
    private static final Layout STOPS = Definitions.layout(
            """
            {"name":"stops","format":{"kind":"delimited","delimiter":";","header":false},"recordTypes":[{"name":"stop","fields":[
             {"name":"farm","column":1,"type":{"is":"integer"}},{"name":"day","column":2,"type":{"is":"date","pattern":"yyyy-MM-dd"}}]}]}
            """);

    @TempDir
    Path folder;

    private DatabaseAddress database;

    private LookUpSnapshots snapshots(String name) {
        return new LookUpSnapshots(
                new LookUpSnapshots.Places() {
                    @Override
                    public DatabaseAddress connection(String of) {
                        return database;
                    }

                    @Override
                    public Optional<Path> folder(String root, String below) {
                        return Optional.of(folder.resolve(below)).filter(Files::isDirectory);
                    }

                    @Override
                    public Layout layout(String of) {
                        return FARMS;
                    }
                },
                folder.resolve(name));
    }

    private static LookUp lookUp(String from, String key, String take) {
        Job job = Definitions.job(
                "{\"name\":\"x\",\"layout\":\"stops\",\"documents\":{\"lookUps\":[{\"name\":\"f\",\"from\":" + from
                        + ",\"key\":[" + key + "],\"take\":[" + take + "]}]}}");
        return job.ofDocuments().lookUps().get(0);
    }

    /** What the formulas give for each record of a file that looks up. */
    private static List<String> found(LookUpTables tables, String file, String... formulas) throws IOException {
        StringBuilder rules = new StringBuilder();
        for (String formula : formulas) {
            rules.append(rules.isEmpty() ? "" : ",")
                    .append("{\"target\":\"t" + rules.length() + "\",\"take\":{\"from\":\"formula\",\"formula\":\""
                            + formula + "\"}}");
        }
        Job job =
                Definitions.job("{\"name\":\"x\",\"layout\":\"stops\",\"deliveries\":[{\"shaping\":[" + rules + "]}]}");
        ShapingContext context =
                ShapingContext.of(new RunFacts(1, "x", TODAY, Map.of())).with(tables);
        List<String> rows = new ArrayList<>();
        Preview preview = Previewer.of(new MemorySource(file.getBytes()), STOPS, job, context, 1, 100);
        preview.rows()
                .forEach(r -> rows.add(String.join(
                        "|", r.values().stream().map(String::valueOf).toList())));
        assertThat(preview.findings()).isEmpty();
        return rows;
    }

    @Test
    void columns_of_every_kind_come_as_they_are_and_a_restart_finds_them_as_they_were() throws Exception {
        MariaDbServer server = MariaDbServer.shared();
        database = server.database("look_up");
        server.execute(
                "look_up",
                "CREATE TABLE `far m` (no BIGINT, since DATE, name VARCHAR(60), share DECIMAL(8,3), open BIT(1), at TIME(3),"
                        + " changed DATETIME(3), kind ENUM('cow','goat'), opened YEAR, shape GEOMETRY, PRIMARY KEY (no, since))");
        server.execute(
                "look_up",
                "INSERT INTO `far m` VALUES (7,'2026-11-01','Käthe, \"B\"\n; ÿ',1.250,1,'04:30:00.007','2026-11-01 05:06:07.089','goat',1999,NULL),"
                        + "(7,'2026-11-02',NULL,-0.001,0,NULL,NULL,NULL,NULL,NULL)");
        LookUp lookUp = lookUp(
                "{\"in\":\"table\",\"connection\":\"c\",\"table\":\"far m\"}",
                "{\"column\":\"no\",\"is\":\"farm\"},{\"column\":\"since\",\"is\":\"day\"}",
                "");
        String[] all = {"f.name", "f.share", "f.open", "f.at", "f.changed", "f.kind", "f.opened"};
        String file = "7;2026-11-01\n7;2026-11-02\n";
        LookUpTables first = snapshots("run").read(List.of(lookUp), TODAY);
        List<String> expected = List.of(
                "Käthe, \"B\"\n; ÿ|1.250|1|04:30:00.007000|2026-11-01 05:06:07.089000|goat|1999",
                "null|-0.001|0|null|null|null|null");
        assertThat(found(first, file, all)).isEqualTo(expected);
        server.execute("look_up", "UPDATE `far m` SET share = 9");
        assertThat(found(snapshots("run").read(List.of(lookUp), TODAY), file, all))
                .isEqualTo(expected);
        assertThat(found(snapshots("another run").read(List.of(lookUp), TODAY), file, "f.share"))
                .containsExactly("9.000", "9.000");
        snapshots("run").remove();
        assertThat(folder.resolve("run")).doesNotExist();
        assertThatThrownBy(() -> snapshots("r2")
                        .read(
                                List.of(lookUp(
                                        "{\"in\":\"table\",\"connection\":\"c\",\"table\":\"far m\"}",
                                        "{\"column\":\"no\",\"is\":\"farm\"}",
                                        "\"shape\"")),
                                TODAY))
                .isInstanceOf(LookUpException.class)
                .hasMessageContaining("no column shape");
    }

    @Test
    void the_newest_file_of_a_pattern_is_taken_and_one_with_a_wrong_record_is_not() throws Exception {
        Files.createDirectories(folder.resolve("in"));
        Files.writeString(folder.resolve("in/farms-1.csv"), "no;owner\n7;old\n");
        Files.setLastModifiedTime(folder.resolve("in/farms-1.csv"), FileTime.fromMillis(1_000));
        Files.write(folder.resolve("in/farms-2.csv"), "no;owner\n7;K\u00e4the\n".getBytes("ISO-8859-1"));
        Files.writeString(folder.resolve("in/other.csv"), "no;owner\n");
        LookUp lookUp = lookUp(
                "{\"in\":\"file\",\"root\":\"r\",\"folder\":\"in\",\"pattern\":\"farms-?.csv\",\"layout\":\"farms\"}",
                "{\"column\":\"no\",\"is\":\"farm\"}",
                "");
        LookUpTables tables = snapshots("run").read(List.of(lookUp), TODAY);
        assertThat(found(tables, "7;2026-11-01\n;2026-11-01\n", "f.owner")).containsExactly("Käthe", "null");
        Files.writeString(folder.resolve("in/farms-3.csv"), "no;owner\n7;x\n8;\n");
        assertThatThrownBy(() -> snapshots("later").read(List.of(lookUp), TODAY))
                .isInstanceOf(LookUpException.class)
                .hasMessageContainingAll("look-up f", "farms-?.csv", "Line 3");
        Files.delete(folder.resolve("in/farms-3.csv"));
        assertThat(found(snapshots("run").read(List.of(lookUp), TODAY), "7;2026-11-01\n", "f.owner"))
                .containsExactly("Käthe");
    }
}
