package ninepin.standins.accounts;

import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;

/** Says whether a voucher may be booked, by the rules of the house. */
final class Bookkeeper {

    static final int FARMS = 214;
    private static final BigDecimal MOST = new BigDecimal("100000");

    private Bookkeeper() {}

    static void check(Voucher voucher) throws Refused {
        List<Refused.Wrong> wrong = new ArrayList<>();
        if (blank(voucher.number())) {
            wrong.add(new Refused.Wrong("number", "A voucher has a number."));
        }
        if (voucher.bookedOn() == null) {
            wrong.add(new Refused.Wrong("bookedOn", "A voucher has a day."));
        }
        if (voucher.farm() == null || voucher.farm() < 1 || voucher.farm() > FARMS) {
            wrong.add(new Refused.Wrong(
                    "farm",
                    voucher.farm() == null ? "A farm is wanted." : "Farm " + voucher.farm() + " has no account."));
        }
        if (voucher.lines() == null || voucher.lines().isEmpty()) {
            wrong.add(new Refused.Wrong("lines", "A voucher has at least one line."));
        } else {
            for (int i = 0; i < voucher.lines().size(); i++) {
                check(voucher.lines().get(i), "lines[" + i + "].", wrong);
            }
        }
        if (!wrong.isEmpty()) {
            throw new Refused(422, "The voucher cannot be booked.", wrong);
        }
    }

    private static void check(Voucher.Line line, String at, List<Refused.Wrong> wrong) {
        if (blank(line.article())) {
            wrong.add(new Refused.Wrong(at + "article", "A line has an article."));
        }
        if (line.debit() != null && line.debit().compareTo(MOST) > 0) {
            wrong.add(new Refused.Wrong(at + "debit", "More than " + MOST + " is not booked in one line."));
        }
    }

    private static boolean blank(String text) {
        return text == null || text.isBlank();
    }
}
