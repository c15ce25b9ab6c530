package ninepin.server.runs;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.time.Clock;
import java.util.HashSet;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import ninepin.core.job.Definitions;
import ninepin.core.pickup.From;
import ninepin.core.pickup.Settlement;
import ninepin.doors.source.Fetched;
import ninepin.doors.source.Item;
import ninepin.doors.source.Source;
import ninepin.doors.source.SourceException;
import ninepin.server.config.Node;
import ninepin.server.jobs.JobMapper.JobRow;
import ninepin.server.runs.ClaimMapper.ClaimRow;
import ninepin.server.runs.ClaimMapper.NewClaim;
import ninepin.server.runs.RunMapper.NewRun;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.dao.DuplicateKeyException;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Takes what was found at a source: claims it in the database, fetches it, makes a run of it and settles it at the source. Each
 * step is on record before the next, so what was broken off between any two is gone on with.
 */
@Component
public class Claims {

    private static final Logger LOG = LoggerFactory.getLogger(Claims.class);

    /** Keeps how far a source has been taken, in the transaction that makes the run. */
    public interface Reached {
        void keep(String reached, long run);
    }

    /**
     * Who takes.
     *
     * @param job the job, which has a live version
     * @param from where from
     * @param place what tells that place from others
     * @param home where files of it are worked on
     * @param settlement what becomes of what was taken, at its source
     * @param by who or what started it
     * @param asked the values given at start
     */
    public record Taking(
            JobRow job,
            From from,
            String place,
            FileHome home,
            Settlement settlement,
            String by,
            Map<String, String> asked) {

        /** What no two claims have in common. */
        String held(Item item) {
            return digest(place + "\n" + item.id() + "\n" + item.version());
        }
    }

    private final ClaimMapper mapper;
    private final Acceptance acceptance;
    private final Node node;
    private final TransactionTemplate transaction;
    private final Clock clock;

    Claims(ClaimMapper mapper, Acceptance acceptance, Node node, TransactionTemplate transaction, Clock clock) {
        this.mapper = mapper;
        this.acceptance = acceptance;
        this.node = node;
        this.transaction = transaction;
        this.clock = clock;
    }

    private static String digest(String text) {
        try {
            byte[] bytes = text.getBytes(StandardCharsets.UTF_8);
            return HexFormat.of().formatHex(MessageDigest.getInstance("SHA-256").digest(bytes));
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException(e);
        }
    }

    /** Those of some items that nobody has claimed. */
    public List<Item> free(Taking taking, List<Item> items) {
        if (items.isEmpty()) {
            return items;
        }
        Set<String> held =
                new HashSet<>(mapper.heldAmong(items.stream().map(taking::held).toList()));
        return held.isEmpty()
                ? items
                : items.stream().filter(i -> !held.contains(taking.held(i))).toList();
    }

    /**
     * Claims an item, fetches it and makes a run of it.
     *
     * @return the number of the run; empty where somebody else has it, or there is nothing (any more)
     * @throws SourceException where the source does not give it; nothing was taken
     */
    public OptionalLong take(Taking taking, Item item, Source source, Reached reached) throws SourceException {
        NewClaim claim = new NewClaim();
        claim.jobId = taking.job().id();
        claim.version = taking.job().liveVersion();
        claim.takenFrom = Definitions.write(taking.from());
        claim.item = item.id();
        claim.itemVersion = item.version();
        claim.held = taking.held(item);
        claim.runKey = UUID.randomUUID().toString();
        claim.fileName = item.name();
        claim.filePath = taking.home().working(claim.runKey, item.name()).toString();
        claim.fileHome = taking.home().folder().toString();
        claim.startedBy = taking.by();
        claim.asked = AskedValues.write(taking.asked());
        claim.settlement = taking.settlement();
        claim.owner = node.owner();
        claim.claimedAt = clock.instant();
        try {
            mapper.add(claim);
        } catch (DuplicateKeyException e) {
            return OptionalLong.empty();
        }
        return goOn(mapper.find(claim.id).orElseThrow(), source, reached);
    }

    /** Claims of a job that are not through and that nobody else works on. */
    public List<ClaimRow> open(long job) {
        return mapper.openOf(job).stream().filter(this::isOurs).toList();
    }

    /** The jobs that have such claims. */
    public Set<Long> jobsWithOpen() {
        return mapper.open().stream().filter(this::isOurs).map(ClaimRow::jobId).collect(Collectors.toSet());
    }

    private boolean isOurs(ClaimRow claim) {
        return node.mayGoOn(claim.owner(), claim.claimedAt(), clock.instant());
    }

    /**
     * Goes on with a claim from wherever it was broken off. Claims of one job are worked on by one thread at a time.
     *
     * @return the number of the run where one was made
     */
    public OptionalLong goOn(ClaimRow claim, Source source, Reached reached) throws SourceException {
        OptionalLong run =
                claim.state() == ClaimMapper.State.CLAIMED ? fetch(claim, source, reached) : OptionalLong.empty();
        if (run.isPresent() || claim.state() == ClaimMapper.State.FETCHED) {
            settle(claim, source);
        }
        return run;
    }

    private OptionalLong fetch(ClaimRow claim, Source source, Reached reached) throws SourceException {
        try {
            Optional<Fetched> fetched = source.fetch(claim.found(), claim.file());
            if (fetched.isEmpty()) {
                LOG.debug("{} was claimed, and there is nothing any more.", claim.fileName());
                mapper.drop(claim.id());
                return OptionalLong.empty();
            }
            return transaction.execute(status -> accept(claim, fetched.get(), reached));
        } catch (SourceException e) {
            mapper.drop(claim.id());
            throw e;
        } catch (IOException e) {
            LOG.warn("{} cannot be fetched now and is tried again: {}", claim.fileName(), e.toString());
            return OptionalLong.empty();
        }
    }

    /** The run, how far the source was taken with it, and what is left of the claim are one transaction. */
    private OptionalLong accept(ClaimRow claim, Fetched fetched, Reached reached) {
        int mine =
                switch (claim.settlement()) {
                    case NONE -> mapper.drop(claim.id());
                    case LEAVE -> mapper.become(claim.id(), ClaimMapper.State.LEFT);
                    case DELETE -> mapper.become(claim.id(), ClaimMapper.State.FETCHED);
                };
        if (mine == 0) {
            return OptionalLong.empty();
        }
        NewRun run = new NewRun();
        run.runKey = claim.runKey();
        run.jobId = claim.jobId();
        run.version = claim.version();
        run.startedBy = claim.startedBy();
        run.fileName = claim.fileName();
        run.asked = claim.asked();
        long id = acceptance.accept(run, claim.file(), null, new FileHome(Path.of(claim.fileHome())), fetched.size());
        if (fetched.reached() != null) {
            reached.keep(fetched.reached(), id);
        }
        return OptionalLong.of(id);
    }

    private void settle(ClaimRow claim, Source source) throws SourceException {
        Settlement how = claim.settlement();
        if (how == Settlement.NONE || how == Settlement.LEAVE) {
            return;
        }
        try {
            source.settle(claim.found(), how);
            mapper.drop(claim.id());
        } catch (IOException e) {
            LOG.warn("{} cannot be settled at its source now; it is tried again: {}", claim.fileName(), e.toString());
        }
    }
}
