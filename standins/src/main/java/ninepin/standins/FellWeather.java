package ninepin.standins;

import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.time.LocalDate;
import java.util.Locale;
import java.util.Random;

/** Writes the readings of the fell weather stations of a day: JSON, the stations in an array and the readings of each inside it. */
public final class FellWeather {

    private static final String[] NAMES = {"Tarn Head", "Crow Rigg", "Söll Edge", "Merefoot", "Kirk Pike"};
    private static final String[] VALLEYS = {"Larkfell", "Ousdale", "Merebeck"};
    private static final String[] WINDS = {"N", "NW", "W", "SW", "S", "SE", "E", "NE"};
    private static final int HOURS = 24;

    private final Random random;
    private final boolean mistakes;

    /**
     * @param mistakes whether the planted mistakes are in: a temperature that is a word, a reading without its time, a wind that is no object, a station whose height is a text
     */
    public FellWeather(long seed, boolean mistakes) {
        this.random = new Random(seed);
        this.mistakes = mistakes;
    }

    /**
     * Writes the readings of a day; the stream is not closed.
     *
     * @param stations how many stations
     */
    public void write(LocalDate day, int stations, OutputStream out) throws IOException {
        Writer w = new BufferedWriter(new OutputStreamWriter(out, StandardCharsets.UTF_8), 1 << 16);
        w.write("{\"network\":\"Fell weather stations\",\"day\":\"" + day + "\",\"stations\":[");
        for (int s = 1; s <= stations; s++) {
            station(w, day, s);
            w.write(s == stations ? "\n" : ",");
        }
        w.write("]}\n");
        w.flush();
    }

    private void station(Writer w, LocalDate day, int s) throws IOException {
        String metres = mistakes && s == 4 ? "\"high\"" : String.valueOf(180 + s * 61);
        w.write(String.format(
                Locale.ROOT,
                "%n {\"id\":\"FS%02d\",\"name\":\"%s\",\"place\":{\"valley\":\"%s\",\"metres\":%s},\"battery\":%s,%n  \"readings\":[",
                s,
                NAMES[(s - 1) % NAMES.length] + (s > NAMES.length ? " " + s : ""),
                VALLEYS[s % VALLEYS.length],
                metres,
                s % 3 == 0 ? "null" : String.valueOf(60 + s)));
        for (int hour = 0; hour < HOURS; hour++) {
            String at = mistakes && s == 1 && hour == 5 ? "" : String.format("\"at\":\"%sT%02d:00\",", day, hour);
            String degrees = mistakes && s == 3 && hour == 7
                    ? "\"ice\""
                    : String.format(
                            Locale.ROOT,
                            "%.1f",
                            2 + 6 * Math.sin((hour - 8) / 24.0 * 2 * Math.PI) + random.nextInt(20) / 10.0);
            String wind = mistakes && s == 5 && hour == 3
                    ? "\"calm\""
                    : String.format(
                            Locale.ROOT,
                            "{\"speed\":%.1f,\"from\":\"%s\"}",
                            random.nextInt(300) / 10.0,
                            WINDS[random.nextInt(8)]);
            w.write(String.format(
                    Locale.ROOT,
                    "%s%n   {%s\"degrees\":%s,\"wind\":%s,\"rain\":%.1f}",
                    hour == 0 ? "" : ",",
                    at,
                    degrees,
                    wind,
                    random.nextInt(4) == 0 ? random.nextInt(50) / 10.0 : 0.0));
        }
        w.write("]}");
    }
}
