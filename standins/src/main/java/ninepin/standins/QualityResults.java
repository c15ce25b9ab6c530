package ninepin.standins;

import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.io.Writer;
import java.nio.charset.Charset;
import java.time.LocalDate;
import java.time.format.DateTimeFormatter;
import java.util.Random;

/**
 * Writes the laboratory's file of quality results: semicolon-delimited, windows-1252, decimal comma, dates as
 * {@code dd.MM.yyyy}, a header row. The same seed gives the same file, at any size.
 */
public final class QualityResults {

    /** The columns, in order. */
    public static final String HEADER = "Sample;Farm;Route;Test;Value;Unit;Taken;Temperature;Remark";

    private static final Charset WINDOWS_1252 = Charset.forName("windows-1252");
    private static final DateTimeFormatter DAY = DateTimeFormatter.ofPattern("dd.MM.yyyy");
    private static final String[] TESTS = {"FAT", "PROT", "CELLS", "GERMS", "FREEZE"};
    private static final String[] UNITS = {"%", "%", "1000/ml", "1000/ml", "°C"};
    private static final String[] REMARKS = {
        "",
        "",
        "",
        "",
        "",
        "",
        "",
        "Lid loose",
        "Second bottle used",
        "\"Kühlung \"\"Tank 2\"\" geprüft\"",
        "\"Driver says:\r\ntank was stirred late\"",
        "Seal broken; re-sealed on site".replace(';', ','),
    };

    private final Random random;
    private final boolean mistakes;

    /**
     * @param seed decides every value
     * @param mistakes whether the planted mistakes are in: a letter O in a number, a date in the wrong order, an unknown
     *     farm, a sample reported twice, a value missing, a line cut short, warm milk, blank rows at the end
     */
    public QualityResults(long seed, boolean mistakes) {
        this.random = new Random(seed);
        this.mistakes = mistakes;
    }

    /**
     * Writes a file.
     *
     * @param day the day the samples were taken
     * @param lines the number of results
     * @param out where the bytes go; not closed
     */
    public void write(LocalDate day, long lines, OutputStream out) throws IOException {
        Writer w = new BufferedWriter(new OutputStreamWriter(out, WINDOWS_1252), 1 << 16);
        w.write(HEADER);
        w.write("\r\n");
        String last = null;
        for (long n = 0; n < lines; n++) {
            String line = line(day, n);
            if (mistakes) {
                line = spoil(line, n, lines, day, last);
            }
            w.write(line);
            w.write("\r\n");
            last = line;
        }
        if (mistakes) {
            w.write(";;;;;;;;\r\n\r\n");
        }
        w.flush();
    }

    private String line(LocalDate day, long n) {
        int test = (int) (n % TESTS.length);
        long sample = n / TESTS.length + 1;
        int farm = 1 + (int) (sample * 37 % 214);
        String sampleNo = String.format(
                "%02d%02d%02d-%05d", day.getYear() % 100, day.getMonthValue(), day.getDayOfMonth(), sample);
        String temperature = comma(20 + random.nextInt(36), 1);
        return sampleNo + ";" + farm + ";R" + String.format("%02d", 1 + farm % 18) + ";" + TESTS[test] + ";"
                + value(test) + ";" + UNITS[test] + ";" + DAY.format(day) + ";" + temperature + ";"
                + REMARKS[random.nextInt(REMARKS.length)];
    }

    private String value(int test) {
        switch (test) {
            case 0:
                return comma(360 + random.nextInt(110), 2);
            case 1:
                return comma(310 + random.nextInt(70), 2);
            case 2:
                return String.valueOf(60 + random.nextInt(320));
            case 3:
                return String.valueOf(5 + random.nextInt(60));
            default:
                return "-" + comma(515 + random.nextInt(15), 3);
        }
    }

    private static String comma(int unscaled, int scale) {
        int power = (int) Math.pow(10, scale);
        return unscaled / power + "," + String.format("%0" + scale + "d", unscaled % power);
    }

    /** Plants one mistake on some lines: about one line in sixty. */
    private String spoil(String line, long n, long lines, LocalDate day, String last) {
        String[] f = line.split(";", 9);
        switch ((int) ((n + day.getDayOfMonth() * 7L) % 420)) {
            case 31:
                f[4] = "12O0";
                break;
            case 90:
                f[6] = String.format(
                        "%02d.%02d.%d", day.getMonthValue(), Math.max(13, day.getDayOfMonth()), day.getYear());
                break;
            case 150:
                f[1] = "999";
                break;
            case 201:
                return last == null ? line : last;
            case 260:
                f[4] = "";
                break;
            case 311:
                return String.join(";", f[0], f[1], f[2], f[3]);
            case 350, 351:
                f[7] = "7,4";
                break;
            case 400:
                f[3] = f[3].toLowerCase();
                break;
            default:
                return line;
        }
        return String.join(";", f);
    }
}
