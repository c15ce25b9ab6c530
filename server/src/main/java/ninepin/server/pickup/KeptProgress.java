package ninepin.server.pickup;

import ninepin.core.pickup.NewRows;
import ninepin.doors.source.SourceContext;

/** How far the source of a job has been taken, as it is on record. */
record KeptProgress(SourceMapper mapper, long job) implements SourceContext.Progress {

    @Override
    public NewRows known() {
        String taken = mapper.lastKey(job).orElse(null);
        return mapper.seen(job)
                .map(s -> new NewRows(taken, s.seenKey(), s.seenAt()))
                .orElse(new NewRows(taken, null, null));
    }

    @Override
    public void see(NewRows now) {
        mapper.saw(job, now.seen(), now.seenAt());
    }
}
