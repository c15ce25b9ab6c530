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

/**
 * Files of the farm store: supplies on account, tab-delimited, one line for each item with voucher number, day and farm
 * repeated, the amount booked to the farm's account as a last line with a minus sign, and blank lines at the end. The
 * same seed gives the same file.
 */
public final class SupplyVouchers {

    private record Article(String code, String text, int cents) {}

    private static final Article[] ARTICLES = {
        new Article("MIN20", "Mineral mix 20 kg", 3190),
        new Article("TWINE", "Baler twine", 1240),
        new Article("SALT10", "Salt lick 10 kg", 890),
        new Article("TEATD", "Teat dip 5 l", 4175),
        new Article("GLOVE", "Milking gloves, box", 1150),
        new Article("FILTR", "Milk filters, 100", 1695),
        new Article("CALFM", "Calf milk powder 25 kg", 5930)
    };

    private final Random random;
    private final boolean mistakes;

    /**
     * @param mistakes whether to plant an unknown farm, a voucher that does not balance, an article that nobody knows
     *     and one booked at nothing
     */
    public SupplyVouchers(long seed, boolean mistakes) {
        this.random = new Random(seed);
        this.mistakes = mistakes;
    }

    /**
     * Writes a file.
     *
     * @param day the day of the vouchers
     * @param first the number of the first voucher
     * @param vouchers how many there are
     * @param out where the bytes go; not closed
     */
    public void write(LocalDate day, long first, int vouchers, OutputStream out) throws IOException {
        Writer w = new BufferedWriter(new OutputStreamWriter(out, StandardCharsets.UTF_8), 1 << 16);
        w.write("Voucher\tDay\tFarm\tArticle\tText\tQuantity\tAmount\r\n");
        for (int v = 0; v < vouchers; v++) {
            voucher(w, day, first + v, v, vouchers);
        }
        w.write("\t\t\t\t\t\t\r\n\r\n");
        w.flush();
    }

    private void voucher(Writer w, LocalDate day, long number, int v, int all) throws IOException {
        int farm = mistakes && v == all / 5 ? 931 : 1 + random.nextInt(214);
        String head = "V" + String.format("%06d", number) + "\t" + day + "\t" + farm + "\t";
        int items = 1 + random.nextInt(4);
        long total = 0;
        for (int i = 0; i < items; i++) {
            Article article = ARTICLES[random.nextInt(ARTICLES.length)];
            int quantity = 1 + random.nextInt(6);
            long cents = (long) quantity * article.cents();
            boolean unknown = mistakes && v == all / 3 && i == 0;
            w.write(head + (unknown ? "SILAG" : article.code()) + "\t" + (unknown ? "Silage film" : article.text())
                    + "\t" + quantity + "\t" + amount(cents) + "\r\n");
            total += cents;
        }
        if (mistakes && v == all / 4) {
            w.write(head + "GLOVE\tMilking gloves, sample\t1\t0.00\r\n");
        }
        boolean unbalanced = mistakes && v == all / 2;
        w.write(head + "ACCT\tOn account\t1\t" + amount(-total + (unbalanced ? 100 : 0)) + "\r\n");
    }

    private static String amount(long cents) {
        return String.format(
                Locale.ROOT, "%s%d.%02d", cents < 0 ? "-" : "", Math.abs(cents) / 100, Math.abs(cents) % 100);
    }
}
