package ninepin.server.cli;

import java.io.IOException;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import ninepin.core.bytes.FileSource;
import ninepin.core.bytes.Fingerprint;
import ninepin.core.bytes.MemorySource;
import ninepin.core.check.Finding;
import ninepin.core.codes.CodeTables;
import ninepin.core.deliver.Mark;
import ninepin.core.deliver.ProcessLock;
import ninepin.core.deliver.Tally;
import ninepin.core.deliver.Target;
import ninepin.core.deliver.TargetException;
import ninepin.core.deliver.database.DatabaseSequences;
import ninepin.core.format.Transcripts;
import ninepin.core.job.Definitions;
import ninepin.core.job.Job;
import ninepin.core.job.Leg;
import ninepin.core.job.Shortcoming;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.Layout;
import ninepin.core.lookup.LookUpException;
import ninepin.core.lookup.LookUpTables;
import ninepin.core.ready.Readiness;
import ninepin.core.run.Journal;
import ninepin.core.run.Legs;
import ninepin.core.run.RefusedByTargets;
import ninepin.core.run.Run;
import ninepin.core.run.RunAccount;
import ninepin.core.run.RunListener;
import ninepin.core.run.RunOutcome;
import ninepin.core.run.RunPlan;
import ninepin.core.run.StopSignal;
import ninepin.core.shape.RunFacts;
import ninepin.core.shape.Sequences;
import ninepin.core.shape.ShapingContext;
import ninepin.core.snapshot.LookUpSnapshots;
import ninepin.doors.Sources;
import ninepin.doors.source.Asked;
import ninepin.doors.source.SourceException;
import ninepin.doors.store.StoreException;
import ninepin.server.config.TemporaryFolder;

/**
 * {@code ninepin run}: runs a job from files. Started again on the same file it goes on from its mark, because the run
 * is known by the job and the file's fingerprint.
 */
public final class RunCommand {

    private static final int ALL_DELIVERED = 0;
    private static final int WITH_REJECTS = 1;
    private static final int NOT_FINISHED = 2;
    private static final int WRONG_USE = 64;
    private static final int MOST_FINDINGS = 1_000;
    /** The characters of a job's name in the key of a run, which has 64 in all. */
    private static final int MOST_NAME = 26;
    /** How long a process that was just killed may still hold its lock. */
    private static final int GRACE_MILLIS = 3_000;

    private Arguments arguments;
    private final PrintStream out;
    private final PrintStream progress;

    private RunCommand(Arguments arguments, PrintStream out, PrintStream progress) {
        this.arguments = arguments;
        this.out = out;
        this.progress = progress;
    }

    /** Runs and returns the exit code. */
    public static int execute(String[] args, PrintStream out, PrintStream progress) {
        try {
            Arguments arguments = Arguments.parse(args);
            TemporaryFolder.use(arguments.state().resolve("tmp"));
            return new RunCommand(arguments, out, progress).run();
        } catch (IllegalArgumentException e) {
            progress.println("ninepin run: " + e.getMessage());
            progress.println(e instanceof DefinitionException ? "" : Arguments.USE);
            return WRONG_USE;
        } catch (IOException e) {
            progress.println("ninepin run: cannot read " + e.getMessage());
            return e instanceof java.nio.file.NoSuchFileException ? WRONG_USE : NOT_FINISHED;
        } catch (TargetException e) {
            progress.println("ninepin run: " + e.getMessage() + " [" + e.code() + "]");
            return NOT_FINISHED;
        } catch (SourceException e) {
            progress.println("ninepin run: " + e.getMessage() + " [" + e.code() + "]");
            return NOT_FINISHED;
        } catch (LookUpException e) {
            progress.println("ninepin run: " + e.getMessage() + " [LKP-03]");
            return NOT_FINISHED;
        }
    }

    private JobFiles files() {
        return new JobFiles(arguments.job(), arguments.layout(), arguments.codes());
    }

    private int run() throws IOException, TargetException, LookUpException, SourceException {
        Job job = files().job();
        Layout layout = files().layout(job);
        List<String> missing = job.missingAskedValues(arguments.set());
        if (!missing.isEmpty()) {
            throw new IllegalArgumentException("asked at start: give --set " + missing.get(0) + "=…");
        }
        if (job.legs().isEmpty()) {
            throw new IllegalArgumentException("the job has no delivery");
        }
        FileSettings settings = new FileSettings(arguments.settings());
        if (arguments.input() == null) {
            return runRows(job, layout, settings);
        }
        return run(job, layout, settings, runKey(job));
    }

    /** Runs the rows of the job's query. */
    private int runRows(Job job, Layout layout, FileSettings settings)
            throws IOException, TargetException, LookUpException, SourceException {
        Asked source = Sources.asked(job.pickUp())
                .orElseThrow(() -> new IllegalArgumentException("--input is needed: the job asks no database"));
        AskedRows rows = new AskedRows(arguments.state(), job);
        arguments = arguments.withInput(arguments.state().resolve(job.name() + ".rows"));
        Path copy =
                rows.file(source, layout, facts(settings, LocalDateTime.now()), new CommandTargets.Places(settings));
        if (copy == null) {
            progress.println("The query gives no rows: nothing to do.");
            return ALL_DELIVERED;
        }
        arguments = arguments.withInput(copy);
        int exit = run(job, layout, settings, runKey(job) + rows.nameOf(copy));
        if (arguments.rehearse() || exit != NOT_FINISHED) {
            rows.drop(copy, !arguments.rehearse());
        }
        return exit;
    }

    private int run(Job job, Layout layout, FileSettings settings, String key)
            throws IOException, TargetException, LookUpException {
        if (arguments.rehearse()) {
            return runTaken(job, layout, settings, key + ".rehearsal");
        }
        Optional<ProcessLock> alone = ProcessLock.take(arguments.state().resolve(key + ".lock"), GRACE_MILLIS);
        if (alone.isEmpty()) {
            progress.println("ninepin run: another process is delivering this file with this job at this moment."
                    + " Wait until it has ended. [RUN-05]");
            return NOT_FINISHED;
        }
        try (ProcessLock lock = alone.get()) {
            return runTaken(job, layout, settings, key);
        }
    }

    /** Runs with what was taken at the first start. */
    private int runTaken(Job job, Layout layout, FileSettings settings, String key)
            throws IOException, TargetException, LookUpException {
        FirstStart first = new FirstStart(arguments.state().resolve(key + "-start"));
        LookUpSnapshots snapshots = new LookUpSnapshots(
                new CommandPlaces(files(), settings), arguments.state().resolve(key + "-look-ups"));
        int exit = NOT_FINISHED;
        try {
            RunFacts facts = facts(settings, first.moment());
            CodeTables codes = first.codes(files(), job, settings);
            CommandTargets targets = new CommandTargets(settings, job, facts, key, arguments.rehearse());
            LookUpTables lookUps = snapshots.read(job.ofDocuments().lookUps(), facts.today());
            if (!ready(job, layout, job.sampleContext(facts, codes, lookUps), targets)) {
                return NOT_FINISHED;
            }
            boolean drawn = job.connection() != null && !arguments.rehearse();
            try (DatabaseSequences sequences =
                    drawn ? new DatabaseSequences(settings.connection(job.connection())) : null) {
                Sequences numbers = sequences == null ? Sequences.anew() : sequences;
                ShapingContext context = new ShapingContext(facts, codes, lookUps, numbers);
                exit = runLegs(job, layout, context, targets, key);
            }
            return exit;
        } finally {
            if (arguments.rehearse() || exit != NOT_FINISHED) {
                first.remove();
                snapshots.remove();
            }
        }
    }

    /** Runs the legs and reports; a leg that was complete before does nothing. */
    private int runLegs(Job job, Layout layout, ShapingContext context, CommandTargets targets, String key)
            throws IOException, TargetException {
        List<Leg> all = job.legs();
        if (!arguments.rehearse() && !sayWhereItGoesOn(all, targets, key)) {
            return NOT_FINISHED;
        }
        Path input = new Transcripts(arguments.state().resolve("transcripts")).readable(arguments.input(), layout);
        Legs legs = new Legs(all.size(), job.executionMode());
        List<RunOutcome> outcomes;
        try {
            outcomes = legs.execute(number -> {
                Leg leg = all.get(number);
                Path journal = journal(key, leg);
                try (Target target = targets.of(leg, journal, legs.stop(number))) {
                    RunPlan plan = job.plan(layout, context, Tally.ZERO, leg);
                    RunPlan chunks = leg.to().takesEachDocument() ? plan : plan.withChunkRows(arguments.commitRows());
                    RunListener told = number == 0 ? new Progress(progress) : RunListener.NONE;
                    return new Run(chunks, input, journal, target, told, legs.stop(number)).execute();
                } catch (TargetException e) {
                    return RunOutcome.unusable(e);
                }
            });
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            return NOT_FINISHED;
        }
        boolean sent = arguments.rehearse() || sendFiles(all, outcomes, targets, key);
        report(all, outcomes, key);
        if (outcomes.stream().anyMatch(o -> o != null && o.mayPass())) {
            progress.println("Started again when that is over, it goes on from the last commit.");
        }
        for (Leg leg : arguments.rehearse() ? all : List.<Leg>of()) {
            Files.deleteIfExists(journal(key, leg));
        }
        if (!sent || outcomes.stream().anyMatch(o -> o == null || o.state() != RunOutcome.State.FINISHED)) {
            return NOT_FINISHED;
        }
        return outcomes.stream().anyMatch(o -> o.tally().rejected() > 0) ? WITH_REJECTS : ALL_DELIVERED;
    }

    /** Sends the files of complete places to roots on other machines; false where some could not be sent. */
    private boolean sendFiles(List<Leg> all, List<RunOutcome> outcomes, CommandTargets targets, String key)
            throws IOException, TargetException {
        boolean sent = true;
        for (Leg leg : all) {
            RunOutcome outcome = outcomes.get(leg.number());
            Optional<CommandOutbox> outbox = targets.outbox(leg, journal(key, leg));
            if (outbox.isPresent() && outcome != null && outcome.state() == RunOutcome.State.FINISHED) {
                try {
                    outbox.get().send();
                } catch (StoreException e) {
                    sent = false;
                    progress.println("Not all files are sent: " + e.getMessage()
                            + " The same command started again sends the rest. [" + e.code() + "]");
                }
            }
        }
        return sent;
    }

    private Path journal(String key, Leg leg) {
        String name = key + (leg.number() == 0 ? "" : "-" + leg.number()) + (arguments.rehearse() ? ".rehearsal" : "")
                + ".ndjson";
        return arguments.state().resolve(name);
    }

    /** False where all of it was delivered before. */
    private boolean sayWhereItGoesOn(List<Leg> all, CommandTargets targets, String key)
            throws IOException, TargetException {
        boolean anything = false;
        for (Leg leg : all) {
            try (Target target = targets.of(leg, journal(key, leg), new StopSignal())) {
                Optional<Mark> mark = target.look();
                anything |= mark.isEmpty() || !mark.get().complete();
                Optional<CommandOutbox> outbox = targets.outbox(leg, journal(key, leg));
                anything |= outbox.isPresent() && outbox.get().hasUnsent();
                mark.filter(m -> !m.complete())
                        .ifPresent(m -> progress.println(
                                "Going on from line " + m.position().line() + ", commit " + m.commits() + "."));
            }
        }
        if (!anything) {
            progress.println(
                    "This file was delivered before by this job: nothing to do. Use --again to deliver it again.");
        }
        return anything;
    }

    private boolean ready(Job job, Layout layout, ShapingContext context, CommandTargets targets)
            throws TargetException {
        List<Shortcoming> shortcomings = Readiness.check(job, layout, context, targets.describe(job));
        shortcomings.addAll(targets.checkStatements());
        shortcomings.forEach(s ->
                progress.println((s.blocks() ? "must be mended: " : "note: ") + s.message() + " [" + s.code() + "]"));
        return Readiness.mayRun(shortcomings);
    }

    private RunFacts facts(FileSettings settings, LocalDateTime startedAt) {
        return new RunFacts(
                0,
                arguments.input().getFileName().toString(),
                startedAt.toLocalDate(),
                startedAt,
                settings.environment(),
                settings.siteValues(),
                arguments.set());
    }

    private String runKey(Job job) throws IOException {
        String fingerprint;
        try (FileSource source = FileSource.open(arguments.input())) {
            fingerprint = Fingerprint.of(source);
        }
        String again = arguments.again()
                ? "-" + HexFormat.of().toHexDigits(System.nanoTime()).substring(4)
                : "";
        if (job.name().length() <= MOST_NAME) {
            return job.name() + "-" + fingerprint.substring(0, 20) + again;
        }
        // The beginning of a long name may be that of another job.
        String both =
                Fingerprint.of(new MemorySource((job.name() + "\n" + fingerprint).getBytes(StandardCharsets.UTF_8)));
        return job.name().substring(0, MOST_NAME) + "-" + both.substring(0, 20) + again;
    }

    /** How it ended, the account of all places and of each, and what was found, as JSON. */
    private void report(List<Leg> all, List<RunOutcome> outcomes, String key) throws IOException {
        List<Finding> findings = new ArrayList<>();
        long[] found = {0};
        RefusedByTargets.Gathering refused = new RefusedByTargets.Gathering(all.size());
        for (Leg leg : all) {
            RunOutcome outcome = outcomes.get(leg.number());
            if (outcome != null && Files.exists(journal(key, leg))) {
                Journal.read(journal(key, leg), 0, outcome.mark().journalLength(), entry -> {
                    refused.add(leg.number(), entry);
                    if (leg.number() == 0 || entry.byTarget()) {
                        found[0] += entry.findings().size();
                        entry.findings().stream()
                                .limit(MOST_FINDINGS - findings.size())
                                .forEach(findings::add);
                    }
                });
            }
        }
        RunAccount account = Leg.account(all, outcomes, refused.all());
        Map<String, Object> report = ended(RunOutcome.worst(outcomes));
        report.put("tally", account.tally());
        report.put("open", account.open());
        report.put("balances", account.balances());
        report.put("shares", account.shares());
        List<Map<String, Object>> places = new ArrayList<>();
        for (RunAccount.PlaceAccount place : account.places()) {
            Map<String, Object> one = new LinkedHashMap<>();
            one.put("to", place.to());
            one.putAll(ended(outcomes.get(place.place())));
            one.put("tally", place.tally());
            one.put("deliveries", place.deliveries());
            places.add(one);
        }
        report.put("places", places);
        report.put("findingsInAll", found[0]);
        report.put("findings", findings.stream().map(RunCommand::finding).toList());
        out.println(Definitions.mapper().writeValueAsString(report));
    }

    private static Map<String, Object> ended(RunOutcome outcome) {
        Map<String, Object> ended = new LinkedHashMap<>();
        ended.put(
                "state", outcome == null ? "not begun" : outcome.state().name().toLowerCase(Locale.ROOT));
        if (outcome != null) {
            ended.put("code", outcome.code());
            ended.put("message", outcome.message());
        }
        return ended;
    }

    private static Map<String, Object> finding(Finding f) {
        Map<String, Object> finding = new LinkedHashMap<>();
        finding.put("severity", f.severity());
        finding.put("code", f.code());
        finding.put("line", f.line());
        finding.put("record", f.record());
        finding.put("field", f.field());
        finding.put("offset", f.offset());
        finding.put("message", f.message());
        return finding;
    }

    /** Prints a line a second. */
    private static final class Progress implements RunListener {
        private final PrintStream out;
        private long size;
        private long lastNanos;

        Progress(PrintStream out) {
            this.out = out;
        }

        @Override
        public void started(Mark from, long newSize) {
            size = newSize;
        }

        @Override
        public synchronized void committed(Mark mark) {
            long now = System.nanoTime();
            if (now - lastNanos > 1_000_000_000L || mark.complete()) {
                lastNanos = now;
                long percent = size == 0 ? 100 : mark.position().offset() * 100 / size;
                out.printf(
                        "%3d %%  %,d read  %,d delivered  %,d rejected%n",
                        percent,
                        mark.tally().read(),
                        mark.tally().delivered(),
                        mark.tally().rejected());
            }
        }
    }
}
