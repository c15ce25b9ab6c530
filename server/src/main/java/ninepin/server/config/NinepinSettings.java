package ninepin.server.config;

import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermission;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.springframework.boot.context.properties.ConfigurationProperties;
import org.springframework.boot.context.properties.bind.DefaultValue;
import org.springframework.util.unit.DataSize;

/**
 * All settings of the application, from environment variables ({@code NINEPIN_PORT}) and one properties file.
 *
 * @param environment the name of this environment, shown on every screen
 * @param data the application's own folder: journals, samples, uploads, the key that seals passwords
 * @param drivers the folder of drivers of other databases, each in a folder of its own
 * @param roots folders that jobs may pick files up from, by name
 * @param remoteRoots the names of those of them that are on another machine: jobs write files for them into Ninepin's own folder
 *     first, and each is sent when the run has finished and the folder is there
 * @param siteValues values that jobs name and that differ by environment
 * @param runsAtOnce the most runs under way at the same time, of different jobs
 * @param transfersAtOnce the most files that are fetched or sent at the same time through one connection or root
 * @param pauseSeconds how long a run whose surroundings fail waits before it is tried again; each further wait is twice as long
 * @param largestUpload the most that a file given to a job by hand may have
 * @param deliveredFiles who may read and write delivered files, such as {@code rw-r-----}; empty for whom the process makes files
 *     for
 * @param ownSql whether jobs and code lists may hold SQL that people wrote, which runs with the rights of its connection
 * @param demo whether the demo's world is set up at start
 */
@ConfigurationProperties("ninepin")
public record NinepinSettings(
        @DefaultValue("local") String environment,
        @DefaultValue(".ninepin/data") Path data,
        @DefaultValue(".ninepin/drivers") Path drivers,
        Map<String, Path> roots,
        Set<String> remoteRoots,
        Map<String, String> siteValues,
        @DefaultValue("2") int runsAtOnce,
        @DefaultValue("4") int transfersAtOnce,
        @DefaultValue("5") int pauseSeconds,
        @DefaultValue("4GB") DataSize largestUpload,
        @DefaultValue("") String deliveredFiles,
        @DefaultValue("true") boolean ownSql,
        @DefaultValue("false") boolean demo) {

    public NinepinSettings {
        data = data.toAbsolutePath().normalize();
        roots = roots == null ? Map.of() : new TreeMap<>(roots);
        remoteRoots = remoteRoots == null ? Set.of() : new TreeSet<>(remoteRoots);
        for (String root : remoteRoots) {
            if (!roots.containsKey(root)) {
                throw new IllegalArgumentException("ninepin.remote-roots names " + root + ", which is no root");
            }
        }
        siteValues = siteValues == null ? Map.of() : new TreeMap<>(siteValues);
        if (!deliveredFiles.isBlank() && !deliveredFiles.matches("([r-][w-][x-]){3}")) {
            throw new IllegalArgumentException(
                    "ninepin.delivered-files is \"" + deliveredFiles + "\"; it is written as rw-r-----");
        }
    }

    /** The same, or null. */
    public Set<PosixFilePermission> modeOfFiles() {
        return deliveredFiles.isBlank() ? null : PosixFilePermissions.fromString(deliveredFiles);
    }
}
