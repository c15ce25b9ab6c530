package ninepin.doors;

import java.util.Optional;
import ninepin.core.pickup.From;
import ninepin.core.pickup.PickUp;
import ninepin.doors.folder.FolderSupport;
import ninepin.doors.query.QuerySupport;
import ninepin.doors.source.Asked;
import ninepin.doors.source.SourceSupport;

/** The kinds of sources that there are. */
public final class Sources {

    private Sources() {}

    /** All that is known of where a job takes from. */
    public static SourceSupport of(From from) {
        if (from instanceof From.Folder folder) {
            return new FolderSupport(folder);
        }
        return new QuerySupport((From.Query) from);
    }

    /** The same where it is asked, and does not send files by itself. */
    public static Optional<Asked> asked(PickUp pickUp) {
        return pickUp != null && of(pickUp.from()) instanceof Asked asked ? Optional.of(asked) : Optional.empty();
    }
}
