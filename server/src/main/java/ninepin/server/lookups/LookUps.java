package ninepin.server.lookups;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import ninepin.core.deliver.DatabaseAddress;
import ninepin.core.layout.Layout;
import ninepin.core.lookup.LookUp;
import ninepin.core.lookup.LookUpException;
import ninepin.core.lookup.LookUpTable;
import ninepin.core.lookup.LookUpTables;
import ninepin.core.snapshot.LookUpSnapshots;
import ninepin.server.config.Folders;
import ninepin.server.connections.Connections;
import ninepin.server.layouts.LayoutLibrary;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Service;
import org.springframework.web.ErrorResponseException;

/** Reads what look-ups look into: anew for each run, and now and then while a job is looked at. */
@Service
public class LookUps {

    private static final Logger LOG = LoggerFactory.getLogger(LookUps.class);
    /** For how long the bench goes on with what was read. */
    private static final Duration FRESH = Duration.ofSeconds(20);
    /** How many tables the bench holds at once. */
    private static final int MOST_HELD = 20;

    /**
     * What the bench works with.
     *
     * @param name the look-up
     * @param keys how many different keys there are
     * @param at when it was read
     */
    public record Read(String name, int keys, Instant at) {}

    /**
     * The look-ups of a job as far as they can be read, and why others cannot.
     *
     * @param tables those that can
     * @param reads when they were read
     * @param troubles why others cannot
     */
    public record Found(LookUpTables tables, List<Read> reads, List<String> troubles) {}

    private record Held(LookUpTable table, Instant at) {}

    private final Connections connections;
    private final LayoutLibrary library;
    private final Folders folders;
    private final Clock clock;
    private final Map<LookUp, Held> held = new ConcurrentHashMap<>();

    LookUps(Connections connections, LayoutLibrary library, Folders folders, Clock clock) {
        this.connections = connections;
        this.library = library;
        this.folders = folders;
        this.clock = clock;
    }

    /** What look-ups find while a job is looked at. */
    public Found find(List<LookUp> lookUps, LocalDate today) {
        held.values().removeIf(h -> h.at().isBefore(clock.instant().minus(FRESH)));
        List<LookUpTable> tables = new ArrayList<>();
        List<Read> reads = new ArrayList<>();
        List<String> troubles = new ArrayList<>();
        for (LookUp lookUp : lookUps) {
            try {
                Held now = held.get(lookUp);
                if (now == null) {
                    now = new Held(readOnce(lookUp, today), clock.instant());
                    if (held.size() < MOST_HELD) {
                        held.put(lookUp, now);
                    }
                }
                tables.add(now.table());
                reads.add(new Read(lookUp.name(), now.table().size(), now.at()));
            } catch (LookUpException e) {
                troubles.add(e.getMessage());
            }
        }
        return new Found(new LookUpTables(tables), reads, troubles);
    }

    private LookUpTable readOnce(LookUp lookUp, LocalDate today) throws LookUpException {
        try {
            LookUpSnapshots once = new LookUpSnapshots(new Leads(), Files.createTempDirectory("ninepin-look-up"));
            try {
                return once.read(List.of(lookUp), today).tables().get(0);
            } finally {
                once.remove();
            }
        } catch (IOException e) {
            throw new LookUpException("The look-up " + lookUp.name() + " cannot be copied: " + e.getMessage());
        }
    }

    /** What look-ups of a run find: what they found at its first start. */
    public LookUpTables forRun(long run, List<LookUp> lookUps, LocalDate today) throws LookUpException {
        return snapshots(run).read(lookUps, today);
    }

    /** Removes what was copied for a run that will not go on. */
    public void ended(long run) {
        try {
            snapshots(run).remove();
        } catch (IOException e) {
            LOG.warn("What look-ups of run {} looked into cannot be removed: {}", run, e.toString());
        }
    }

    private LookUpSnapshots snapshots(long run) {
        return new LookUpSnapshots(new Leads(), folders.lookUps(run));
    }

    /** Where names lead in this application. */
    private final class Leads implements LookUpSnapshots.Places {

        @Override
        public DatabaseAddress connection(String name) throws LookUpException {
            try {
                return connections.address(name);
            } catch (ErrorResponseException e) {
                throw new LookUpException(e.getBody().getDetail());
            }
        }

        @Override
        public Optional<Path> folder(String root, String folder) throws LookUpException {
            try {
                return folders.below(root, folder);
            } catch (ErrorResponseException e) {
                throw new LookUpException(e.getBody().getDetail());
            }
        }

        @Override
        public Layout layout(String name) throws LookUpException {
            try {
                return library.latest(name);
            } catch (ErrorResponseException e) {
                throw new LookUpException(e.getBody().getDetail());
            }
        }
    }
}
