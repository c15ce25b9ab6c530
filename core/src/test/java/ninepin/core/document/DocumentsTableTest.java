package ninepin.core.document;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import ninepin.core.bytes.MemorySource;
import ninepin.core.job.Definitions;
import ninepin.core.job.Job;
import ninepin.core.layout.Layout;
import ninepin.core.lookup.LookUp;
import ninepin.core.lookup.LookUpException;
import ninepin.core.lookup.LookUpReader;
import ninepin.core.lookup.LookUpTable;
import ninepin.core.lookup.LookUpTables;
import ninepin.core.preview.Preview;
import ninepin.core.preview.Previewer;
import ninepin.core.shape.RunFacts;
import ninepin.core.shape.ShapingContext;
import org.junit.jupiter.api.DynamicTest;
import org.junit.jupiter.api.TestFactory;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/** The cases of {@code documents.txt}. */
class DocumentsTableTest {

    private static final Layout LAYOUT = Definitions.layout(
            """
            {"name":"supplies","format":{"kind":"delimited","delimiter":";","header":false},"recordTypes":[{"name":"item","fields":[
             {"name":"voucher","column":1,"type":{"is":"text","length":10}},{"name":"day","column":2,"type":{"is":"date","pattern":"yyyy-MM-dd"}},
             {"name":"article","column":3,"type":{"is":"text","length":20}},
             {"name":"amount","column":4,"type":{"is":"decimal","precision":9,"scale":2}}]}]}
            """);

    private static final LocalDate TODAY = LocalDate.of(2026, 11, 23);

    /** What look-ups of the cases look into. */
    private static final Layout PRICES = Definitions.layout(
            """
            {"name":"prices","format":{"kind":"delimited","delimiter":",","header":true},"recordTypes":[{"name":"price","fields":[
             {"name":"article","type":{"is":"text","length":20}},{"name":"day","type":{"is":"date","pattern":"yyyy-MM-dd"}},
             {"name":"least","type":{"is":"decimal","precision":9,"scale":4}},
             {"name":"price","type":{"is":"decimal","precision":9,"scale":4}},{"name":"seller","type":{"is":"text","length":20}}]}]}
            """);

    private static final String PRICED =
            """
            article,day,least,price,seller
            bolts,2026-11-03,2.5000,0.1250,Käthe
            twine,2026-11-03,1,4,
            salt,2026-11-04,7.0,0.9,Wyre
            salt,2026-11-04,8,0.8,Wyre
            salt,2026-11-05,1,0.7,Wyre
            salt,2026-11-05,1,0.6,Wyre
            """;

    private static List<LookUpTable> lookUps(Job job) throws IOException, LookUpException {
        List<LookUpTable> tables = new ArrayList<>();
        for (LookUp lookUp : job.ofDocuments().lookUps()) {
            MemorySource source = new MemorySource(PRICED.getBytes(StandardCharsets.UTF_8));
            tables.add(LookUpReader.read(lookUp, PRICES, source, TODAY));
        }
        return tables;
    }

    @TestFactory
    Stream<DynamicTest> documents() throws IOException {
        String all;
        try (InputStream in = DocumentsTableTest.class.getResourceAsStream("documents.txt")) {
            all = new String(in.readAllBytes(), StandardCharsets.UTF_8);
        }
        return Arrays.stream(all.split("(?m)^== ")).skip(1).map(text -> {
            String name = text.substring(0, text.indexOf('\n'));
            return DynamicTest.dynamicTest(name, () -> check(text.substring(text.indexOf('\n') + 1)));
        });
    }

    private static void check(String text) throws IOException, LookUpException {
        String[] parts = text.split("(?m)^--\n");
        String definition =
                parts[0].lines().takeWhile(l -> !l.matches("\\w+(@\\w+)?: .*")).reduce("", String::concat);
        List<String> names = new ArrayList<>();
        ObjectNode job =
                Definitions.mapper().createObjectNode().put("name", "supplies").put("layout", "supplies");
        job.set("documents", Definitions.mapper().readTree(definition));
        ArrayNode deliveries = job.putArray("deliveries");
        parts[0].lines().filter(l -> l.matches("\\w+(@\\w+)?: .*")).forEach(line -> {
            String name = line.substring(0, line.indexOf(':'));
            names.add(name);
            ObjectNode delivery = deliveries.addObject().put("of", name.split("@")[0]);
            if (name.contains("@")) {
                delivery.put("lane", name.split("@")[1]);
            }
            ArrayNode rules = delivery.putArray("shaping");
            String[] formulas = line.substring(name.length() + 2).split(" \\| ");
            for (int i = 0; i < formulas.length; i++) {
                rules.addObject()
                        .put("target", "c" + i)
                        .putObject("take")
                        .put("from", "formula")
                        .put("formula", formulas[i]);
            }
        });
        Job read = Definitions.job(job.toString());
        ShapingContext context = ShapingContext.of(new RunFacts(0, "x", TODAY, Map.of()));
        Preview preview = Previewer.of(
                new MemorySource(parts[1].getBytes(StandardCharsets.UTF_8)),
                LAYOUT,
                read,
                context.with(new LookUpTables(lookUps(read))),
                1,
                100);
        List<String> is = new ArrayList<>();
        for (Preview.Item item : preview.records()) {
            StringBuilder line = new StringBuilder(item.number() + " " + item.fate() + " " + item.document());
            line.append(item.aside() == null ? "" : " " + item.aside());
            for (Preview.Remark remark : item.findings()) {
                String message = remark.message()
                        .replaceFirst("^line \\d+( → \\w+)?( \\(columns [^)]*\\))?: found ", "")
                        .replaceFirst("^line \\d+ · (\\w+)( \\(columns? [^)]*\\))?: found ", "$1: ")
                        .replaceFirst("\\. .*$", "")
                        .replaceFirst(" \\[[A-Z0-9-]+]$", "");
                line.append(" [").append(remark.code()).append("] ").append(message);
            }
            is.add(line.toString());
        }
        for (int d = 0; d < names.size(); d++) {
            for (Preview.Row row : preview.rows()) {
                if (row.delivery() == d) {
                    is.add(names.get(d) + ": "
                            + String.join(
                                    " | ",
                                    row.values().stream()
                                            .map(v -> v == null ? "NULL" : v)
                                            .toList()));
                }
            }
        }
        assertThat(is).containsExactlyElementsOf(parts[2].strip().lines().toList());
        Preview.Summary s = preview.summary();
        assertThat(s.rows() + s.rejected() + s.setAside() + s.withoutRows())
                .as("the account balances")
                .isEqualTo(s.read());
    }
}
