package ninepin.doors.folder;

import java.io.IOException;
import java.nio.file.AccessDeniedException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.FileSystemException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.attribute.PosixFilePermission;
import java.util.OptionalLong;
import java.util.Set;
import ninepin.core.bytes.FileSource;
import ninepin.core.bytes.Fingerprint;
import ninepin.core.deliver.AppendedFile;
import ninepin.core.deliver.MadeFolders;
import ninepin.core.deliver.MarkFile;
import ninepin.doors.store.Sending;
import ninepin.doors.store.Store;
import ninepin.doors.store.StoreException;

/** A folder of another machine that is mounted here. It is there while its root is, which is never made. */
public final class FolderStore implements Store {

    private final String label;
    private final Path folder;
    private final Set<PosixFilePermission> mode;

    /**
     * @param label the folder, as people call it
     * @param root the root, which has to be there
     * @param folder the folder below it; made where it is not there
     * @param mode who may read and write the files; null for whom the process makes files for
     */
    public FolderStore(String label, Path root, Path folder, Set<PosixFilePermission> mode) throws StoreException {
        this.label = label;
        this.folder = folder;
        this.mode = mode;
        if (!Files.isDirectory(root)) {
            throw new StoreException(
                    StoreException.Kind.AWAY, label + " is not there. It is tried again until it is.", null);
        }
        doing(() -> {
            // Never the root itself: it may go away at any moment.
            MadeFolders.make(folder, root, mode);
            return folder;
        });
    }

    /** Does something with the folder that may fail as folders do. */
    private interface Work<T> {
        T doing() throws IOException;
    }

    private <T> T doing(Work<T> work) throws StoreException {
        try {
            return work.doing();
        } catch (AccessDeniedException e) {
            throw new StoreException(
                    StoreException.Kind.REFUSED,
                    "Ninepin may not write to " + label + ". Give the user it runs as the right to, then send again.",
                    e);
        } catch (IOException e) {
            throw new StoreException(
                    StoreException.Kind.AWAY, label + " cannot be written to: " + e.getMessage() + ".", e);
        }
    }

    @Override
    public void upload(Path file, String hidden) throws StoreException {
        doing(() -> {
            Path to = folder.resolve(hidden);
            AppendedFile.copy(file, Files.size(file), to);
            if (mode != null) {
                Files.setPosixFilePermissions(to, mode);
            }
            MarkFile.forceFolder(folder);
            return to;
        });
    }

    @Override
    public OptionalLong size(String name) throws StoreException {
        return doing(() -> {
            try {
                return OptionalLong.of(Files.size(folder.resolve(name)));
            } catch (NoSuchFileException e) {
                return OptionalLong.empty();
            }
        });
    }

    @Override
    public void publish(String hidden, String name, boolean replace) throws StoreException {
        Path from = folder.resolve(hidden);
        Path to = folder.resolve(name);
        boolean taken = doing(() -> {
            if (replace) {
                Files.move(from, to, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
            } else if (!linked(from, to)) {
                return true;
            } else {
                Files.deleteIfExists(from);
            }
            MarkFile.forceFolder(folder);
            return false;
        });
        if (taken) {
            throw Sending.taken(name);
        }
    }

    /** Gives a second name, which takes no other file's place as moving could; false where another file has it. */
    private static boolean linked(Path from, Path to) throws IOException {
        try {
            Files.createLink(to, from);
            return true;
        } catch (FileAlreadyExistsException e) {
            return Files.isSameFile(from, to);
        } catch (UnsupportedOperationException | FileSystemException e) {
            // A folder whose system knows no second names.
            try {
                Files.move(from, to);
                return true;
            } catch (FileAlreadyExistsException there) {
                return false;
            }
        }
    }

    @Override
    public String fingerprint(String name) throws StoreException {
        if (size(name).isEmpty()) {
            throw new StoreException(StoreException.Kind.GONE, name + " is not in " + label + ".", null);
        }
        return doing(() -> {
            try (FileSource source = FileSource.open(folder.resolve(name))) {
                return Fingerprint.of(source);
            }
        });
    }

    @Override
    public void remove(String name) throws StoreException {
        doing(() -> {
            if (Files.deleteIfExists(folder.resolve(name))) {
                MarkFile.forceFolder(folder);
            }
            return null;
        });
    }

    @Override
    public void close() {
        // Nothing is open.
    }
}
