package ninepin.standins;

import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.time.YearMonth;
import java.util.Random;

/**
 * Writes the regional registry's farms: XML in UTF-8 with two namespaces, attributes, and the herds of a farm inside it.
 * The same seed gives the same file, at any size.
 */
public final class FarmRegister {

    private static final String[] FIRST = {"Birk", "Ash", "Crow", "Mill", "Heather", "Stone", "Otter", "Fern", "Wether"
    };
    private static final String[] LAST = {"garth", "thwaite", " End", "holm", "rigg", " Bank", "side", "beck"};
    private static final String[] VALLEYS = {"Larkfell", "Ousdale", "Merebeck"};
    private static final String[] VILLAGES = {"Upper Tarn", "Nether Tarn", "Söllbridge", "Kirk Ous", "Merefoot"};
    private static final String[] BREEDS = {"Fellrind", "Black Dale", "Mere Shorthorn"};

    private final Random random;
    private final boolean mistakes;

    /**
     * @param mistakes whether the planted mistakes are in: a farm without its name, an unknown valley, a herd without its
     *     number of cows
     */
    public FarmRegister(long seed, boolean mistakes) {
        this.random = new Random(seed);
        this.mistakes = mistakes;
    }

    /** Writes a file of so many farms; the stream is not closed. How many farms and herds it wrote. */
    public long write(YearMonth month, int farms, OutputStream out) throws IOException {
        Writer w = new BufferedWriter(new OutputStreamWriter(out, StandardCharsets.UTF_8), 1 << 16);
        w.write("<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n");
        w.write("<r:register xmlns:r=\"urn:larkfell:register\" xmlns:h=\"urn:larkfell:herd\" month=\"" + month
                + "\">\n");
        long records = farms;
        for (int n = 1; n <= farms; n++) {
            records += farm(w, n);
        }
        w.write("</r:register>\n");
        w.flush();
        return records;
    }

    /** Writes a farm; how many herds it has. */
    private int farm(Writer w, int n) throws IOException {
        boolean nameless = mistakes && n % 97 == 41;
        String valley = mistakes && n % 131 == 88 ? "Larkfel" : VALLEYS[n % 3];
        w.write("  <r:farm number=\"" + n + "\" since=\"" + (1961 + n % 60) + "-0" + (1 + n % 9) + "-01\">\n");
        if (!nameless) {
            String name = FIRST[n % FIRST.length] + LAST[n / FIRST.length % LAST.length] + (n > 72 ? " " + n : "");
            w.write("    <r:name>" + (n % 50 == 7 ? name + " &amp; Sons" : name) + "</r:name>\n");
        }
        w.write("    <r:place valley=\"" + valley + "\"><r:village>" + VILLAGES[n % VILLAGES.length]
                + "</r:village></r:place>\n");
        w.write("    <r:organic>" + (n % 5 == 0) + "</r:organic>\n");
        int herds = 1 + random.nextInt(2);
        for (int h = 0; h < herds; h++) {
            w.write("    <h:herd breed=\"" + BREEDS[(n + h) % BREEDS.length] + "\">");
            if (!(mistakes && n % 113 == 60)) {
                w.write("<h:cows>" + (12 + random.nextInt(160)) + "</h:cows>");
            }
            w.write("<h:yield>" + (5200 + random.nextInt(4000)) + "." + random.nextInt(10) + "</h:yield></h:herd>\n");
        }
        w.write("  </r:farm>\n");
        return herds;
    }
}
