package ninepin.server.pickup;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.nio.file.attribute.BasicFileAttributes;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.stream.Stream;
import ninepin.core.job.Job;
import ninepin.core.pickup.PickUp;
import ninepin.server.config.Folders;
import ninepin.server.jobs.JobMapper.JobRow;
import ninepin.server.jobs.Jobs;
import ninepin.server.runs.FileHome;
import ninepin.server.runs.Runs;
import ninepin.server.schedule.JobSchedules;
import ninepin.server.schedule.Looker;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Service;

/** Looks into the folder of a job, claims the files that are ready and hands them to runs, the oldest first. */
@Service
public class FolderPickUp implements Looker {

    private static final Logger LOG = LoggerFactory.getLogger(FolderPickUp.class);

    /** A file that is not ready yet. */
    public record WaitingFile(String name, long size, Instant changedAt) {}

    private record Candidate(Path file, BasicFileAttributes attributes) {}

    private final Jobs jobs;
    private final Runs runs;
    private final Folders folders;
    private final JobSchedules schedules;
    private final QueryPickUp queries;
    private final ReadyWatch watch = new ReadyWatch();
    private final Map<String, List<WaitingFile>> waiting = new ConcurrentHashMap<>();

    FolderPickUp(Jobs jobs, Runs runs, Folders folders, JobSchedules schedules, QueryPickUp queries) {
        this.queries = queries;
        this.jobs = jobs;
        this.runs = runs;
        this.folders = folders;
        this.schedules = schedules;
    }

    @Override
    public void look(String jobName) {
        JobRow row = jobs.get(jobName);
        if (row.liveVersion() == null) {
            return;
        }
        Job job = jobs.version(row.id(), row.liveVersion()).job();
        if (job.pickUp() == null) {
            return;
        }
        if (job.pickUp().query() != null) {
            queries.ask(row, job, "schedule", Map.of());
            return;
        }
        Optional<Path> folder = folders.below(
                job.pickUp().folder().root(), job.pickUp().folder().folder());
        if (folder.isEmpty()) {
            return;
        }
        List<WaitingFile> unready = new ArrayList<>();
        for (Candidate candidate : candidates(folder.get(), job.pickUp())) {
            if (watch.ready(
                    candidate.file(),
                    candidate.attributes(),
                    job.pickUp().ready().unchangedSeconds())) {
                claim(row, folder.get(), candidate.file());
            } else {
                unready.add(new WaitingFile(
                        candidate.file().getFileName().toString(),
                        candidate.attributes().size(),
                        candidate.attributes().lastModifiedTime().toInstant()));
            }
        }
        waiting.put(jobName, unready);
        if (!unready.isEmpty() && job.pickUp().schedule().cron() != null) {
            schedules.lookAgain(jobName, job.pickUp().ready().unchangedSeconds());
        }
    }

    /** The files that the last look at a job's folder found and left, because they may still be written. */
    public List<WaitingFile> waiting(String jobName) {
        return waiting.getOrDefault(jobName, List.of());
    }

    /** Why the query of a job gave no file when it was asked last, and when that was. */
    public Optional<Map.Entry<String, Instant>> trouble(long job) {
        return queries.trouble(job);
    }

    private static List<Candidate> candidates(Path folder, PickUp pickUp) {
        List<Candidate> found = new ArrayList<>();
        try (Stream<Path> files = Files.list(folder)) {
            for (Path file : (Iterable<Path>) files::iterator) {
                if (!pickUp.folder().takes(file.getFileName().toString())) {
                    continue;
                }
                try {
                    BasicFileAttributes a =
                            Files.readAttributes(file, BasicFileAttributes.class, LinkOption.NOFOLLOW_LINKS);
                    if (a.isRegularFile()) {
                        found.add(new Candidate(file, a));
                    }
                } catch (NoSuchFileException e) {
                    // It went away between the listing and the look.
                }
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        found.sort(Comparator.comparing((Candidate c) -> c.attributes().lastModifiedTime())
                .thenComparing(c -> c.file().getFileName().toString()));
        return found;
    }

    private void claim(JobRow job, Path folder, Path file) {
        String name = file.getFileName().toString();
        FileHome home = FileHome.below(folder, job.name());
        try {
            runs.accept(job, file, home, name, "schedule", Map.of());
        } catch (IOException e) {
            LOG.warn("{} could not be claimed and is left for the next look: {}", name, e.toString());
        } finally {
            watch.forget(file);
        }
    }
}
