package ninepin.doors.store;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.OptionalLong;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A file is sent exactly once wherever sending it breaks off, to a receiver who takes it the moment it is there. */
class SendingTest {

    @TempDir
    Path folder;

    private Path file;

    @BeforeEach
    void write() throws IOException {
        file = Files.writeString(folder.resolve("prices.csv"), "a;1\nb;2\n");
    }

    /** The process ends here. */
    private static final class Break extends RuntimeException {
        private static final long serialVersionUID = 1L;
    }

    /** Breaks off once, at a step counted from 0; each action counts before and after it happens. */
    private static final class Breaks {
        private final List<Integer> at;
        private int steps;
        private int next;

        Breaks(List<Integer> at) {
            this.at = at;
        }

        void step() {
            if (next < at.size() && steps++ == at.get(next)) {
                next++;
                steps = 0;
                throw new Break();
            }
        }
    }

    /** A store in memory whose receiver takes every file that gets its name. */
    private static class Memory implements Store {
        final Map<String, String> hidden = new HashMap<>();
        final Map<String, String> there = new HashMap<>();
        final List<String> received = new ArrayList<>();
        private final Breaks breaks;

        Memory(Breaks breaks) {
            this.breaks = breaks;
        }

        @Override
        public void upload(Path from, String name) throws StoreException {
            breaks.step();
            assertThat(hidden).doesNotContainKey(name);
            hidden.put(name, "a;1");
            breaks.step();
            try {
                hidden.put(name, Files.readString(from));
            } catch (IOException e) {
                throw new IllegalStateException(e);
            }
            breaks.step();
        }

        @Override
        public OptionalLong size(String name) {
            breaks.step();
            String text = hidden.getOrDefault(name, there.get(name));
            return text == null ? OptionalLong.empty() : OptionalLong.of(text.length());
        }

        @Override
        public void publish(String from, String name, boolean replace) throws StoreException {
            breaks.step();
            if (!replace && there.containsKey(name)) {
                throw Sending.taken(name);
            }
            received.add(name + "=" + hidden.remove(from));
            breaks.step();
        }

        @Override
        public String fingerprint(String name) {
            throw new UnsupportedOperationException();
        }

        @Override
        public void remove(String name) {
            breaks.step();
            hidden.remove(name);
            there.remove(name);
            breaks.step();
        }

        @Override
        public void close() {
            // Nothing is open.
        }
    }

    /** What is on record, which outlives the process. */
    private static final class Record {
        private boolean uploaded;
        private boolean sent;
        private String hidden;
        private int attempt;
    }

    private boolean attempt(Record record, Store store, Breaks breaks) throws StoreException {
        String before = record.hidden;
        String hidden = "." + ++record.attempt;
        boolean uploaded = record.uploaded;
        return Sending.send(
                new Outgoing(file, "prices.csv", false, uploaded, before, hidden), store, new Sending.Ledger() {
                    @Override
                    public boolean uploading() {
                        breaks.step();
                        record.hidden = hidden;
                        breaks.step();
                        return true;
                    }

                    @Override
                    public boolean uploaded() {
                        breaks.step();
                        record.uploaded = true;
                        breaks.step();
                        return true;
                    }

                    @Override
                    public void sent() {
                        breaks.step();
                        record.sent = true;
                        breaks.step();
                    }
                });
    }

    /** Sends with as many new starts as there are breaks; the steps of an attempt that is not broken off. */
    private int send(List<Integer> at) throws StoreException {
        Breaks breaks = new Breaks(at);
        Memory store = new Memory(breaks);
        Record record = new Record();
        for (int start = 0; start <= at.size() && !record.sent; start++) {
            try {
                assertThat(attempt(record, store, breaks)).isTrue();
            } catch (Break e) {
                // The next start goes on.
            }
        }
        assertThat(store.received).as("broken off at %s", at).containsExactly("prices.csv=a;1\nb;2\n");
        assertThat(store.hidden).as("broken off at %s", at).isEmpty();
        assertThat(record.sent).isTrue();
        return breaks.steps;
    }

    @Test
    void it_is_there_once_wherever_sending_breaks_off_twice() throws StoreException {
        int sent = 0;
        for (int first = 0; first < 24; first++) {
            for (int second = 0; second < 24; second++) {
                send(List.of(first, second));
                sent++;
            }
        }
        assertThat(sent).isEqualTo(576);
    }

    @Test
    void a_name_that_is_taken_is_told_before_anything_is_uploaded() {
        Memory store = new Memory(new Breaks(List.of()));
        store.there.put("prices.csv", "of somebody else");
        StoreException e =
                catchThrowableOfType(StoreException.class, () -> attempt(new Record(), store, new Breaks(List.of())));
        assertThat(e.kind()).isEqualTo(StoreException.Kind.TAKEN);
        assertThat(e).hasMessageContaining("There is a file prices.csv already");
        assertThat(store.hidden).isEmpty();
        assertThat(store.received).isEmpty();
    }

    @Test
    void what_arrives_short_is_not_given_its_name() {
        Memory store = new Memory(new Breaks(List.of())) {
            @Override
            public void upload(Path from, String name) {
                hidden.put(name, "a;1");
            }
        };
        StoreException e =
                catchThrowableOfType(StoreException.class, () -> attempt(new Record(), store, new Breaks(List.of())));
        assertThat(e.kind()).isEqualTo(StoreException.Kind.AWAY);
        assertThat(e).hasMessage("Of 8 bytes 3 arrived.");
        assertThat(store.received).isEmpty();
    }

    /** One that fell asleep while it uploaded finds that another process has the file, and leaves nothing behind. */
    @Test
    void who_was_overtaken_gives_no_name() throws StoreException {
        Memory store = new Memory(new Breaks(List.of()));
        boolean mine =
                Sending.send(new Outgoing(file, "prices.csv", false, false, null, ".1"), store, new Sending.Ledger() {
                    @Override
                    public boolean uploading() {
                        return true;
                    }

                    @Override
                    public boolean uploaded() {
                        return false;
                    }

                    @Override
                    public void sent() {
                        throw new AssertionError("it is another's");
                    }
                });
        assertThat(mine).isFalse();
        assertThat(store.hidden).isEmpty();
        assertThat(store.received).isEmpty();
    }
}
