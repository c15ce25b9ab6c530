package ninepin.standins;

import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.format.DateTimeFormatter;
import java.util.Random;

/**
 * Writes what a tanker's on-board computer sends: fixed-length, 80 columns, ISO-8859-1, a header, rounds with their
 * collections, and a trailer with their number and litres. The same seed gives the same file, at any size.
 */
public final class TankerCollections {

    private static final DateTimeFormatter DAY = DateTimeFormatter.ofPattern("yyyyMMdd");
    private static final String[] DRIVERS = {"Marit Holm", "Jonas Fell", "Edda Brück", "Tom Ashby", "Rosa Lind"};
    private static final String[] REMARKS = {"", "", "", "", "", "Tank agitator off", "Gate locked, waited", "Hof Süd"};

    /** What is wrong with a file. */
    public enum Mistake {
        NONE,
        /** The trailer's litres do not add up. */
        TRAILER,
        /** A farm that is none of the co-operative's. */
        FARM,
        /** A letter O in the litres. */
        LETTER,
        /** A line that ends early. */
        SHORT
    }

    private final Random random;
    private final Mistake mistake;

    public TankerCollections(long seed, Mistake mistake) {
        this.random = new Random(seed);
        this.mistake = mistake;
    }

    /**
     * Writes a file.
     *
     * @param route the number of the route, 1 to 18
     * @param day the day of the rounds
     * @param firstRound the number of the first round
     * @param rounds how many rounds there are
     * @param stops how many collections each round has
     * @param out where the bytes go; not closed
     */
    public void write(int route, LocalDate day, int firstRound, int rounds, int stops, OutputStream out)
            throws IOException {
        Writer w = new BufferedWriter(new OutputStreamWriter(out, StandardCharsets.ISO_8859_1), 1 << 16);
        line(w, "H" + DAY.format(day) + String.format("R%02d", route) + "OBC 4.2");
        long litres = 0;
        long count = 0;
        for (int r = 0; r < rounds; r++) {
            LocalTime time = LocalTime.of(4, 10).plusMinutes(route);
            line(
                    w,
                    String.format(
                            "R%06dLK-%04d %-20s%s%02d%02d",
                            firstRound + r,
                            1000 + route * 7,
                            DRIVERS[(route + r) % DRIVERS.length],
                            DAY.format(day),
                            time.getHour(),
                            time.getMinute()));
            for (int s = 1; s <= stops; s++) {
                time = time.plusMinutes(6 + random.nextInt(14));
                int amount = 380 + random.nextInt(2900);
                int farm = 1 + (route * 12 + s * 5 + r) % 214;
                int temperature = random.nextInt(40) == 0 ? 64 + random.nextInt(9) : 22 + random.nextInt(32);
                String record = String.format(
                        "C%03d%05d%02d%02d%06d%03d%s%-12s%s",
                        s,
                        farm,
                        time.getHour(),
                        time.getMinute(),
                        amount,
                        temperature,
                        random.nextInt(60) == 0 ? "-" : "+",
                        DAY.format(day).substring(2) + "-" + String.format("%05d", (r * stops + s) % 100_000),
                        REMARKS[random.nextInt(REMARKS.length)]);
                if (r == rounds / 2 && s == (stops + 1) / 2) {
                    record = spoil(record);
                }
                litres += amount;
                count++;
                if (mistake == Mistake.SHORT && r == rounds / 2 && s == (stops + 1) / 2) {
                    w.write(record.substring(0, 17) + "\r\n");
                } else {
                    line(w, record);
                }
            }
        }
        line(w, String.format("T%06d%09d", count, mistake == Mistake.TRAILER ? litres + 1000 : litres));
        w.flush();
    }

    private String spoil(String record) {
        switch (mistake) {
            case FARM:
                return record.substring(0, 4) + "00731" + record.substring(9);
            case LETTER:
                return record.substring(0, 16) + "O" + record.substring(17);
            default:
                return record;
        }
    }

    private static void line(Writer w, String text) throws IOException {
        w.write(String.format("%-80s", text));
        w.write("\r\n");
    }
}
