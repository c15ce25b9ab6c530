package ninepin.server.proofs;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Map;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import ninepin.core.job.Definitions;
import ninepin.core.job.Job;
import ninepin.core.job.Shortcoming;
import ninepin.core.layout.DefinitionException;
import ninepin.core.proof.Comparison;
import ninepin.core.proof.Comparison.Difference;
import ninepin.core.proof.Proof;
import ninepin.core.proof.Proving;
import ninepin.core.shape.RunFacts;
import ninepin.core.shape.ShapingContext;
import ninepin.server.api.Problems;
import ninepin.server.codes.CodeLists;
import ninepin.server.config.FileNames;
import ninepin.server.config.Folders;
import ninepin.server.jobs.JobMapper.JobRow;
import ninepin.server.jobs.Jobs;
import ninepin.server.jobs.LiveGate;
import ninepin.server.jobs.ShapingContexts;
import ninepin.server.proofs.ProofMapper.ProofRow;
import org.springframework.stereotype.Service;
import org.springframework.transaction.support.TransactionTemplate;

/** Keeps proofs and proves drafts by them. */
@Service
class Proofs implements LiveGate {

    /**
     * How a proof came out.
     *
     * @param ended {@code finished}, or how else the sample ends
     * @param green whether what is made is what is expected
     * @param differences the first differences
     * @param differencesInAll how many there are
     * @param trouble why it could not be proved, or null
     */
    record ProofView(
            String name,
            String fileName,
            Instant madeAt,
            String madeBy,
            String ended,
            long records,
            int rows,
            int findings,
            boolean green,
            List<Difference> differences,
            int differencesInAll,
            String trouble) {}

    private static final int MOST_SHOWN = 200;
    private static final long MOST_BYTES = 20L << 20;

    private final ProofMapper mapper;
    private final Jobs jobs;
    private final ShapingContexts contexts;
    private final CodeLists codes;
    private final Folders folders;
    private final TransactionTemplate transaction;
    private final Clock clock;

    Proofs(
            ProofMapper mapper,
            Jobs jobs,
            ShapingContexts contexts,
            CodeLists codes,
            Folders folders,
            TransactionTemplate transaction,
            Clock clock) {
        this.transaction = transaction;
        this.mapper = mapper;
        this.jobs = jobs;
        this.contexts = contexts;
        this.codes = codes;
        this.folders = folders;
        this.clock = clock;
    }

    /** Proves the draft of a job by all its proofs. */
    List<ProofView> prove(String jobName) {
        JobRow row = jobs.get(jobName);
        List<ProofRow> rows = mapper.of(row.id());
        if (rows.isEmpty()) {
            return List.of();
        }
        Jobs.Definition draft = Jobs.draft(row);
        return rows.stream().map(p -> prove(p, draft)).toList();
    }

    private ProofView prove(ProofRow row, Jobs.Definition draft) {
        Proof proof = Definitions.read(row.definition(), Proof.class);
        try {
            Proof.Made made = made(draft, proof, sample(row));
            if (made.failed()) {
                return view(row, proof, made, List.of(), "Making something of its sample " + made.ended());
            }
            List<Difference> all = Comparison.of(proof.expected(), made);
            return view(row, proof, made, all, null);
        } catch (DefinitionException e) {
            return view(row, proof, proof.expected(), List.of(), "It cannot be run: " + e.getMessage());
        } catch (IOException e) {
            return view(row, proof, proof.expected(), List.of(), "Its sample cannot be read: " + e.getMessage());
        }
    }

    private static ProofView view(
            ProofRow row, Proof proof, Proof.Made made, List<Difference> differences, String trouble) {
        return new ProofView(
                row.name(),
                proof.fileName(),
                row.madeAt(),
                row.madeBy(),
                made.ended(),
                made.read(),
                made.rows().size(),
                made.findings().size(),
                differences.isEmpty() && trouble == null,
                differences.stream().limit(MOST_SHOWN).toList(),
                differences.size(),
                trouble);
    }

    private Proof.Made made(Jobs.Definition draft, Proof proof, Path sample) throws IOException {
        RunFacts own = contexts.facts(proof.fileName());
        RunFacts facts = proof.facts(own.environment(), own.site());
        ShapingContext context =
                contexts.sample(draft.job(), proof.fileName(), null).context();
        return new Proving(draft.job(), draft.layout()).made(sample, context.with(facts));
    }

    private Path sample(ProofRow row) {
        return folders.sample("proof-" + row.jobId() + "-" + row.name());
    }

    /** Keeps the sample of a job, and what its draft makes of it now. */
    ProofView make(String jobName, String name, String who) throws IOException {
        JobRow row = jobs.get(jobName);
        Path sample = jobs.neededSample(row);
        if (Files.size(sample) > MOST_BYTES) {
            throw Problems.unprocessable("The sample is larger than " + (MOST_BYTES >> 20)
                    + " MiB. A proof is read by people: give the job a smaller one.");
        }
        if (mapper.find(row.id(), name).isPresent()) {
            throw Problems.conflict("There is a proof named " + name + " already.");
        }
        Jobs.Definition draft = Jobs.draft(row);
        LocalDateTime now =
                LocalDateTime.ofInstant(clock.instant(), clock.getZone()).truncatedTo(ChronoUnit.SECONDS);
        Map<String, String> asked = draft.job().askedValues(Map.of());
        String file = name + "-" + FileNames.plain(row.sampleName(), "sample");
        Proof proof = new Proof(name, file, row.sampleName(), now, asked, Proof.Made.NOTHING);
        Proof.Made made = made(draft, proof, sample);
        if (made.read() > Proving.MOST_RECORDS) {
            throw Problems.unprocessable("The sample has more than " + Proving.MOST_RECORDS
                    + " records. A proof is read by people: give the job a smaller one.");
        }
        Proof kept = proof.expecting(made);
        transaction.executeWithoutResult(status -> keep(row, name, kept, sample, who));
        return prove(mapper.find(row.id(), name).orElseThrow(), draft);
    }

    /** The name first, which one person gets; its sample before anybody else sees it. */
    private void keep(JobRow row, String name, Proof proof, Path sample, String who) {
        try (InputStream bytes = Files.newInputStream(sample)) {
            mapper.add(row.id(), name, Definitions.write(proof), clock.instant(), who);
            folders.keepSample(folders.sample("proof-" + row.id() + "-" + name), bytes);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** Expects from now on what the draft makes of the sample now. */
    ProofView accept(String jobName, String name, String who) throws IOException {
        JobRow row = jobs.get(jobName);
        ProofRow proof = get(row, name);
        Jobs.Definition draft = Jobs.draft(row);
        Proof definition = Definitions.read(proof.definition(), Proof.class);
        Proof accepted = definition.expecting(made(draft, definition, sample(proof)));
        mapper.change(row.id(), name, Definitions.write(accepted), clock.instant(), who);
        return prove(get(row, name), draft);
    }

    private ProofRow get(JobRow row, String name) {
        return mapper.find(row.id(), name)
                .orElseThrow(() -> Problems.notFound("There is no proof named " + name + "."));
    }

    void delete(String jobName, String name) throws IOException {
        JobRow row = jobs.get(jobName);
        ProofRow proof = get(row, name);
        mapper.delete(row.id(), name);
        Files.deleteIfExists(sample(proof));
    }

    @Override
    public List<Shortcoming> against(JobRow row, Jobs.Definition draft) {
        return mapper.of(row.id()).stream()
                .map(p -> prove(p, draft))
                .filter(p -> !p.green())
                .map(p -> new Shortcoming(
                        true,
                        4,
                        -1,
                        p.name(),
                        "JOB-50",
                        "The proof " + p.name() + " is red: "
                                + (p.trouble() != null
                                        ? p.trouble()
                                        : p.differences().get(0).words()
                                                + (p.differencesInAll() == 1
                                                        ? ""
                                                        : ", and " + (p.differencesInAll() - 1) + " more"))
                                + ". Mend the job, or accept what it makes now."))
                .toList();
    }

    /** The job with all that stands beside it, as the command line proves it. */
    void write(String jobName, OutputStream out) throws IOException {
        JobRow row = jobs.get(jobName);
        Jobs.Definition draft = Jobs.draft(row);
        Job job = draft.job();
        try (ZipOutputStream zip = new ZipOutputStream(out, StandardCharsets.UTF_8)) {
            put(zip, job.name() + ".job.json", Definitions.write(job));
            put(zip, job.layout() + ".layout.json", Definitions.write(draft.layout()));
            for (String list : job.codeLists()) {
                put(zip, list + ".codes.json", codes.get(list).definition());
            }
            for (ProofRow proof : mapper.of(row.id())) {
                String folder = job.name() + ".proofs/";
                put(zip, folder + proof.name() + ".proof.json", proof.definition());
                String file = Definitions.read(proof.definition(), Proof.class).file();
                zip.putNextEntry(new ZipEntry(folder + file));
                Files.copy(sample(proof), zip);
                zip.closeEntry();
            }
        } catch (UncheckedIOException e) {
            throw e.getCause();
        }
    }

    private static void put(ZipOutputStream zip, String name, String text) throws IOException {
        zip.putNextEntry(new ZipEntry(name));
        zip.write(text.getBytes(StandardCharsets.UTF_8));
        zip.closeEntry();
    }
}
