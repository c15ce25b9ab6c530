package ninepin.core.deliver;

import java.util.Optional;

/** A target that keeps no mark: nothing is delivered for good. */
public interface TrialTarget extends Target {

    @Override
    default Optional<Mark> look() {
        return Optional.empty();
    }

    @Override
    default Optional<Mark> takeUp(TakeUp as) throws TargetException {
        return Optional.empty();
    }
}
