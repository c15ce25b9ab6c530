package ninepin.core.deliver;

import java.io.IOException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermission;
import java.util.EnumSet;
import java.util.Map;
import java.util.Set;

/** Makes folders for delivered files, which whoever may read the files can look into. */
public final class MadeFolders {

    private static final Map<PosixFilePermission, PosixFilePermission> LOOKS_INTO = Map.of(
            PosixFilePermission.OWNER_READ, PosixFilePermission.OWNER_EXECUTE,
            PosixFilePermission.GROUP_READ, PosixFilePermission.GROUP_EXECUTE,
            PosixFilePermission.OTHERS_READ, PosixFilePermission.OTHERS_EXECUTE);

    private MadeFolders() {}

    /**
     * Makes a folder and those above it that are missing.
     *
     * @param above a folder that is not made itself where it is missing; null where all are
     * @param modeOfFiles who may read and write the files in it; null for whom the process makes folders for
     */
    public static void make(Path folder, Path above, Set<PosixFilePermission> modeOfFiles) throws IOException {
        if (folder.equals(above) || Files.isDirectory(folder)) {
            return;
        }
        if (folder.getParent() != null) {
            make(folder.getParent(), above, modeOfFiles);
        }
        try {
            Files.createDirectory(folder);
        } catch (FileAlreadyExistsException e) {
            // Another one made it meanwhile.
            return;
        }
        if (modeOfFiles != null) {
            Set<PosixFilePermission> mode = EnumSet.copyOf(modeOfFiles);
            LOOKS_INTO.forEach((reads, looks) -> {
                if (modeOfFiles.contains(reads)) {
                    mode.add(looks);
                }
            });
            mode.add(PosixFilePermission.OWNER_WRITE);
            mode.add(PosixFilePermission.OWNER_EXECUTE);
            Files.setPosixFilePermissions(folder, mode);
        }
    }
}
