package ninepin.server.bench;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import ninepin.core.bytes.FileSource;
import ninepin.core.format.Transcripts;
import ninepin.core.format.xml.proposer.ElementTree;
import ninepin.core.job.Definitions;
import ninepin.core.layout.Layout;
import ninepin.core.preview.Preview;
import ninepin.core.preview.Previewer;
import ninepin.core.shape.ShapingContext;
import ninepin.server.api.Problems;
import ninepin.server.definitions.NormalForm;
import ninepin.server.jobs.ShapingContexts;
import ninepin.server.layouts.LayoutLibrary;
import ninepin.server.layouts.LayoutMapper.LayoutRow;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.databind.JsonNode;

/** The bench of a layout alone: its sample read and checked, with nothing made of it. */
@RestController
class LayoutBenchController {

    /** As much of a sample as its elements are counted in. */
    private static final long MOST_OF_A_TREE = 64L << 20;

    private final LayoutLibrary library;
    private final ShapingContexts contexts;

    private final Transcripts transcripts;

    LayoutBenchController(LayoutLibrary library, ShapingContexts contexts, Transcripts transcripts) {
        this.library = library;
        this.contexts = contexts;
        this.transcripts = transcripts;
    }

    /** What a draft reads of the sample, a part of it with places in file and record. */
    @PostMapping("/api/v1/layouts/{layout}/bench")
    BenchController.BenchView bench(
            @PathVariable("layout") String name,
            @RequestBody JsonNode json,
            @RequestParam(defaultValue = "1") long from,
            @RequestParam(defaultValue = "500") int count)
            throws IOException {
        long begun = System.nanoTime();
        LayoutRow row = library.get(name);
        Path sample = library.sample(row)
                .orElseThrow(() -> Problems.conflict("The layout has no sample yet. Give it a file to look at."));
        Layout layout = Definitions.layout(json.toString());
        ShapingContext context = ShapingContext.of(contexts.facts(row.sampleName()));
        try (FileSource source = transcripts.open(sample, layout)) {
            Preview preview = Previewer.of(source, layout, null, context, from, Math.min(count, 2_000));
            Preview.Summary summary = preview.summary();
            if (summary.read() > 0 && summary.rejected() == 0 && !summary.halted() && isDraft(row, json)) {
                library.fitted(row);
            }
            return new BenchController.BenchView(
                    row.sampleName(), preview, List.of(), List.of(), List.of(), (System.nanoTime() - begun) / 1000);
        }
    }

    /** The elements of an XML sample. */
    @GetMapping("/api/v1/layouts/{layout}/elements")
    ElementTree elements(@PathVariable("layout") String name) throws IOException {
        LayoutRow row = library.get(name);
        Path sample = library.sample(row).orElseThrow(() -> Problems.conflict("The layout has no sample yet."));
        JsonNode known =
                Definitions.mapper().readTree(row.draft()).path("format").path("namespaces");
        Map<String, String> prefixes = new LinkedHashMap<>();
        known.properties().forEach(e -> prefixes.put(e.getKey(), e.getValue().asString("")));
        try (InputStream bytes = Files.newInputStream(sample)) {
            return ElementTree.of(bytes, prefixes, MOST_OF_A_TREE);
        }
    }

    private static boolean isDraft(LayoutRow row, JsonNode json) {
        return NormalForm.ofLayout(row.draft()).equals(NormalForm.ofLayout(json.toString()));
    }
}
