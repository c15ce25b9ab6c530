package ninepin.server.raw;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.stream.Stream;
import ninepin.server.api.Problems;
import ninepin.server.config.Folders;
import ninepin.server.jobs.Jobs;
import ninepin.server.layouts.LayoutLibrary;
import ninepin.server.runs.RunMapper.RunRow;
import ninepin.server.runs.Runs;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Files of the folders that jobs may look into, and of past runs: to be looked at, or taken as samples. */
@RestController
@RequestMapping("/api/v1")
class FolderController {

    /** What stands in a folder. */
    record Entry(String name, boolean folder, long size, Instant changedAt) {}

    /** The most entries shown; the newest come first. */
    private static final int MOST = 500;
    /** As much of a file as a layout is proposed from. */
    private static final int START = 1 << 20;

    private final Folders folders;
    private final Jobs jobs;
    private final LayoutLibrary library;
    private final Runs runs;

    FolderController(Folders folders, Jobs jobs, LayoutLibrary library, Runs runs) {
        this.folders = folders;
        this.jobs = jobs;
        this.library = library;
        this.runs = runs;
    }

    /** What stands in a folder below a root. */
    @GetMapping("/roots/{root}/entries")
    List<Entry> entries(@PathVariable String root, @RequestParam(defaultValue = "") String folder) throws IOException {
        Path path = folders.below(root, folder)
                .orElseThrow(() -> Problems.notFound("The folder " + folder + " is not there below " + root + "."));
        List<Entry> entries = new ArrayList<>();
        try (Stream<Path> all = Files.list(path)) {
            for (Path p : (Iterable<Path>) all::iterator) {
                if (Files.isRegularFile(p) || Files.isDirectory(p)) {
                    entries.add(new Entry(
                            p.getFileName().toString(),
                            Files.isDirectory(p),
                            Files.isDirectory(p) ? 0 : Files.size(p),
                            Files.getLastModifiedTime(p).toInstant()));
                }
            }
        }
        return entries.stream()
                .sorted(Comparator.comparing(Entry::folder)
                        .thenComparing(Entry::changedAt)
                        .reversed())
                .limit(MOST)
                .toList();
    }

    /** The start of a file, for a layout to be proposed from. */
    @GetMapping("/roots/{root}/start")
    ResponseEntity<byte[]> start(@PathVariable String root, @RequestParam String file) throws IOException {
        try (InputStream in = Files.newInputStream(file(root, file))) {
            return bytes(in);
        }
    }

    /** The start of the file of a run. */
    @GetMapping("/runs/{run}/start")
    ResponseEntity<byte[]> startOfRun(@PathVariable("run") long id) throws IOException {
        try (InputStream in = Files.newInputStream(ofRun(id))) {
            return bytes(in);
        }
    }

    private static ResponseEntity<byte[]> bytes(InputStream in) throws IOException {
        return ResponseEntity.ok()
                .contentType(MediaType.APPLICATION_OCTET_STREAM)
                .header("Content-Disposition", "attachment")
                .body(in.readNBytes(START));
    }

    /** Takes a file of a folder as the sample of a layout or a job. */
    @PostMapping("/roots/{root}/sample")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void takeFile(
            @PathVariable String root,
            @RequestParam String file,
            @RequestParam(required = false) String layout,
            @RequestParam(required = false) String job)
            throws IOException {
        Path path = file(root, file);
        take(path, path.getFileName().toString(), layout, job);
    }

    /** Takes the file of a run as the sample of a layout, or of a job; of its own job when none is named. */
    @PostMapping("/runs/{run}/sample")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void takeOfRun(
            @PathVariable("run") long id,
            @RequestParam(required = false) String layout,
            @RequestParam(required = false) String job)
            throws IOException {
        RunRow run = runs.row(id);
        take(ofRun(id), run.fileName(), layout, layout == null && job == null ? run.jobName() : job);
    }

    private void take(Path path, String name, String layout, String job) throws IOException {
        if (layout != null) {
            try (InputStream bytes = Files.newInputStream(path)) {
                library.setSample(layout, name, bytes);
            }
        }
        if (job != null) {
            try (InputStream bytes = Files.newInputStream(path)) {
                jobs.setSample(job, name, bytes);
            }
        }
    }

    private Path ofRun(long id) {
        return Runs.requireFile(runs.row(id));
    }

    /** A file below a root; what leads out of it is refused. */
    private Path file(String root, String file) throws IOException {
        int slash = file.lastIndexOf('/');
        Path folder = folders.below(root, slash < 0 ? "" : file.substring(0, slash))
                .orElseThrow(() -> Problems.notFound("There is no file " + file + " below " + root + "."));
        Path path = folder.resolve(file.substring(slash + 1)).normalize();
        if (!path.startsWith(folder)
                || !Files.isRegularFile(path)
                || !path.toRealPath().startsWith(folder)) {
            throw Problems.notFound("There is no file " + file + " below " + root + ".");
        }
        return path;
    }
}
