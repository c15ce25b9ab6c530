package ninepin.core.deliver;

import ninepin.core.record.Position;

/**
 * How far a delivery has come: written in the transaction that commits the rows before it.
 *
 * @param position where the next record starts in the file
 * @param tally the account so far
 * @param shares what the account is made of
 * @param commits the number of commits so far
 * @param journalLength the bytes of the run's journal that belong to what is committed
 * @param fingerprint the SHA-256 of the file
 * @param complete whether the end of the file has been reached
 */
public record Mark(
        Position position,
        Tally tally,
        Shares shares,
        long commits,
        long journalLength,
        String fingerprint,
        boolean complete) {

    /** The mark of a run that has delivered nothing. */
    public static Mark none(String fingerprint) {
        return new Mark(Position.START, Tally.ZERO, Shares.NONE, 0, 0, fingerprint, false);
    }
}
