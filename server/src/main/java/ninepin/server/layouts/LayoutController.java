package ninepin.server.layouts;

import static io.swagger.v3.oas.annotations.media.Schema.RequiredMode.REQUIRED;

import io.swagger.v3.oas.annotations.media.Schema;
import java.io.IOException;
import java.io.InputStream;
import java.security.Principal;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import ninepin.core.job.Definitions;
import ninepin.server.api.Problems;
import ninepin.server.config.FileNames;
import ninepin.server.definitions.JsonDifference;
import ninepin.server.definitions.NormalForm;
import ninepin.server.layouts.LayoutLibrary.Standing;
import ninepin.server.layouts.LayoutMapper.Fitted;
import ninepin.server.layouts.LayoutMapper.LayoutRow;
import ninepin.server.layouts.LayoutMapper.LayoutVersionRow;
import org.springframework.http.HttpStatus;
import org.springframework.transaction.support.TransactionTemplate;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.multipart.MultipartFile;
import tools.jackson.databind.JsonNode;

@RestController
@RequestMapping("/api/v1/layouts")
class LayoutController {

    /** A line of the library. */
    record LayoutLine(
            String name,
            String title,
            String kind,
            List<String> recordTypes,
            int fields,
            Integer version,
            boolean draftAhead,
            List<String> usedBy,
            String fittedName,
            Instant fittedAt,
            Instant updatedAt,
            String updatedBy) {}

    /** A layout with its draft; {@code version} is the latest saved one. */
    record LayoutView(
            String name,
            JsonNode layout,
            int revision,
            Integer version,
            boolean draftAhead,
            String sampleName,
            List<String> usedBy,
            Instant updatedAt,
            String updatedBy) {}

    /** A draft as the schema in docs/schema describes it, and the revision it was made from. */
    record LayoutDraft(@Schema(requiredMode = REQUIRED) JsonNode layout, int revision) {
        LayoutDraft {
            Problems.needed("layout", layout);
        }
    }

    /** A saved version. */
    record LayoutVersion(int version, Instant savedAt, String savedBy, String note, JsonNode layout) {}

    /** What to save as a version, and the jobs whose drafts get it. */
    record NewVersion(
            @Schema(requiredMode = REQUIRED) JsonNode layout, Integer basedOn, String note, List<String> jobs) {
        NewVersion {
            Problems.needed("layout", layout);
        }
    }

    /** A job that a change touches: the version its draft works with (null: one of its own), and what would break. */
    record Touched(String job, String title, Integer version, boolean same, Integer liveVersion, List<String> breaks) {}

    /** What saving would change, and for whom; and the version that says the same, if one does. */
    record Impact(List<JsonDifference.Change> changes, Integer sameAs, Integer latest, List<Touched> jobs) {}

    private final LayoutLibrary library;
    private final LayoutUse use;
    private final TransactionTemplate transaction;

    LayoutController(LayoutLibrary library, LayoutUse use, TransactionTemplate transaction) {
        this.library = library;
        this.use = use;
        this.transaction = transaction;
    }

    /** All layouts of the library. */
    @GetMapping
    List<LayoutLine> layouts() {
        return library.all().stream().map(this::line).toList();
    }

    /** Makes a layout. */
    @PostMapping
    @ResponseStatus(HttpStatus.CREATED)
    LayoutView create(@RequestBody LayoutDraft draft, Principal who) {
        return view(library.create(draft.layout(), who.getName()));
    }

    /** The draft of a layout, and its versions. */
    @GetMapping("/{layout}")
    LayoutView layout(@PathVariable("layout") String name) {
        return view(library.get(name));
    }

    /** Saves the draft, unless somebody has changed it since that revision. */
    @PutMapping("/{layout}/draft")
    LayoutView saveDraft(@PathVariable("layout") String name, @RequestBody LayoutDraft draft, Principal who) {
        return view(library.saveDraft(name, draft.revision(), draft.layout(), who.getName()));
    }

    /** Deletes a layout. Jobs keep theirs. */
    @DeleteMapping("/{layout}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void delete(@PathVariable("layout") String name) {
        library.delete(name, usedBy(name));
    }

    /** How a draft differs from the one that is saved, which somebody else may have changed meanwhile. */
    @PostMapping("/{layout}/difference")
    List<JsonDifference.Change> difference(@PathVariable("layout") String name, @RequestBody LayoutDraft draft) {
        return JsonDifference.between(
                NormalForm.ofLayout(library.get(name).draft()),
                NormalForm.ofLayout(draft.layout().toString()));
    }

    /** What a layout would change against a version (the latest, when none is named), and the jobs it touches. */
    @PostMapping("/{layout}/impact")
    Impact impact(
            @PathVariable("layout") String name,
            @RequestBody JsonNode layout,
            @RequestParam(required = false) Integer from) {
        LayoutRow row = library.get(name);
        List<Touched> touched = use.of(name, layout).stream()
                .map(u -> new Touched(
                        u.job(),
                        u.title(),
                        library.versionOf(row, u.copy().toString()).orElse(null),
                        u.copy().equals(layout),
                        u.liveVersion(),
                        u.breaks()))
                .toList();
        return new Impact(
                library.changes(row, from, layout.toString()),
                library.versionOf(row, layout.toString()).orElse(null),
                library.standing(row).latest(),
                touched);
    }

    /** The versions of a layout, the latest first. */
    @GetMapping("/{layout}/versions")
    List<LayoutVersion> versions(@PathVariable("layout") String name) {
        return library.versions(library.get(name)).stream()
                .map(LayoutController::version)
                .toList();
    }

    /** How one version differs from another. */
    @GetMapping("/{layout}/changes")
    List<JsonDifference.Change> changes(
            @PathVariable("layout") String name, @RequestParam int from, @RequestParam int to) {
        LayoutRow row = library.get(name);
        return library.versions(row).stream()
                .filter(v -> v.version() == to)
                .findFirst()
                .map(v -> library.changes(row, from, v.definition()))
                .orElse(List.of());
    }

    /** Saves a layout as its next version, and gives it to the drafts of some jobs. */
    @PostMapping("/{layout}/versions")
    LayoutView saveVersion(@PathVariable("layout") String name, @RequestBody NewVersion made, Principal who) {
        transaction.executeWithoutResult(status -> {
            library.saveVersion(name, made.layout(), made.basedOn(), made.note(), who.getName());
            if (made.jobs() != null && !made.jobs().isEmpty()) {
                use.give(made.layout(), made.jobs(), who.getName());
            }
        });
        return view(library.get(name));
    }

    /** Takes a file as the sample of a layout. */
    @PutMapping("/{layout}/sample")
    LayoutView sample(@PathVariable("layout") String name, @RequestParam MultipartFile file) throws IOException {
        try (InputStream bytes = file.getInputStream()) {
            library.setSample(name, FileNames.plain(file.getOriginalFilename(), "sample"), bytes);
        }
        return view(library.get(name));
    }

    private List<String> usedBy(String name) {
        return Stream.concat(use.of(name, null).stream().map(LayoutUse.Use::job), use.lookingInto(name).stream())
                .distinct()
                .toList();
    }

    private LayoutView view(LayoutRow row) {
        Standing standing = library.standing(row);
        return new LayoutView(
                row.name(),
                Definitions.mapper().readTree(row.draft()),
                row.revision(),
                standing.latest(),
                standing.ahead(),
                row.sampleName(),
                usedBy(row.name()),
                row.updatedAt(),
                row.updatedBy());
    }

    private LayoutLine line(LayoutRow row) {
        JsonNode draft = Definitions.mapper().readTree(row.draft());
        JsonNode types = draft.path("recordTypes");
        Optional<Fitted> fitted = library.lastFitted(row);
        Standing standing = library.standing(row);
        return new LayoutLine(
                row.name(),
                draft.path("title").asString(row.name()),
                draft.path("format").path("kind").asString(""),
                types.valueStream().map(t -> t.path("name").asString("")).toList(),
                types.valueStream().mapToInt(t -> t.path("fields").size()).sum(),
                standing.latest(),
                standing.ahead(),
                usedBy(row.name()),
                fitted.map(Fitted::name).orElse(null),
                fitted.map(Fitted::at).orElse(null),
                row.updatedAt(),
                row.updatedBy());
    }

    private static LayoutVersion version(LayoutVersionRow v) {
        return new LayoutVersion(
                v.version(),
                v.savedAt(),
                v.savedBy(),
                v.note(),
                Definitions.mapper().readTree(v.definition()));
    }
}
