package ninepin.server.transfer;

import java.io.IOException;
import java.nio.file.Files;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import ninepin.core.deliver.Places;
import ninepin.doors.Stores;
import ninepin.doors.store.Sending;
import ninepin.doors.store.Store;
import ninepin.doors.store.StoreException;
import ninepin.server.config.NinepinSettings;
import ninepin.server.config.Node;
import ninepin.server.transfer.OutboxMapper.Group;
import ninepin.server.transfer.OutboxMapper.OutboxRow;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/**
 * Works the outbox off: sends the files of each run in their order, tries again with growing waits where a root is away, and
 * leaves alone what only a person can mend.
 */
@Component
class Sender {

    private static final Logger LOG = LoggerFactory.getLogger(Sender.class);
    private static final Duration LONGEST_WAIT = Duration.ofMinutes(15);

    private final OutboxMapper mapper;
    private final Outbox outbox;
    private final Transfers transfers;
    private final Places places;
    private final Node node;
    private final ApplicationEventPublisher events;
    private final Clock clock;
    private final Duration firstWait;

    Sender(
            OutboxMapper mapper,
            Outbox outbox,
            Transfers transfers,
            Places places,
            Node node,
            ApplicationEventPublisher events,
            Clock clock,
            NinepinSettings settings) {
        this.mapper = mapper;
        this.outbox = outbox;
        this.transfers = transfers;
        this.places = places;
        this.node = node;
        this.events = events;
        this.clock = clock;
        this.firstWait = Duration.ofSeconds(Math.max(1, settings.pauseSeconds()));
    }

    /** Sees to what is due; each place of a run by itself, so that one that is silent keeps no other waiting. */
    @Scheduled(fixedDelay = 1000)
    void look() {
        for (Group group : mapper.due(clock.instant())) {
            transfers.soon(group.queue(), group.root(), "send", () -> send(group));
        }
        mapper.toRemoveHere().forEach(this::removeHere);
    }

    private void removeHere(OutboxRow row) {
        try {
            Files.deleteIfExists(row.file());
            mapper.become(row.id(), OutboxMapper.State.SENT, OutboxMapper.State.DONE);
        } catch (IOException e) {
            LOG.warn("The copy of {} that was sent cannot be removed now: {}", row.name(), e.toString());
        }
    }

    private void send(Group group) {
        Instant now = clock.instant();
        try (Store store = Stores.open(places, group.root(), group.folder())) {
            int after = 0;
            for (List<OutboxRow> rows = due(group, now, after); !rows.isEmpty(); rows = due(group, now, after)) {
                for (OutboxRow row : rows) {
                    send(row, store);
                    after = row.number();
                }
            }
        } catch (StoreException e) {
            int tries = mapper.tries(group.root(), group.folder());
            mapper.putOffAll(group.root(), group.folder(), e.code(), e.getMessage(), nextAt(e, tries), now);
            tellFirst(group.runId(), tries, e);
        }
        int sent = mapper.count(group.runId(), group.leg(), OutboxMapper.State.SENT);
        if (sent > 0 && mapper.unsent(group.runId(), group.leg()) == 0) {
            String folder = group.root() + (group.folder().isEmpty() ? "" : "/" + group.folder());
            events.publishEvent(new FilesTold(group.runId(), "sent", "All files have been sent to " + folder));
        }
    }

    private List<OutboxRow> due(Group group, Instant now, int after) {
        return mapper.dueOf(group.runId(), group.leg(), now, after);
    }

    /** Sends one file; what only it suffers from keeps none of the others waiting. */
    private void send(OutboxRow row, Store store) throws StoreException {
        int attempt = row.attempt() + 1;
        String hidden = ".ninepin-" + row.runId() + "-" + row.leg() + "-" + row.number() + "-" + attempt + ".part";
        if (!outbox.isFree(row) || mapper.claim(row.id(), row.attempt(), node.owner(), clock.instant()) == 0) {
            return;
        }
        try {
            Sending.send(row.outgoing(hidden), store, new Sending.Ledger() {
                @Override
                public boolean uploading() {
                    return mapper.uploading(row.id(), attempt, hidden) > 0;
                }

                @Override
                public boolean uploaded() {
                    return mapper.uploaded(row.id(), attempt) > 0;
                }

                @Override
                public void sent() {
                    mapper.sent(row.id(), clock.instant());
                }
            });
        } catch (StoreException e) {
            mapper.putOff(row.id(), e.code(), e.getMessage(), nextAt(e, row.tries()));
            tellFirst(row.runId(), row.tries(), e);
            if (e.kind() == StoreException.Kind.AWAY) {
                throw e;
            }
        }
    }

    private void tellFirst(long run, int tries, StoreException e) {
        if (tries == 0) {
            events.publishEvent(new FilesTold(run, "not sent", e.getMessage()));
        }
    }

    /** When it is tried again after so many tries in vain; null where only a person can help. */
    private Instant nextAt(StoreException e, int tries) {
        if (e.kind() == StoreException.Kind.REFUSED) {
            return null;
        }
        Duration wait = firstWait.multipliedBy(1L << Math.min(tries, 10));
        return clock.instant().plus(wait.compareTo(LONGEST_WAIT) < 0 ? wait : LONGEST_WAIT);
    }
}
