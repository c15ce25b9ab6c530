package ninepin.core.deliver;

/**
 * On what ground a run is taken up. Each take-up has a number, the epoch; commits of an earlier epoch are refused by the
 * target, so that a process which was only asleep can never commit behind its successor's back.
 *
 * @param epoch the number that whoever keeps the runs has given; 0 where nobody does, for one more than the target knows
 * @param preempts whether a process that still has the run is ended; otherwise the take-up is refused while there is one
 */
public record TakeUp(long epoch, boolean preempts) {

    /** By whoever finds nobody else at it, such as a command without an application that keeps runs. */
    public static final TakeUp ALONE = new TakeUp(0, false);

    /** By the owner of the run's lease. */
    public static TakeUp ofOwner(long epoch) {
        return new TakeUp(epoch, true);
    }

    /**
     * The epoch that a take-up gets.
     *
     * @param known the last one that the target knows, or 0
     * @throws TargetException where a later one has taken the run over
     */
    public long after(long known) throws TargetException {
        if (epoch == 0) {
            return known + 1;
        }
        if (epoch <= known) {
            throw TargetException.fenced();
        }
        return epoch;
    }
}
