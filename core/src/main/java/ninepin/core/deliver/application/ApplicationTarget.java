package ninepin.core.deliver.application;

import java.io.Closeable;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.BooleanSupplier;
import ninepin.core.deliver.ApplicationAddress;
import ninepin.core.deliver.ApplicationDelivery;
import ninepin.core.deliver.Batch;
import ninepin.core.deliver.KeptLines;
import ninepin.core.deliver.LoadConnection;
import ninepin.core.deliver.Loaded;
import ninepin.core.deliver.Mark;
import ninepin.core.deliver.MarkFile;
import ninepin.core.deliver.ProcessLock;
import ninepin.core.deliver.Refusal;
import ninepin.core.deliver.RowCounts;
import ninepin.core.deliver.TakeUp;
import ninepin.core.deliver.Target;
import ninepin.core.deliver.TargetException;
import ninepin.core.deliver.TargetException.Kind;
import ninepin.core.deliver.application.Operation.Input;

/**
 * One operation of an application as the target of a run. Each document is a request with a key that is the same whenever
 * it is sent: what was sent after the last mark before a crash is sent again, and the application takes it once. The mark
 * and what was answered stand in files of the run.
 */
public final class ApplicationTarget implements Target {

    /**
     * Rows of one delivery.
     *
     * @param delivery the operation, and the list of its body where rows stand in one
     * @param columns what rules know the values by, in the order of the rows' fields
     */
    public record Load(ApplicationDelivery delivery, List<String> columns) {
        public Load {
            columns = List.copyOf(columns);
        }
    }

    private final ApplicationAddress address;
    private final List<Load> loads;
    private final String runKey;
    private final Path files;
    private final MarkFile marks;
    private final RetryPolicy retries;
    private final BooleanSupplier stop;

    private Operation operation;
    private List<List<Input>> inputs;
    private MarkFile.Kept kept;
    private ProcessLock lock;
    private KeptLines<Answers.Kept> answers;
    /** What was sent together since the last commit; null where each document goes alone. */
    private SentTogether sent;

    private volatile String waitsFor;

    /**
     * @param loads the deliveries, all of them to one operation; rows go to them in this order
     * @param runKey what the run is known by to the application, at most 64 ASCII characters
     * @param files where the mark and the answers are kept: a path whose name gets an ending for each
     * @param stop whether a person has asked to stop
     */
    public ApplicationTarget(
            ApplicationAddress address,
            List<Load> loads,
            String runKey,
            Path files,
            RetryPolicy retries,
            BooleanSupplier stop) {
        this.address = address;
        this.loads = List.copyOf(loads);
        this.runKey = runKey;
        this.files = files;
        this.marks = MarkFile.of(files);
        this.retries = retries;
        this.stop = stop;
    }

    /** Where a run keeps what was answered. */
    public static Path answers(Path files) {
        return files.resolveSibling(files.getFileName() + ".answers");
    }

    @Override
    public Optional<Mark> look() throws TargetException {
        try {
            return marks.read().map(MarkFile.Kept::mark);
        } catch (IOException e) {
            throw trouble(e);
        }
    }

    @Override
    public Optional<Mark> takeUp(TakeUp as) throws TargetException {
        describe();
        try {
            lock = ProcessLock.beside(files, as, address.name()).orElse(null);
            kept = marks.takeUp(as);
            answers = new KeptLines<>(answers(files), kept.length());
            if (inOneRequest() > 1) {
                sent = SentTogether.open(files);
            }
            return Optional.of(kept.mark()).filter(m -> m.commits() > 0);
        } catch (IOException e) {
            throw trouble(e);
        }
    }

    /**
     * Whether a run may have sent something to an application, committed or not.
     *
     * @param files where the run keeps its mark
     */
    public static boolean mayHaveSent(Path files) {
        return Files.exists(begun(files));
    }

    private static Path begun(Path files) {
        return files.resolveSibling(files.getFileName() + ".begun");
    }

    /** Reads what the operation takes. */
    void describe() throws TargetException {
        ApplicationDelivery to = loads.get(0).delivery();
        operation = OpenApi.read(address.description())
                .operation(to.method(), to.path())
                .orElseThrow(() -> new TargetException(
                        Kind.UNUSABLE,
                        "APP-04",
                        address.name() + " does not describe " + to.method() + " " + to.path() + ".",
                        null));
        inputs = new ArrayList<>();
        for (Load load : loads) {
            inputs.add(inputs(load));
        }
    }

    /** How many documents go in one request. */
    private int inOneRequest() {
        Integer asked = loads.stream()
                .map(l -> l.delivery().batch())
                .filter(b -> b != null)
                .findFirst()
                .orElse(null);
        return !operation.many() || asked == null ? 1 : asked;
    }

    /** Where the values of a delivery's rows stand in a request. */
    List<Input> inputs(int load) {
        return inputs.get(load);
    }

    private List<Input> inputs(Load load) throws TargetException {
        List<Input> all = new ArrayList<>();
        for (String column : load.columns()) {
            all.add(operation
                    .input(load.delivery().part(), column)
                    .orElseThrow(() -> new TargetException(
                            Kind.UNUSABLE,
                            "APP-04",
                            load.delivery().label() + " of " + address.name() + " takes no " + column + ".",
                            null)));
        }
        return all;
    }

    @Override
    public String waitsFor() {
        return waitsFor;
    }

    @Override
    public int maxConnections() {
        return 1;
    }

    @Override
    public LoadConnection connect() throws TargetException {
        return new ApplicationConnection(new Caller(address, retries, stop, why -> waitsFor = why), kept.again());
    }

    @Override
    public void close() {
        for (Closeable open : Arrays.asList(answers, sent, lock)) {
            try {
                if (open != null) {
                    open.close();
                }
            } catch (IOException e) {
                // What belongs to the mark was forced to disk before it.
            }
        }
    }

    /** Adds the rows of a document to what was taken. */
    static void count(Batch batch, int document, RowCounts[] taken) {
        for (int t = 0; t < taken.length; t++) {
            taken[t] = taken[t].plus(RowCounts.added(batch.end(t, document) - batch.start(t, document)));
        }
    }

    private static TargetException trouble(IOException e) {
        return new TargetException(
                Kind.AWAY, "APP-06", "The mark of the delivery cannot be kept: " + e.getMessage(), e);
    }

    /** Sends documents one after another. */
    private final class ApplicationConnection implements LoadConnection {
        private final Caller caller;
        private final long againBefore;
        private boolean begun;

        ApplicationConnection(Caller caller, long againBefore) {
            this.caller = caller;
            this.againBefore = againBefore;
        }

        @Override
        public Loaded load(Batch batch) throws TargetException {
            RowCounts[] taken = Loaded.counts(loads.size());
            List<Refusal> refused = new ArrayList<>();
            for (List<Integer> together : cut(batch)) {
                send(batch, together, taken, refused);
            }
            return Loaded.of(taken, refused);
        }

        /** The documents that go together: as many as fit in one request, or those that went together before a crash. */
        private List<List<Integer>> cut(Batch batch) throws TargetException {
            List<Integer> documents = new ArrayList<>();
            for (int d = 0; d < batch.documents(); d++) {
                if (rows(batch, d) > 0) {
                    documents.add(d);
                }
            }
            List<List<Integer>> all = new ArrayList<>();
            for (int at = 0;
                    at < documents.size();
                    at += all.get(all.size() - 1).size()) {
                all.add(documents.subList(at, at + together(batch, documents, at)));
            }
            return all;
        }

        private int together(Batch batch, List<Integer> documents, int at) throws TargetException {
            if (sent == null) {
                return 1;
            }
            List<Long> numbers = documents.subList(at, documents.size()).stream()
                    .map(d -> batch.number(d))
                    .toList();
            int together = sent.together(numbers, inOneRequest());
            if (together > 0) {
                return together;
            }
            if (stop.getAsBoolean()) {
                throw new TargetException(Kind.STOPPED, "APP-05", "Stopped before a request was complete.", null);
            }
            throw new TargetException(
                    Kind.UNUSABLE,
                    "APP-07",
                    "Documents that were sent to " + address.name()
                            + " in one request before the run broke off do not come together any more, so it cannot be"
                            + " told which of them were taken. Restart with the version of the job that sent them.",
                    null);
        }

        /** Sends documents in one request; where it is refused, its halves, down to those that are to blame. */
        private void send(Batch batch, List<Integer> documents, RowCounts[] taken, List<Refusal> refused)
                throws TargetException {
            if (documents.isEmpty()) {
                return;
            }
            begin(batch, documents);
            Refusal refusal = send(batch, documents);
            if (refusal == null) {
                for (int d : documents) {
                    count(batch, d, taken);
                }
            } else if (documents.size() == 1) {
                refused.add(refusal);
            } else {
                int middle = documents.size() / 2;
                send(batch, documents.subList(0, middle), taken, refused);
                send(batch, documents.subList(middle, documents.size()), taken, refused);
            }
        }

        /** Writes down what is about to be sent, so that a restart sends the same again. */
        private void begin(Batch batch, List<Integer> documents) throws TargetException {
            try {
                if (!begun) {
                    Files.writeString(begun(files), "", StandardOpenOption.CREATE);
                    begun = true;
                }
                if (sent != null) {
                    sent.note(documents.stream().map(d -> batch.number(d)).toList());
                }
            } catch (IOException e) {
                throw trouble(e);
            }
        }

        private long rows(Batch batch, int document) {
            long rows = 0;
            for (int t = 0; t < batch.tables(); t++) {
                rows += batch.end(t, document) - batch.start(t, document);
            }
            return rows;
        }

        private Body body(Batch batch, int document) {
            Body body = new Body(operation);
            for (int t = 0; t < loads.size(); t++) {
                String part = loads.get(t).delivery().part();
                for (int row = batch.start(t, document); row < batch.end(t, document); row++) {
                    List<String> values = batch.rows(t).row(row);
                    if (part == null) {
                        body.take(inputs.get(t), values);
                    } else {
                        body.takeIn(part, inputs.get(t), values);
                    }
                }
            }
            return body;
        }

        /** Null where it was taken. */
        private Refusal send(Batch batch, List<Integer> documents) throws TargetException {
            List<Body> bodies = documents.stream().map(d -> body(batch, d)).toList();
            String key = runKey + "-" + batch.number(documents.get(0))
                    + (documents.size() == 1 ? "" : "x" + documents.size());
            Answer answer = caller.send(operation, bodies, key);
            if (answer.taken()) {
                for (int i = 0; i < documents.size(); i++) {
                    Map<String, String> values =
                            answer.values(loads.get(0).delivery().keep(), i);
                    if (!values.isEmpty()) {
                        answers.add(new Answers.Kept(batch.number(documents.get(i)), values));
                    }
                }
                return null;
            }
            if (answer.refusesDocument()) {
                return new Complaints(address.name(), loads, inputs).refusal(answer, batch, documents.get(0));
            }
            throw new TargetException(
                    Kind.UNUSABLE,
                    answer.status() == 401 || answer.status() == 403 ? "APP-03" : "APP-04",
                    address.name() + " answers " + answer.status() + " to " + operation.method() + " "
                            + operation.path() + ": "
                            + answer.complaints().get(0).words()
                            + " Mend the connection or the delivery, and restart to go on.",
                    null);
        }

        @Override
        public void commit(Mark mark) throws TargetException {
            try {
                kept = marks.write(mark, answers.force(), againBefore + caller.again());
                if (sent != null) {
                    sent.forget();
                }
            } catch (IOException e) {
                throw trouble(e);
            }
        }

        /** What was sent cannot be taken back; sent again, it is taken once. */
        @Override
        public void rollback() {
            answers.forget();
        }

        @Override
        public void close() {
            // The target's files are closed with it.
        }
    }
}
