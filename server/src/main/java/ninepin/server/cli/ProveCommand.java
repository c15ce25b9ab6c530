package ninepin.server.cli;

import java.io.IOException;
import java.io.PrintStream;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.time.LocalDateTime;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Stream;
import ninepin.core.deliver.TargetException;
import ninepin.core.job.Definitions;
import ninepin.core.job.Job;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.Layout;
import ninepin.core.lookup.LookUpException;
import ninepin.core.lookup.LookUpTables;
import ninepin.core.proof.Comparison;
import ninepin.core.proof.Proof;
import ninepin.core.proof.Proving;
import ninepin.core.shape.RunFacts;
import ninepin.core.shape.ShapingContext;
import ninepin.core.snapshot.LookUpSnapshots;

/**
 * {@code ninepin prove}: makes again of each kept sample of a job what the job makes of it, and says what differs from what
 * was expected. Proofs stand beside the job in the folder {@code NAME.proofs}.
 */
public final class ProveCommand {

    static final String USE =
            """
            use: ninepin prove JOB.json [--layout FILE.json] [--codes FOLDER] [--settings FILE]
                               [--make NAME --input FILE [--set name=value]...] [--accept]
              Proofs stand beside the job in NAME.proofs, each as PROOF.proof.json beside its sample.
              --make keeps a sample and what the job makes of it now; --accept expects of all what is made now.
              Exit: 0 all green, 1 some red, 2 could not be proved, 64 wrong use.""";

    private static final int GREEN = 0;
    private static final int RED = 1;
    private static final int TROUBLE = 2;
    private static final int WRONG_USE = 64;
    private static final int MOST_SHOWN = 50;
    private static final String ENDING = ".proof.json";

    private final Map<String, String> values;
    private final Map<String, String> asked;
    private final PrintStream out;
    private final JobFiles files;
    private final FileSettings settings;
    private final Job job;
    private final Layout layout;
    private final Path folder;

    private ProveCommand(Map<String, String> values, Map<String, String> asked, PrintStream out) throws IOException {
        this.values = values;
        this.asked = asked;
        this.out = out;
        this.files = new JobFiles(path("job"), path("--layout"), path("--codes"));
        this.settings = new FileSettings(path("--settings"));
        this.job = files.job();
        this.layout = files.layout(job);
        this.folder = files.beside(job.name() + ".proofs");
    }

    /** Proves and returns the exit code. */
    public static int execute(String[] args, PrintStream out, PrintStream problems) {
        try {
            Map<String, String> asked = new TreeMap<>();
            return new ProveCommand(parse(args, asked), asked, out).prove();
        } catch (IllegalArgumentException e) {
            problems.println("ninepin prove: " + e.getMessage());
            problems.println(e instanceof DefinitionException ? "" : USE);
            return WRONG_USE;
        } catch (NoSuchFileException e) {
            problems.println("ninepin prove: there is no " + e.getMessage());
            return WRONG_USE;
        } catch (IOException | TargetException | LookUpException e) {
            problems.println("ninepin prove: " + e.getMessage());
            return TROUBLE;
        }
    }

    private static Map<String, String> parse(String[] args, Map<String, String> asked) {
        Map<String, String> values = new TreeMap<>();
        for (int i = 0; i < args.length; i++) {
            String arg = args[i];
            switch (arg) {
                case "--accept" -> values.put(arg, "");
                case "--layout", "--codes", "--settings", "--make", "--input", "--set" -> {
                    if (++i == args.length) {
                        throw new IllegalArgumentException(arg + " needs a value");
                    }
                    int equals = args[i].indexOf('=');
                    if (!arg.equals("--set")) {
                        values.put(arg, args[i]);
                    } else if (equals < 1) {
                        throw new IllegalArgumentException("--set needs name=value");
                    } else {
                        asked.put(args[i].substring(0, equals), args[i].substring(equals + 1));
                    }
                }
                default -> {
                    if (arg.startsWith("--") || values.put("job", arg) != null) {
                        throw new IllegalArgumentException("unknown argument " + arg);
                    }
                }
            }
        }
        if (!values.containsKey("job") || values.containsKey("--make") != values.containsKey("--input")) {
            throw new IllegalArgumentException("a job is needed, and a file beside --make");
        }
        return values;
    }

    private Path path(String name) {
        return values.containsKey(name) ? Path.of(values.get(name)) : null;
    }

    private int prove() throws IOException, TargetException, LookUpException {
        if (values.containsKey("--make")) {
            make(values.get("--make"), path("--input"));
            return GREEN;
        }
        List<Path> all = proofs();
        if (all.isEmpty()) {
            throw new NoSuchFileException("proof of " + job.name() + ": " + folder + " has none");
        }
        int red = 0;
        for (Path path : all) {
            red += prove(path) ? 0 : 1;
        }
        out.println(all.size() - red + " of " + all.size() + " green.");
        return red == 0 ? GREEN : RED;
    }

    private List<Path> proofs() throws IOException {
        if (!Files.isDirectory(folder)) {
            return List.of();
        }
        try (Stream<Path> found = Files.list(folder)) {
            return found.filter(p -> p.getFileName().toString().endsWith(ENDING))
                    .sorted()
                    .toList();
        }
    }

    private boolean prove(Path path) throws IOException, TargetException, LookUpException {
        Proof proof = Definitions.read(Files.readString(path), Proof.class);
        Proof.Made made = made(proof, path.resolveSibling(proof.file()));
        if (values.containsKey("--accept")) {
            Files.writeString(path, Definitions.write(proof.expecting(made)));
            out.println("accepted " + proof.name());
            return true;
        }
        List<Comparison.Difference> differences = Comparison.of(proof.expected(), made);
        out.println((differences.isEmpty() ? "green " : "red   ") + proof.name() + ": " + counts(made)
                + (differences.isEmpty() ? "" : ", " + differences.size() + " differences"));
        differences.stream().limit(MOST_SHOWN).forEach(d -> out.println("      " + d.words()));
        if (differences.size() > MOST_SHOWN) {
            out.println("      and " + (differences.size() - MOST_SHOWN) + " more");
        }
        return differences.isEmpty();
    }

    private Proof.Made made(Proof proof, Path sample) throws IOException, TargetException, LookUpException {
        RunFacts facts = proof.facts(settings.environment(), settings.siteValues());
        Path copies = Files.createTempDirectory("ninepin-prove");
        LookUpSnapshots snapshots = new LookUpSnapshots(new CommandPlaces(files, settings), copies);
        try {
            LookUpTables lookUps = snapshots.read(job.ofDocuments().lookUps(), facts.today());
            ShapingContext context = job.sampleContext(facts, files.codes(job, settings), lookUps);
            return new Proving(job, layout).made(sample, context.with(facts));
        } finally {
            snapshots.remove();
            Files.deleteIfExists(copies);
        }
    }

    private void make(String name, Path input) throws IOException, TargetException, LookUpException {
        Files.createDirectories(folder);
        String file = name + "-" + input.getFileName();
        LocalDateTime now = LocalDateTime.now().truncatedTo(ChronoUnit.SECONDS);
        Proof proof =
                new Proof(name, file, input.getFileName().toString(), now, job.askedValues(asked), Proof.Made.NOTHING);
        Proof.Made made = made(proof, input);
        Files.copy(input, folder.resolve(file), StandardCopyOption.REPLACE_EXISTING);
        Files.writeString(folder.resolve(name + ENDING), Definitions.write(proof.expecting(made)));
        out.println("made " + name + ": " + counts(made));
    }

    private static String counts(Proof.Made made) {
        return made.read() + " records, " + made.rows().size() + " rows, "
                + made.findings().size() + " findings";
    }
}
