package ninepin.server.codes;

import static io.swagger.v3.oas.annotations.media.Schema.RequiredMode.REQUIRED;

import io.swagger.v3.oas.annotations.media.Schema;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.security.Principal;
import java.time.Instant;
import java.util.List;
import ninepin.core.codes.CodeList;
import ninepin.core.deliver.TargetException;
import ninepin.core.job.Definitions;
import ninepin.server.api.Problems;
import ninepin.server.codes.CodeListMapper.CodeListRow;
import ninepin.server.definitions.JsonDifference;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
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
@RequestMapping("/api/v1/code-lists")
class CodeListController {

    private static final int PREVIEW = 200;

    /** A line of the library. */
    record CodeListLine(
            String name,
            String title,
            List<String> columns,
            int entries,
            boolean byQuery,
            String missing,
            int version,
            List<String> usedBy,
            Instant savedAt,
            String savedBy) {}

    /** A list as the schema in docs/schema describes it. */
    record CodeListView(
            JsonNode list, int version, List<String> usedBy, Instant savedAt, String savedBy, String note) {}

    /** A list to be saved, and the version that was edited. */
    record CodeListDraft(@Schema(requiredMode = REQUIRED) JsonNode list, int basedOn, String note) {
        CodeListDraft {
            Problems.needed("list", list);
        }
    }

    /** A saved version. */
    record CodeListVersion(int version, Instant savedAt, String savedBy, String note, int entries) {}

    /** A line of a list. */
    record CodeEntry(List<String> values, String from, String to) {
        static CodeEntry of(CodeList.Entry e) {
            return new CodeEntry(
                    e.values(),
                    e.from() == null ? null : e.from().toString(),
                    e.to() == null ? null : e.to().toString());
        }
    }

    /** The lines of a file or query. */
    record CodeLines(List<String> columns, List<CodeEntry> entries, int dropped) {}

    /** What a query gives: the first of its rows, how many there are, when it was asked and how long that took. */
    record QueryLines(List<String> columns, List<CodeEntry> entries, int rows, Instant at, long millis) {}

    /** Lines to be added. */
    record MoreEntries(@Schema(requiredMode = REQUIRED) List<List<String>> entries, String note) {
        MoreEntries {
            Problems.neededAll("entries", entries);
        }
    }

    private final CodeLists lists;

    CodeListController(CodeLists lists) {
        this.lists = lists;
    }

    /** All code lists, without their lines. */
    @GetMapping
    List<CodeListLine> all() {
        return lists.all().stream().map(this::line).toList();
    }

    /** Makes a code list. */
    @PostMapping
    @ResponseStatus(HttpStatus.CREATED)
    CodeListView create(@RequestBody CodeListDraft draft, Principal who) {
        return view(lists.create(read(draft.list()), draft.note(), who.getName()));
    }

    /** A code list with its lines, and who uses it. */
    @GetMapping("/{list}")
    CodeListView one(@PathVariable("list") String name) {
        return view(lists.get(name));
    }

    /** Saves a code list as its next version; runs take it from then on. */
    @PutMapping("/{list}")
    CodeListView save(@PathVariable("list") String name, @RequestBody CodeListDraft draft, Principal who) {
        return view(lists.save(read(draft.list()), draft.basedOn(), draft.note(), who.getName()));
    }

    /** Deletes a code list that no job uses. */
    @DeleteMapping("/{list}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void delete(@PathVariable("list") String name) {
        lists.delete(name);
    }

    /** Adds lines to the latest version, as a new version. */
    @PostMapping("/{list}/entries")
    CodeListView add(@PathVariable("list") String name, @RequestBody MoreEntries more, Principal who) {
        List<CodeList.Entry> entries = more.entries().stream()
                .map(values -> new CodeList.Entry(values, null, null))
                .toList();
        return view(lists.addEntries(name, entries, more.note(), who.getName()));
    }

    /** The versions of a code list, the latest first. */
    @GetMapping("/{list}/versions")
    List<CodeListVersion> versions(@PathVariable("list") String name) {
        return lists.versions(name).stream()
                .map(r -> new CodeListVersion(
                        r.version(),
                        r.savedAt(),
                        r.savedBy(),
                        r.note(),
                        Definitions.codeList(r.definition()).entries().size()))
                .toList();
    }

    /** How a version differs from the one before it. */
    @GetMapping("/{list}/changes")
    List<JsonDifference.Change> changes(@PathVariable("list") String name, @RequestParam int version) {
        List<CodeListRow> versions = lists.versions(name);
        CodeListRow of = versions.stream()
                .filter(v -> v.version() == version)
                .findFirst()
                .orElseThrow();
        return versions.stream()
                .filter(v -> v.version() == version - 1)
                .findFirst()
                .map(before -> CodeListDifference.between(
                        Definitions.codeList(before.definition()), Definitions.codeList(of.definition())))
                .orElse(List.of());
    }

    /** How a list that is being edited differs from its latest version. */
    @PostMapping("/{list}/difference")
    List<JsonDifference.Change> difference(@PathVariable("list") String name, @RequestBody CodeListDraft draft) {
        return CodeListDifference.between(Definitions.codeList(lists.get(name).definition()), read(draft.list()));
    }

    /** The lines as a delimited file in UTF-8. */
    @GetMapping("/{list}/export")
    ResponseEntity<byte[]> export(@PathVariable("list") String name) throws IOException, TargetException {
        return ResponseEntity.ok()
                .header(
                        HttpHeaders.CONTENT_DISPOSITION,
                        ContentDisposition.attachment()
                                .filename(name + ".csv", StandardCharsets.UTF_8)
                                .build()
                                .toString())
                .header(HttpHeaders.CONTENT_TYPE, "text/csv;charset=UTF-8")
                .body(CodeListFile.write(lists.filled(name).list()));
    }

    /** Reads the lines of a delimited file; nothing is kept. */
    @PostMapping("/read")
    CodeLines read(@RequestParam MultipartFile file) throws IOException {
        CodeListFile.Lines lines = CodeListFile.read(file.getBytes());
        return new CodeLines(
                lines.columns(), lines.entries().stream().map(CodeEntry::of).toList(), lines.dropped());
    }

    /** Asks a query as it is written; nothing is kept. */
    @PostMapping("/query")
    QueryLines query(@RequestBody CodeList.Query query) throws TargetException {
        long begun = System.nanoTime();
        CodeQuery.Read read = lists.ask(query);
        return new QueryLines(
                read.columns(),
                read.entries().stream().limit(PREVIEW).map(CodeEntry::of).toList(),
                read.entries().size(),
                Instant.now(),
                (System.nanoTime() - begun) / 1_000_000);
    }

    private static CodeList read(JsonNode json) {
        return Definitions.codeList(json.toString());
    }

    private CodeListLine line(CodeListRow row) {
        CodeList list = Definitions.codeList(row.definition());
        return new CodeListLine(
                row.name(),
                list.title(),
                list.columns(),
                list.entries().size(),
                list.query() != null,
                list.missing().sentence(),
                row.version(),
                lists.jobsNaming(row.name()),
                row.savedAt(),
                row.savedBy());
    }

    private CodeListView view(CodeListRow row) {
        return new CodeListView(
                Definitions.mapper().readTree(row.definition()),
                row.version(),
                lists.jobsNaming(row.name()),
                row.savedAt(),
                row.savedBy(),
                row.note());
    }
}
