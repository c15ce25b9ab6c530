package ninepin.server.layouts;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.Comparator;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.Stream;
import ninepin.core.job.Definitions;
import ninepin.core.layout.Layout;
import ninepin.server.api.Problems;
import ninepin.server.config.Folders;
import ninepin.server.definitions.JsonDifference;
import ninepin.server.definitions.NormalForm;
import ninepin.server.layouts.LayoutMapper.Fitted;
import ninepin.server.layouts.LayoutMapper.LayoutRow;
import ninepin.server.layouts.LayoutMapper.LayoutVersionRow;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.JsonNode;

/**
 * The library of layouts. Each has a draft, which saves itself in whatever state it is, and versions, which never
 * change. Jobs keep copies: a new version reaches a job when somebody hands it to the job's draft.
 */
@Service
public class LayoutLibrary {

    private final LayoutMapper mapper;
    private final Folders folders;
    private final Clock clock;

    LayoutLibrary(LayoutMapper mapper, Folders folders, Clock clock) {
        this.mapper = mapper;
        this.folders = folders;
        this.clock = clock;
    }

    public List<LayoutRow> all() {
        return mapper.all();
    }

    public LayoutRow get(String name) {
        return mapper.find(name).orElseThrow(() -> Problems.notFound("There is no layout named " + name + "."));
    }

    public List<LayoutVersionRow> versions(LayoutRow row) {
        return mapper.versions(row.id());
    }

    /** The latest version of a layout. */
    public Layout latest(String name) {
        LayoutRow row = get(name);
        return versions(row).stream()
                .findFirst()
                .map(v -> Definitions.layout(v.definition()))
                .orElseGet(() -> Definitions.layout(row.draft()));
    }

    /** A new layout with its first version; its name must be free. */
    @Transactional
    public LayoutRow create(JsonNode json, String who) {
        Layout layout = Definitions.layout(json.toString());
        if (mapper.find(layout.name()).isPresent()) {
            throw Problems.conflict("There is a layout named " + layout.name() + " already.");
        }
        String text = Definitions.write(layout);
        mapper.add(layout.name(), text, clock.instant(), who);
        LayoutRow row = get(layout.name());
        addVersion(row, 1, text, null, who);
        return row;
    }

    /**
     * Keeps a layout that came with a job: under its own name when that is free, or says the same; else under that name
     * with a number behind it.
     *
     * @return the layout under the name it is kept by
     */
    @Transactional
    public Layout keep(Layout layout, String who) {
        for (int n = 1; ; n++) {
            String end = n == 1 ? "" : "-" + n;
            String stem = layout.name().substring(0, Math.min(layout.name().length(), 60 - end.length()));
            Layout named = layout.withName(stem + end);
            Optional<LayoutRow> there = mapper.find(named.name());
            if (there.isEmpty()) {
                create(Definitions.mapper().valueToTree(named), who);
                return named;
            }
            if (versionOf(there.get(), Definitions.write(named)).isPresent()) {
                return named;
            }
        }
    }

    public LayoutRow saveDraft(String name, int revision, JsonNode layout, String who) {
        LayoutRow row = get(name);
        if (!name.equals(layout.path("name").asString(""))) {
            throw Problems.unprocessable("A draft keeps the name of its layout, " + name + ".");
        }
        if (mapper.saveDraft(row.id(), revision, layout.toString(), clock.instant(), who) == 0) {
            throw Problems.conflict("The draft was changed by " + row.updatedBy()
                    + " meanwhile. Load it again; your own change is still in this window.");
        }
        return get(name);
    }

    /**
     * Saves a new version, which also becomes the draft.
     *
     * @param basedOn the latest version that the person saw; null for none
     * @return the number of the version
     */
    @Transactional
    public int saveVersion(String name, JsonNode json, Integer basedOn, String note, String who) {
        LayoutRow row = get(name);
        Layout layout = Definitions.layout(json.toString());
        if (!layout.name().equals(name)) {
            throw Problems.unprocessable("A version keeps the name of its layout, " + name + ".");
        }
        List<LayoutVersionRow> versions = versions(row);
        Standing standing = standing(row, versions);
        Integer latest = standing.latest();
        if (!Objects.equals(latest, basedOn)) {
            throw Problems.conflict("Meanwhile " + versions.get(0).savedBy() + " saved version " + latest
                    + ". Look at how yours differs from it, then save again.");
        }
        String text = Definitions.write(layout);
        JsonNode normal = NormalForm.ofLayout(text);
        boolean draftIsOther = !NormalForm.ofLayout(row.draft()).equals(normal);
        if (draftIsOther && standing.ahead()) {
            throw Problems.conflict("The draft of " + name + " in the library has changes of its own, by "
                    + row.updatedBy() + ". Save or undo those first.");
        }
        if (!versions.isEmpty()
                && NormalForm.ofLayout(versions.get(0).definition()).equals(normal)) {
            throw Problems.conflict("Nothing differs from version " + latest + ".");
        }
        if (draftIsOther) {
            mapper.saveDraft(row.id(), row.revision(), text, clock.instant(), who);
        }
        int version = latest == null ? 1 : latest + 1;
        addVersion(row, version, text, note == null || note.isBlank() ? null : note.strip(), who);
        return version;
    }

    private void addVersion(LayoutRow row, int version, String text, String note, String who) {
        mapper.addVersion(new LayoutVersionRow(row.id(), version, text, note, clock.instant(), who));
    }

    /** The latest version that says the same as a layout. */
    public Optional<Integer> versionOf(LayoutRow row, String json) {
        JsonNode wanted = NormalForm.ofLayout(json);
        return versions(row).stream()
                .filter(v -> NormalForm.ofLayout(v.definition()).equals(wanted))
                .map(LayoutVersionRow::version)
                .findFirst();
    }

    /** How a layout differs from a version of the library; all of it where there is none. */
    public List<JsonDifference.Change> changes(LayoutRow row, Integer from, String to) {
        return versions(row).stream()
                .filter(v -> from == null || v.version() == from)
                .findFirst()
                .map(v -> JsonDifference.between(NormalForm.ofLayout(v.definition()), NormalForm.ofLayout(to)))
                .orElse(List.of());
    }

    /**
     * How the draft of a layout stands to its versions.
     *
     * @param latest the latest version, or null
     * @param ahead whether the draft differs from it
     */
    public record Standing(Integer latest, boolean ahead) {}

    public Standing standing(LayoutRow row) {
        return standing(row, versions(row));
    }

    private static Standing standing(LayoutRow row, List<LayoutVersionRow> versions) {
        return versions.isEmpty()
                ? new Standing(null, true)
                : new Standing(
                        versions.get(0).version(),
                        !NormalForm.ofLayout(versions.get(0).definition()).equals(NormalForm.ofLayout(row.draft())));
    }

    /** Deletes a layout that no job works with. */
    @Transactional
    public void delete(String name, List<String> usedBy) {
        LayoutRow row = get(name);
        if (!usedBy.isEmpty()) {
            throw Problems.conflict(name + " is used by " + String.join(", ", usedBy) + ".");
        }
        mapper.delete(row.id());
    }

    /** Keeps a file as the sample of a layout. */
    public void setSample(String name, String fileName, InputStream bytes) throws IOException {
        LayoutRow row = get(name);
        folders.keepSample(samplePath(row), bytes);
        mapper.setSample(row.id(), fileName);
    }

    /** Takes a copy of a file as the sample of a layout that has none yet. */
    public void offerSample(String name, String fileName, Path file) throws IOException {
        Optional<LayoutRow> row = mapper.find(name);
        if (row.isPresent() && row.get().sampleName() == null) {
            try (InputStream bytes = Files.newInputStream(file)) {
                setSample(name, fileName, bytes);
            }
        }
    }

    /** The sample of a layout; empty when there is none. */
    public Optional<Path> sample(LayoutRow row) {
        Path sample = samplePath(row);
        return row.sampleName() != null && Files.exists(sample) ? Optional.of(sample) : Optional.empty();
    }

    private Path samplePath(LayoutRow row) {
        return folders.sample("layout-" + row.id());
    }

    /** The last file that fitted: a sample on the bench, or one of a run, whichever came later; empty for none. */
    public Optional<Fitted> lastFitted(LayoutRow row) {
        Optional<Fitted> run = mapper.lastRun(row.name());
        Optional<Fitted> sample =
                row.fittedName() == null ? Optional.empty() : Optional.of(new Fitted(row.fittedName(), row.fittedAt()));
        return Stream.of(run, sample).flatMap(Optional::stream).max(Comparator.comparing(Fitted::at));
    }

    /** Notes that the draft reads its whole sample without a finding that refuses a record. */
    public void fitted(LayoutRow row) {
        if (!Objects.equals(row.sampleName(), row.fittedName())) {
            mapper.setFitted(row.id(), row.sampleName(), clock.instant());
        }
    }
}
