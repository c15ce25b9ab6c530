package ninepin.server.cli;

import java.io.IOException;
import java.io.PrintStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import ninepin.core.check.Finding;
import ninepin.core.codes.CodeList;
import ninepin.core.codes.CodeTables;
import ninepin.core.deliver.DatabaseAddress;
import ninepin.core.deliver.Mark;
import ninepin.core.deliver.TableDescription;
import ninepin.core.deliver.Tally;
import ninepin.core.deliver.Target;
import ninepin.core.deliver.TargetException;
import ninepin.core.deliver.database.DatabaseSequences;
import ninepin.core.deliver.database.DatabaseTarget;
import ninepin.core.deliver.database.Dialect;
import ninepin.core.deliver.database.RehearsalTarget;
import ninepin.core.job.Definitions;
import ninepin.core.job.Delivery;
import ninepin.core.job.Job;
import ninepin.core.job.LookUpSnapshots;
import ninepin.core.job.Readiness;
import ninepin.core.job.Shortcoming;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.Layout;
import ninepin.core.lookup.LookUpException;
import ninepin.core.lookup.LookUpTables;
import ninepin.core.run.Journal;
import ninepin.core.run.Run;
import ninepin.core.run.RunListener;
import ninepin.core.run.RunOutcome;
import ninepin.core.run.StopSignal;
import ninepin.core.shape.RunFacts;
import ninepin.core.shape.Sequences;
import ninepin.core.shape.ShapingContext;
import ninepin.core.source.FileSource;
import ninepin.core.source.Fingerprint;
import ninepin.server.codes.CodeQuery;

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

    private final Arguments arguments;
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
            return new RunCommand(Arguments.parse(args), out, progress).run();
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
        } catch (LookUpException e) {
            progress.println("ninepin run: " + e.getMessage() + " [LKP-03]");
            return NOT_FINISHED;
        }
    }

    private int run() throws IOException, TargetException, LookUpException {
        Job job = Definitions.job(Files.readString(arguments.job()));
        Layout layout = Definitions.layout(Files.readString(layoutFile(job)));
        List<String> missing = job.missingAskedValues(arguments.set());
        if (!missing.isEmpty()) {
            throw new IllegalArgumentException("asked at start: give --set " + missing.get(0) + "=…");
        }
        if (job.connection() == null) {
            throw new IllegalArgumentException("the job has no delivery");
        }
        FileSettings settings = new FileSettings(arguments.settings());
        DatabaseAddress database = settings.connection(job.connection());
        CodeTables codes = codes(job, settings);
        RunFacts facts = facts(settings);
        String key = runKey(job);
        LookUpSnapshots snapshots = new LookUpSnapshots(
                new CommandPlaces(arguments, settings), arguments.state().resolve(key + "-look-ups"));
        LookUpTables lookUps = snapshots.read(job.ofDocuments().lookUps(), facts.today());
        if (!ready(job, layout, job.sampleContext(facts, codes, lookUps), database)) {
            return NOT_FINISHED;
        }
        Files.createDirectories(arguments.state());
        Path journal = arguments.state().resolve(key + (arguments.rehearse() ? ".rehearsal" : "") + ".ndjson");
        if (arguments.rehearse()) {
            Files.deleteIfExists(journal);
        }
        try (Target target = arguments.rehearse()
                ? new RehearsalTarget(database, job.loads())
                : new DatabaseTarget(database, job.loads(), key)) {
            try (DatabaseSequences sequences = new DatabaseSequences(database)) {
                Sequences numbers = arguments.rehearse() ? Sequences.anew() : sequences;
                ShapingContext context = new ShapingContext(facts, codes, lookUps, numbers);
                int exit = run(job, layout, context, target, journal);
                if (arguments.rehearse() || exit != NOT_FINISHED) {
                    snapshots.remove();
                }
                return exit;
            }
        } finally {
            if (arguments.rehearse()) {
                Files.deleteIfExists(journal);
            }
        }
    }

    private int run(Job job, Layout layout, ShapingContext context, Target target, Path journal)
            throws IOException, TargetException {
        if (!arguments.rehearse()) {
            Optional<Mark> mark = target.prepare();
            if (mark.isPresent() && mark.get().complete()) {
                progress.println(
                        "This file was delivered before by this job: nothing to do. Use --again to deliver it again.");
                return NOT_FINISHED;
            }
            mark.ifPresent(m ->
                    progress.println("Going on from line " + m.position().line() + ", commit " + m.commits() + "."));
        }
        RunOutcome outcome = new Run(
                        job.plan(layout, context, Tally.ZERO).withChunkRows(arguments.commitRows()),
                        arguments.input(),
                        journal,
                        target,
                        new Progress(progress),
                        new StopSignal())
                .execute();
        report(outcome, journal);
        if (outcome.state() != RunOutcome.State.FINISHED) {
            return NOT_FINISHED;
        }
        return outcome.tally().rejected() > 0 ? WITH_REJECTS : ALL_DELIVERED;
    }

    private boolean ready(Job job, Layout layout, ShapingContext context, DatabaseAddress database)
            throws TargetException {
        List<Optional<TableDescription>> tables = new ArrayList<>();
        Dialect dialect = Dialect.of(database);
        try (Connection connection = dialect.connect(database)) {
            for (Delivery delivery : job.deliveries()) {
                tables.add(
                        delivery.to() == null || !delivery.to().decided()
                                ? Optional.empty()
                                : dialect.catalog(connection)
                                        .describe(delivery.to().table()));
            }
        } catch (SQLException e) {
            throw dialect.explain(e, "describe the tables");
        }
        List<Shortcoming> shortcomings = Readiness.check(job, layout, context, tables);
        shortcomings.forEach(s ->
                progress.println((s.blocks() ? "must be mended: " : "note: ") + s.message() + " [" + s.code() + "]"));
        return Readiness.mayRun(shortcomings);
    }

    private RunFacts facts(FileSettings settings) {
        return new RunFacts(
                0,
                arguments.input().getFileName().toString(),
                LocalDate.now(),
                LocalDateTime.now(),
                settings.environment(),
                settings.siteValues(),
                arguments.set());
    }

    /** The code lists that the job names, from their files; those of a query with what it gives now. */
    private CodeTables codes(Job job, FileSettings settings) throws IOException, TargetException {
        List<CodeList> lists = new ArrayList<>();
        for (String name : job.codeLists()) {
            String file = name + ".codes.json";
            Path path = arguments.codes() != null
                    ? arguments.codes().resolve(file)
                    : arguments.job().toAbsolutePath().resolveSibling(file);
            CodeList list = Definitions.codeList(Files.readString(path));
            lists.add(
                    list.query() == null
                            ? list
                            : CodeQuery.filled(
                                    list, settings.connection(list.query().connection())));
        }
        return CodeTables.of(lists);
    }

    private Path layoutFile(Job job) {
        if (arguments.layout() != null) {
            return arguments.layout();
        }
        return arguments.job().toAbsolutePath().resolveSibling(job.layout() + ".layout.json");
    }

    private String runKey(Job job) throws IOException {
        String fingerprint;
        try (FileSource source = FileSource.open(arguments.input())) {
            fingerprint = Fingerprint.of(source);
        }
        String again = arguments.again()
                ? "-" + HexFormat.of().toHexDigits(System.nanoTime()).substring(4)
                : "";
        String name = job.name().length() > 30 ? job.name().substring(0, 30) : job.name();
        return name + "-" + fingerprint.substring(0, 20) + again;
    }

    private void report(RunOutcome outcome, Path journal) throws IOException {
        List<Finding> findings = new ArrayList<>();
        long[] all = {0};
        if (Files.exists(journal)) {
            Journal.read(journal, 0, outcome.mark().journalLength(), entry -> {
                all[0] += entry.findings().size();
                entry.findings().stream().limit(MOST_FINDINGS - findings.size()).forEach(findings::add);
            });
        }
        Map<String, Object> report = new LinkedHashMap<>();
        report.put("state", outcome.state().name().toLowerCase());
        report.put("tally", outcome.tally());
        report.put("shares", outcome.mark().shares());
        report.put("code", outcome.code());
        report.put("message", outcome.message());
        report.put("findingsInAll", all[0]);
        report.put("findings", findings.stream().map(RunCommand::finding).toList());
        out.println(Definitions.mapper().writeValueAsString(report));
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
