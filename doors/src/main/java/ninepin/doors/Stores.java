package ninepin.doors;

import java.nio.file.Path;
import ninepin.core.deliver.Places;
import ninepin.core.deliver.TargetException;
import ninepin.doors.folder.FolderStore;
import ninepin.doors.store.Store;
import ninepin.doors.store.StoreException;

/** Finds the store that files of a root are sent to. */
public final class Stores {

    private Stores() {}

    /**
     * Opens the store behind a folder of a root that is on another machine.
     *
     * @param root the name of the root
     * @param folder the folder below it, or empty
     */
    public static Store open(Places places, String root, String folder) throws StoreException {
        String label = root + (folder.isEmpty() ? "" : "/" + folder);
        try {
            Path base = places.folder(root, "");
            return new FolderStore(label, base, places.folder(root, folder), places.modeOfFiles());
        } catch (TargetException e) {
            StoreException.Kind kind = e.mayPass() ? StoreException.Kind.AWAY : StoreException.Kind.REFUSED;
            throw new StoreException(kind, e.getMessage(), e);
        }
    }
}
