package ninepin.standins;

import java.io.BufferedOutputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.format.DateTimeFormatter;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;

/** The milk laboratory: drops files of quality results into its outbox, at once or every few minutes. */
public final class Laboratory implements AutoCloseable {

    private static final int PIECES = 6;
    private static final int SECONDS_BETWEEN = 4;

    private final Path outbox;
    private ScheduledExecutorService feeder;

    public Laboratory(Path outbox) {
        this.outbox = outbox;
    }

    /**
     * Writes a file into the outbox under its own name, byte after byte as a laboratory's machine would.
     *
     * @param name the name of the file
     * @param day the day of the samples
     * @param seed decides the values
     * @param lines the number of results
     * @param mistakes whether the planted mistakes are in
     */
    public Path drop(String name, LocalDate day, long seed, long lines, boolean mistakes) throws IOException {
        Files.createDirectories(outbox);
        Path file = outbox.resolve(name);
        try (OutputStream out = new BufferedOutputStream(Files.newOutputStream(file))) {
            new QualityResults(seed, mistakes).write(day, lines, out);
        }
        return file;
    }

    /** Writes a file in pieces with pauses between them: one that must not be picked up before its last piece. */
    private void dropSlowly(String name, LocalDate day, long seed, long lines)
            throws IOException, InterruptedException {
        ByteArrayOutputStream whole = new ByteArrayOutputStream();
        new QualityResults(seed, true).write(day, lines, whole);
        byte[] bytes = whole.toByteArray();
        Files.createDirectories(outbox);
        try (OutputStream out = Files.newOutputStream(outbox.resolve(name))) {
            for (int piece = 0; piece < PIECES; piece++) {
                if (piece > 0) {
                    TimeUnit.SECONDS.sleep(SECONDS_BETWEEN);
                }
                int from = bytes.length / PIECES * piece;
                int to = piece == PIECES - 1 ? bytes.length : from + bytes.length / PIECES;
                out.write(bytes, from, to - from);
            }
        }
    }

    /** Starts to drop a small file every few minutes until this is closed. */
    public void feed(long firstSeconds, long everySeconds) {
        feeder = Executors.newSingleThreadScheduledExecutor(r -> {
            Thread thread = new Thread(r, "laboratory");
            thread.setDaemon(true);
            return thread;
        });
        feeder.scheduleAtFixedRate(this::dropNext, firstSeconds, everySeconds, TimeUnit.SECONDS);
    }

    private void dropNext() {
        try {
            LocalDate today = LocalDate.now();
            String time = LocalTime.now().format(DateTimeFormatter.ofPattern("HHmmss"));
            dropSlowly("quality_" + today + "_" + time + ".csv", today, System.nanoTime(), 180);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        } catch (IOException | RuntimeException e) {
            System.err.println("The laboratory could not write its file: " + e.getMessage());
        }
    }

    @Override
    public void close() {
        if (feeder != null) {
            feeder.shutdownNow();
        }
    }

    /**
     * Writes one file: {@code FILE LINES [SEED] [--clean]}. The generator of demo, tests and measurements, at any size.
     */
    public static void main(String[] args) throws IOException {
        if (args.length < 2) {
            System.err.println("use: FILE LINES [SEED] [--clean]");
            System.exit(64);
        }
        long seed = args.length > 2 && !args[2].startsWith("--") ? Long.parseLong(args[2]) : 1;
        boolean clean = args[args.length - 1].equals("--clean");
        try (OutputStream out = new BufferedOutputStream(Files.newOutputStream(Path.of(args[0])))) {
            new QualityResults(seed, !clean).write(LocalDate.of(2026, 11, 3), Long.parseLong(args[1]), out);
        }
    }
}
