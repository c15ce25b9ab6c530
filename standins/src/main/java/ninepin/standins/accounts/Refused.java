package ninepin.standins.accounts;

import java.util.List;

/** A voucher that is not booked, and why. */
final class Refused extends Exception {

    private static final long serialVersionUID = 1L;

    /**
     * What is wrong with a field.
     *
     * @param field its path in the voucher, such as {@code lines[2].article}
     */
    record Wrong(String field, String message) {}

    final int status;
    final transient List<Wrong> errors;

    Refused(int status, String message, List<Wrong> errors) {
        super(message);
        this.status = status;
        this.errors = errors;
    }
}
