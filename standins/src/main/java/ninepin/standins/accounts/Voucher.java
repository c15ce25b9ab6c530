package ninepin.standins.accounts;

import java.math.BigDecimal;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;

/**
 * A voucher as it is sent.
 *
 * @param number the number of its sender
 * @param bookedOn the day
 * @param farm the farm whose account it is booked to
 * @param lines its lines, at least one
 */
public record Voucher(String number, LocalDate bookedOn, Integer farm, List<Line> lines) {

    /**
     * A line of a voucher.
     *
     * @param debit what is booked to the farm, or null
     * @param credit what is booked in its favour, or null
     */
    public record Line(String article, String text, BigDecimal quantity, BigDecimal debit, BigDecimal credit) {}

    /**
     * A voucher that is booked.
     *
     * @param accountNumber the number that Farm Accounts gave it
     * @param key the idempotency key it came with, or null
     */
    public record Booked(String accountNumber, Instant bookedAt, String key, Voucher voucher) {}
}
