package ninepin.server.transfer;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import ninepin.core.deliver.Places;
import ninepin.core.deliver.TakenBack;
import ninepin.core.deliver.TargetException;
import ninepin.core.deliver.file.WrittenFile;
import ninepin.core.destination.support.WritesFiles;
import ninepin.doors.Stores;
import ninepin.doors.store.Store;
import ninepin.doors.store.StoreException;
import ninepin.server.config.Node;
import ninepin.server.transfer.OutboxMapper.Group;
import ninepin.server.transfer.OutboxMapper.NewFile;
import ninepin.server.transfer.OutboxMapper.OutboxRow;
import ninepin.server.transfer.OutboxMapper.State;
import org.springframework.stereotype.Service;

/** The files that runs have written for roots on other machines, from when they are whole until they are there. */
@Service
public class Outbox {

    /**
     * How far a file is on its way.
     *
     * @param state {@code waiting}, {@code sent} or {@code taken back}
     * @param trouble why it could not be sent, or null
     * @param tries how often that was tried in vain
     * @param nextAt when it is tried again; null once it is sent, and while it waits for a person
     */
    public record SendingView(String state, String code, String trouble, int tries, Instant nextAt, Instant sentAt) {}

    private static final int BATCH = 500;
    private static final int MOST_LISTED = 100;

    private final OutboxMapper mapper;
    private final Transfers transfers;
    private final Places places;
    private final Node node;
    private final Clock clock;

    Outbox(OutboxMapper mapper, Transfers transfers, Places places, Node node, Clock clock) {
        this.mapper = mapper;
        this.transfers = transfers;
        this.places = places;
        this.node = node;
        this.clock = clock;
    }

    /**
     * Puts the complete files of one place of a run on record as to be sent, those that are not yet. Nothing where its root is
     * on this machine.
     *
     * @param mark where the run keeps its mark
     */
    public void add(long run, int leg, WritesFiles of, Path mark) {
        if (!places.isRemote(of.root())) {
            return;
        }
        List<NewFile> files = files(run, leg, of, mark);
        for (int from = 0; from < files.size(); from += BATCH) {
            mapper.add(files.subList(from, Math.min(files.size(), from + BATCH)));
        }
    }

    private List<NewFile> files(long run, int leg, WritesFiles of, Path mark) {
        Instant now = clock.instant();
        try {
            Path here = of.folder(places, mark);
            return of.written(mark).stream()
                    .filter(WrittenFile::complete)
                    .map(f -> new NewFile(
                            run,
                            leg,
                            f.number(),
                            of.root(),
                            of.folder(),
                            f.name(),
                            here.resolve(f.name()).toString(),
                            f.fingerprint(),
                            of.replaces(),
                            now))
                    .toList();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        } catch (TargetException e) {
            throw new IllegalStateException(e);
        }
    }

    /** How far the files of one place of a run are on their way, by their numbers, those behind a number. */
    public Map<Integer, SendingView> of(long run, int leg, int after) {
        Map<Integer, SendingView> views = new TreeMap<>();
        mapper.of(run, leg, after).forEach(row -> views.put(row.number(), view(row)));
        return views;
    }

    /** Whether files of one place of a run are or were to be sent. */
    public boolean has(long run, int leg) {
        return mapper.all(run, leg) > 0;
    }

    /** Whether a file of a run is to be sent and lies here still. */
    public boolean isHere(long run, int leg, int number) {
        return mapper.find(run, leg, number).filter(OutboxRow::unsent).isPresent();
    }

    private static SendingView view(OutboxRow row) {
        String words =
                switch (row.state()) {
                    case WAITING, UPLOADED -> "waiting";
                    case SENT, DONE -> "sent";
                    case CANCELLED, REMOVED, CHANGED, GONE -> "taken back";
                };
        return new SendingView(words, row.code(), row.trouble(), row.tries(), row.nextAt(), row.sentAt());
    }

    /** All that a run still has to send is tried at once; how many files that are. */
    public int sendNow(long run) {
        return mapper.sendNow(run, clock.instant());
    }

    /** The runs with files that could not be sent so far. */
    public List<OutboxMapper.Stuck> stuck() {
        return mapper.stuck();
    }

    /** Whether nobody else is at a file. */
    boolean isFree(OutboxRow row) {
        return row.owner() == null || node.mayGoOn(row.owner(), row.claimedAt(), clock.instant());
    }

    /**
     * Takes the files of one place of a run back: those that are not sent stay here, those that are sent are removed unless they
     * were changed. What an earlier try has done is not done again.
     *
     * @throws TargetException where the root is away
     */
    public TakenBack takeBack(String label, long run, int leg, WritesFiles of) throws TargetException {
        mapper.cancel(run, leg);
        Group group = new Group(run, leg, of.root(), of.folder());
        // Whoever sends them is through with the one it is at.
        Optional<TargetException> trouble = transfers.now(group.queue(), of.root(), () -> takeBack(group));
        if (trouble.isPresent()) {
            throw trouble.get();
        }
        return new TakenBack(
                label,
                mapper.count(run, leg, State.CANCELLED) + mapper.count(run, leg, State.REMOVED),
                mapper.count(run, leg, State.CHANGED),
                mapper.count(run, leg, State.GONE),
                mapper.left(run, leg, MOST_LISTED).stream()
                        .map(row -> row.name() + (row.state() == State.GONE ? " (gone)" : " (changed)"))
                        .toList());
    }

    /** Forgets the files of a run that is taken back, so that a restart can send them again. */
    public void forget(long run) {
        mapper.forget(run);
    }

    private Optional<TargetException> takeBack(Group group) {
        try (Store store = Stores.open(places, group.root(), group.folder())) {
            for (int after = 0; ; ) {
                List<OutboxRow> rows = mapper.of(group.runId(), group.leg(), after);
                if (rows.isEmpty()) {
                    return Optional.empty();
                }
                for (OutboxRow row : rows) {
                    takeBack(row, store);
                    after = row.number();
                }
            }
        } catch (StoreException e) {
            TargetException.Kind kind =
                    e.kind() == StoreException.Kind.AWAY ? TargetException.Kind.AWAY : TargetException.Kind.UNUSABLE;
            return Optional.of(new TargetException(kind, e.code(), e.getMessage(), e));
        }
    }

    private void takeBack(OutboxRow row, Store store) throws StoreException {
        if (row.state() == State.UPLOADED && !isFree(row)) {
            throw new StoreException(
                    StoreException.Kind.AWAY, "Another process is sending " + row.name() + " at this moment.", null);
        }
        if (row.state() == State.CANCELLED && row.hidden() != null) {
            store.remove(row.hidden());
        }
        if (row.state() == State.UPLOADED && store.size(row.hidden()).isPresent()) {
            store.remove(row.hidden());
            mapper.become(row.id(), State.UPLOADED, State.CANCELLED);
        } else if (row.state() == State.UPLOADED || row.state() == State.SENT || row.state() == State.DONE) {
            mapper.become(row.id(), row.state(), takenFrom(row, store));
        }
    }

    private static State takenFrom(OutboxRow row, Store store) throws StoreException {
        if (store.size(row.name()).isEmpty()) {
            return State.GONE;
        }
        if (!store.fingerprint(row.name()).equals(row.fingerprint())) {
            return State.CHANGED;
        }
        store.remove(row.name());
        return State.REMOVED;
    }
}
