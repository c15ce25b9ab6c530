package ninepin.core.testing;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.Properties;
import ninepin.core.deliver.DatabaseAddress;
import ninepin.core.deliver.JdbcDriver;
import ninepin.core.deliver.jdbc.Drivers;

/**
 * A database that Ninepin knows nothing of, through a driver in a folder as an operator puts it there. There is no server that could
 * be killed or frozen.
 */
public final class DriverDatabase extends TestDatabase {

    private static final Path FOLDER = folder();
    private static final Drivers DRIVERS = drivers();

    private final JdbcDriver driver;

    private DriverDatabase(String name) {
        this.driver = DRIVERS.named(name)
                .orElseThrow(() -> new IllegalStateException(DRIVERS.troubles().toString()));
    }

    public static DriverDatabase h2() {
        return new DriverDatabase("h2");
    }

    public static DriverDatabase sqlite() {
        return new DriverDatabase("sqlite");
    }

    /** The folder of drivers, fit for the setting {@code ninepin.drivers}. */
    public static Path driversFolder() {
        return FOLDER;
    }

    private static Path folder() {
        try {
            Path folder = Files.createTempDirectory("drivers");
            folder.toFile().deleteOnExit();
            return folder;
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private static Drivers drivers() {
        Path files = FOLDER.resolve("files");
        put(
                "h2",
                "org.h2.Driver",
                "title=H2\naddress=jdbc:h2:" + files + "/{database};LOCK_TIMEOUT=5000;DB_CLOSE_DELAY=-1\n");
        put(
                "sqlite",
                "org.sqlite.JDBC",
                "title=SQLite\naddress=jdbc:sqlite:" + files
                        + "/{database}.sqlite?busy_timeout=5000\ntype.text=TEXT\nrefusals=19,20\nbusy=5,6\n");
        try {
            Files.createDirectories(files);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        return Drivers.in(FOLDER);
    }

    private static void put(String name, String driver, String settings) {
        try {
            Path into = Files.createDirectories(FOLDER.resolve(name));
            Path jar = Path.of(Class.forName(driver)
                    .getProtectionDomain()
                    .getCodeSource()
                    .getLocation()
                    .toURI());
            Files.copy(jar, into.resolve(jar.getFileName()));
            Files.writeString(into.resolve("driver.properties"), settings);
        } catch (IOException | ReflectiveOperationException | java.net.URISyntaxException e) {
            throw new IllegalStateException(e);
        }
    }

    /** How a database is reached, whether it is there or not. */
    public DatabaseAddress address(String name) {
        return new DatabaseAddress(driver, "localhost", driver.port(), name, "", "");
    }

    @Override
    public DatabaseAddress database(String name) {
        try {
            if (driver.name().equals("h2")) {
                execute(name, "DROP ALL OBJECTS");
            } else {
                Files.deleteIfExists(FOLDER.resolve("files").resolve(name + ".sqlite"));
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        return address(name);
    }

    @Override
    public Connection connect(String database) throws SQLException {
        return driver.driver().connect(driver.addressOf("localhost", driver.port(), database), new Properties());
    }

    @Override
    public void kill() {
        throw new UnsupportedOperationException("There is no server.");
    }

    @Override
    public long pid() {
        throw new UnsupportedOperationException("There is no server.");
    }

    @Override
    public void launch() {
        throw new UnsupportedOperationException("There is no server.");
    }

    @Override
    public int port() {
        return driver.port();
    }

    @Override
    public void close() {
        // Its files go with the folder.
    }
}
