package ninepin.core.deliver;

import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermission;
import java.util.Optional;
import java.util.Set;

/** Where the names in definitions lead: connections and root folders. */
public interface Places {

    /** What is said where SQL that people wrote may not run. */
    String OWN_SQL_OFF = "SQL of one's own is switched off here, by the setting ninepin.own-sql.";

    DatabaseAddress database(String connection);

    ApplicationAddress application(String connection);

    /** A folder below a root; it need not be there, and is never outside of its root. */
    Path folder(String root, String folder) throws TargetException;

    /** Whether a root is on another machine: files for it are written here first and sent when it is there. */
    default boolean isRemote(String root) {
        return false;
    }

    /** What a table takes; empty where it is not there. */
    Optional<TableDescription> table(String connection, String table) throws TargetException;

    /** Who may read and write delivered files; null for whom the process makes files for. */
    default Set<PosixFilePermission> modeOfFiles() {
        return null;
    }

    /** Whether SQL that people wrote may run. */
    default boolean ownSql() {
        return true;
    }
}
