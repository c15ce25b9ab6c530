package ninepin.server.cli;

import java.io.IOException;
import java.io.Reader;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Properties;
import java.util.TreeMap;
import ninepin.core.deliver.ApplicationAddress;
import ninepin.core.deliver.Authentication;
import ninepin.core.deliver.DatabaseAddress;
import ninepin.core.deliver.DatabaseKind;
import ninepin.core.deliver.JdbcDriver;
import ninepin.core.deliver.TargetException;
import ninepin.core.deliver.Tls;
import ninepin.core.deliver.jdbc.Drivers;

/** Connections named in a properties file, each value overridden by the environment. */
final class FileSettings {

    private static final String SITE_VALUES = "ninepin.site-values.";

    private final Properties properties = new Properties();
    private Drivers drivers;

    FileSettings(Path file) throws IOException {
        Path from =
                file != null ? file : Path.of(System.getenv().getOrDefault("NINEPIN_SETTINGS", "ninepin.properties"));
        if (file != null || Files.exists(from)) {
            try (Reader reader = Files.newBufferedReader(from, StandardCharsets.UTF_8)) {
                properties.load(reader);
            }
        }
    }

    DatabaseAddress connection(String name) {
        String host = value(name, "host", null);
        if (host == null) {
            throw new IllegalArgumentException(
                    "the settings name no connection " + name + " (ninepin.connections." + name + ".host)");
        }
        String kindName = value(name, "kind", DatabaseKind.MARIADB.toString());
        Optional<JdbcDriver> driver = drivers().named(kindName);
        if (driver.isPresent()) {
            return new DatabaseAddress(
                    driver.get(),
                    host,
                    Integer.parseInt(
                            value(name, "port", String.valueOf(driver.get().port()))),
                    value(name, "database", name),
                    value(name, "user", ""),
                    value(name, "password", ""));
        }
        DatabaseKind kind = DatabaseKind.named(kindName);
        String tls = value(name, "tls", null);
        String certificate = value(name, "certificate", null);
        return new DatabaseAddress(
                kind,
                host,
                Integer.parseInt(value(name, "port", String.valueOf(kind.port()))),
                value(name, "database", name),
                value(name, "user", ""),
                value(name, "password", ""),
                new Tls(
                        tls == null ? Tls.usual(host).mode() : Tls.Mode.named(tls),
                        certificate == null ? null : read(name, certificate)));
    }

    private Drivers drivers() {
        if (drivers == null) {
            drivers = Drivers.in(Path.of(properties.getProperty("ninepin.drivers", ".ninepin/drivers")));
        }
        return drivers;
    }

    private static String read(String name, String file) {
        try {
            return Files.readString(Path.of(file));
        } catch (IOException e) {
            throw new IllegalArgumentException("the certificate of " + name + " cannot be read: " + e.getMessage());
        }
    }

    /** An application; what it takes is read from the file that the settings name. */
    ApplicationAddress application(String name) {
        String base = value(name, "base", null);
        String description = value(name, "description", null);
        if (base == null || description == null) {
            throw new IllegalArgumentException("the settings name no application " + name + " (ninepin.connections."
                    + name + ".base and .description, its OpenAPI document)");
        }
        Authentication by = new Authentication(
                Authentication.By.named(value(name, "authentication", "none")),
                value(name, "user", ""),
                value(name, "password", ""));
        try {
            return ApplicationAddress.of(value(name, "title", name), base, by, Files.readString(Path.of(description)));
        } catch (IOException e) {
            throw new IllegalArgumentException("the description of " + name + " cannot be read: " + e.getMessage());
        }
    }

    /** A root folder. */
    Path root(String name) {
        String path = properties.getProperty("ninepin.roots." + name);
        if (path == null) {
            throw new IllegalArgumentException(
                    "the settings name no root folder " + name + " (ninepin.roots." + name + ")");
        }
        return Path.of(path);
    }

    /** Whether a root is on another machine, and may be away. */
    boolean isRemote(String root) {
        return Arrays.asList(properties.getProperty("ninepin.remote-roots", "").split("[,\\s]+"))
                .contains(root);
    }

    /** Where a folder is or would be below a root; never outside of it, by links neither. */
    Path inside(String root, String folder) throws TargetException {
        try {
            Path named = root(root);
            if (!isRemote(root)) {
                Files.createDirectories(named);
            } else if (!Files.isDirectory(named)) {
                throw TargetException.rootAway(root);
            }
            Path base = named.toRealPath();
            Path wanted = base.resolve(folder).normalize();
            Path there = wanted;
            while (!Files.exists(there)) {
                there = there.getParent();
            }
            if (!wanted.startsWith(base) || !there.toRealPath().startsWith(base)) {
                throw new IllegalArgumentException("the folder " + folder + " leads out of the root " + root);
            }
            return wanted;
        } catch (IOException e) {
            throw new TargetException(
                    TargetException.Kind.UNUSABLE, "FIL-09", "The root folder " + root + " cannot be used: " + e, e);
        }
    }

    /** The name of the environment. */
    String environment() {
        String fromEnvironment = System.getenv("NINEPIN_ENVIRONMENT");
        return fromEnvironment != null ? fromEnvironment : properties.getProperty("ninepin.environment", "local");
    }

    /** The site values, by name. */
    Map<String, String> siteValues() {
        Map<String, String> values = new TreeMap<>();
        properties.stringPropertyNames().stream()
                .filter(n -> n.startsWith(SITE_VALUES))
                .forEach(n -> values.put(n.substring(SITE_VALUES.length()), properties.getProperty(n)));
        return values;
    }

    private String value(String connection, String part, String otherwise) {
        String key = "ninepin.connections." + connection + "." + part;
        String fromEnvironment =
                System.getenv(key.toUpperCase(Locale.ROOT).replace('.', '_').replace('-', '_'));
        return fromEnvironment != null ? fromEnvironment : properties.getProperty(key, otherwise);
    }
}
