package ninepin.server.bench;

import java.io.IOException;
import java.nio.file.Path;
import java.time.Clock;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import ninepin.core.job.Definitions;
import ninepin.core.job.Preview;
import ninepin.core.job.Previewer;
import ninepin.core.layout.Layout;
import ninepin.core.shape.RunFacts;
import ninepin.core.source.FileSource;
import ninepin.server.api.Problems;
import ninepin.server.definitions.NormalForm;
import ninepin.server.layouts.LayoutLibrary;
import ninepin.server.layouts.LayoutMapper.LayoutRow;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.databind.JsonNode;

/** The bench of a layout alone: its sample read and checked, with nothing made of it. */
@RestController
class LayoutBenchController {

    private final LayoutLibrary library;
    private final Clock clock;

    LayoutBenchController(LayoutLibrary library, Clock clock) {
        this.library = library;
        this.clock = clock;
    }

    @PostMapping("/api/layouts/{name}/bench")
    BenchController.BenchView bench(
            @PathVariable String name,
            @RequestBody JsonNode json,
            @RequestParam(defaultValue = "1") long from,
            @RequestParam(defaultValue = "500") int count)
            throws IOException {
        long begun = System.nanoTime();
        LayoutRow row = library.get(name);
        Path sample = library.sample(row)
                .orElseThrow(() -> Problems.notFound("The layout has no sample yet. Give it a file to look at."));
        Layout layout = Definitions.layout(json.toString());
        RunFacts facts =
                new RunFacts(0, row.sampleName(), LocalDate.ofInstant(clock.instant(), clock.getZone()), Map.of());
        try (FileSource source = FileSource.open(sample)) {
            Preview preview = Previewer.of(source, layout, List.of(), facts, from, Math.min(count, 2_000));
            Preview.Summary summary = preview.summary();
            if (summary.read() > 0 && summary.rejected() == 0 && !summary.halted() && isDraft(row, json)) {
                library.fitted(row);
            }
            return new BenchController.BenchView(
                    row.sampleName(), preview, List.of(), (System.nanoTime() - begun) / 1000);
        }
    }

    private static boolean isDraft(LayoutRow row, JsonNode json) {
        return NormalForm.ofLayout(row.draft()).equals(NormalForm.ofLayout(json.toString()));
    }
}
