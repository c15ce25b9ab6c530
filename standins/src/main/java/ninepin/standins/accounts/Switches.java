package ninepin.standins.accounts;

/**
 * How Farm Accounts misbehaves.
 *
 * @param slowMillis how long an answer takes, in milliseconds
 * @param failPercent of how many requests in a hundred it fails: half of them before it books, half after, so that the
 *     answer is lost
 * @param refusePercent of how many in a hundred it refuses the voucher
 * @param busyPercent for how many in a hundred it asks to come again, with the seconds to wait
 */
public record Switches(int slowMillis, int failPercent, int refusePercent, int busyPercent) {

    /** It behaves. */
    public static final Switches NONE = new Switches(0, 0, 0, 0);

    public Switches {
        slowMillis = within(slowMillis, 60_000);
        failPercent = within(failPercent, 100);
        refusePercent = within(refusePercent, 100);
        busyPercent = within(busyPercent, 100);
    }

    private static int within(int value, int most) {
        return Math.max(0, Math.min(most, value));
    }
}
