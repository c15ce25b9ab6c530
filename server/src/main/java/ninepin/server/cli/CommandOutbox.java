package ninepin.server.cli;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import ninepin.core.deliver.KeptLines;
import ninepin.core.deliver.Places;
import ninepin.core.deliver.TargetException;
import ninepin.core.deliver.file.WrittenFile;
import ninepin.core.destination.support.WritesFiles;
import ninepin.doors.Stores;
import ninepin.doors.store.Outgoing;
import ninepin.doors.store.Sending;
import ninepin.doors.store.Store;
import ninepin.doors.store.StoreException;

/**
 * Sends the files of a run that go to a root on another machine. How far each has come stands in a file beside the journal. Used
 * by one process at a time.
 */
final class CommandOutbox {

    /**
     * How far a file has come.
     *
     * @param hidden the name that it was uploaded under, or is being uploaded under
     */
    record Step(int number, String hidden, boolean uploaded, boolean sent) {}

    private final WritesFiles of;
    private final Places places;
    private final String key;
    private final Path mark;
    private final Path steps;

    /**
     * @param key what the run is known by at its place
     * @param mark where the run keeps its mark
     */
    CommandOutbox(WritesFiles of, Places places, String key, Path mark) {
        this.of = of;
        this.places = places;
        this.key = key;
        this.mark = mark;
        this.steps = mark.resolveSibling(mark.getFileName() + ".sent");
    }

    /** Whether files are still to be sent. */
    boolean hasUnsent() throws IOException {
        return !unsent(known()).isEmpty();
    }

    private List<WrittenFile> unsent(Map<Integer, Step> known) throws IOException {
        if (!places.isRemote(of.root())) {
            return List.of();
        }
        return of.written(mark).stream()
                .filter(WrittenFile::complete)
                .filter(f ->
                        !known.containsKey(f.number()) || !known.get(f.number()).sent())
                .toList();
    }

    private Map<Integer, Step> known() throws IOException {
        Map<Integer, Step> known = new HashMap<>();
        if (Files.exists(steps)) {
            KeptLines.read(steps, Step.class, 0, wholeLines()).forEach(s -> known.put(s.number(), s));
        }
        return known;
    }

    /** The bytes up to the end of the last whole line. */
    private long wholeLines() throws IOException {
        if (!Files.exists(steps)) {
            return 0;
        }
        byte[] all = Files.readAllBytes(steps);
        int end = all.length;
        while (end > 0 && all[end - 1] != '\n') {
            end--;
        }
        return end;
    }

    /** Sends what was not sent before. */
    void send() throws IOException, StoreException, TargetException {
        Map<Integer, Step> known = known();
        List<WrittenFile> files = unsent(known);
        if (files.isEmpty()) {
            return;
        }
        Path here = of.folder(places, mark);
        try (Store store = Stores.open(places, of.root(), of.folder());
                KeptLines<Step> lines = new KeptLines<>(steps, wholeLines())) {
            for (WrittenFile file : files) {
                send(file, known.get(file.number()), here.resolve(file.name()), store, lines);
            }
        }
    }

    private void send(WrittenFile file, Step before, Path here, Store store, KeptLines<Step> lines)
            throws IOException, StoreException {
        int number = file.number();
        String hidden = ".ninepin-" + key + "-" + number + "-" + Long.toHexString(System.nanoTime()) + ".part";
        boolean uploaded = before != null && before.uploaded();
        Outgoing outgoing = new Outgoing(
                here, file.name(), of.replaces(), uploaded, before == null ? null : before.hidden(), hidden);
        Sending.send(outgoing, store, new Sending.Ledger() {
            @Override
            public boolean uploading() {
                keep(lines, new Step(number, hidden, false, false));
                return true;
            }

            @Override
            public boolean uploaded() {
                keep(lines, new Step(number, hidden, true, false));
                return true;
            }

            @Override
            public void sent() {
                keep(lines, new Step(number, hidden, true, true));
            }
        });
        Files.deleteIfExists(here);
    }

    private static void keep(KeptLines<Step> lines, Step step) {
        try {
            lines.add(step);
            lines.force();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
