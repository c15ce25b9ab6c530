package ninepin.core.deliver.jdbc;

import java.io.IOException;
import java.io.Reader;
import java.net.MalformedURLException;
import java.net.URL;
import java.net.URLClassLoader;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Driver;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Properties;
import java.util.ServiceLoader;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import ninepin.core.deliver.JdbcDriver;
import ninepin.core.layout.DefinitionException;

/**
 * The drivers in a folder: each in a folder of its own, its jar files beside {@code driver.properties}, which says its address. The
 * operator of this machine puts them there; nobody else does, since a driver can do whatever this process can.
 */
public final class Drivers {

    /** No drivers. */
    public static final Drivers NONE = new Drivers(Map.of(), List.of());

    private static final String SETTINGS = "driver.properties";

    private final Map<String, JdbcDriver> drivers;
    private final List<String> troubles;

    private Drivers(Map<String, JdbcDriver> drivers, List<String> troubles) {
        this.drivers = drivers;
        this.troubles = troubles;
    }

    /** Reads a folder; one that is not there has none. */
    public static Drivers in(Path folder) {
        Map<String, JdbcDriver> found = new TreeMap<>();
        List<String> troubles = new ArrayList<>();
        if (!Files.isDirectory(folder)) {
            return NONE;
        }
        try (Stream<Path> folders = Files.list(folder)) {
            for (Path each : folders.filter(Files::isDirectory).sorted().toList()) {
                String name = each.getFileName().toString();
                try {
                    found.put(name, read(name, each));
                } catch (IOException
                        | IllegalArgumentException
                        | LinkageError
                        | java.util.ServiceConfigurationError e) {
                    troubles.add("The driver " + name + " cannot be used: " + e.getMessage());
                }
            }
        } catch (IOException e) {
            troubles.add("The folder of drivers cannot be read: " + e.getMessage());
        }
        return new Drivers(found, List.copyOf(troubles));
    }

    private static JdbcDriver read(String name, Path folder) throws IOException {
        Properties settings = new Properties();
        try (Reader reader = Files.newBufferedReader(folder.resolve(SETTINGS), StandardCharsets.UTF_8)) {
            settings.load(reader);
        } catch (java.nio.file.NoSuchFileException e) {
            throw new DefinitionException(SETTINGS, "is missing; it says address=jdbc:…");
        }
        Map<String, String> types = new TreeMap<>();
        for (String type : List.of("text", "whole", "truth", "timestamp")) {
            if (settings.containsKey("type." + type)) {
                types.put(type, settings.getProperty("type." + type).strip());
            }
        }
        return new JdbcDriver(
                name,
                settings.getProperty("title", name).strip(),
                driver(folder, settings.getProperty("class")),
                settings.getProperty("address", "").strip(),
                number(settings.getProperty("port", "0")),
                settings.getProperty("quote", "\"").strip(),
                types,
                numbers(settings.getProperty("refusals", "")),
                numbers(settings.getProperty("busy", "")));
    }

    private static int number(String text) {
        try {
            return Integer.parseInt(text.strip());
        } catch (NumberFormatException e) {
            throw new DefinitionException(SETTINGS, "\"" + text + "\" is no number");
        }
    }

    private static Set<Integer> numbers(String text) {
        return Arrays.stream(text.split(","))
                .filter(n -> !n.isBlank())
                .map(Drivers::number)
                .collect(Collectors.toSet());
    }

    private static Driver driver(Path folder, String className) throws IOException {
        URL[] jars;
        try (Stream<Path> files = Files.list(folder)) {
            jars = files.filter(f -> f.toString().endsWith(".jar"))
                    .map(Drivers::url)
                    .toArray(URL[]::new);
        }
        if (jars.length == 0) {
            throw new DefinitionException("driver", "there is no jar file in " + folder.getFileName());
        }
        // Drivers come and go with the process, and so do their loaders.
        URLClassLoader loader = new URLClassLoader(jars, ClassLoader.getPlatformClassLoader());
        if (className == null) {
            return ServiceLoader.load(Driver.class, loader)
                    .findFirst()
                    .orElseThrow(
                            () -> new DefinitionException("class", "no driver is named in its jar files; say class="));
        }
        try {
            return (Driver) Class.forName(className.strip(), true, loader)
                    .getDeclaredConstructor()
                    .newInstance();
        } catch (ReflectiveOperationException | ClassCastException e) {
            throw new DefinitionException("class", className + " is no driver: " + e);
        }
    }

    private static URL url(Path file) {
        try {
            return file.toUri().toURL();
        } catch (MalformedURLException e) {
            throw new IllegalStateException(e);
        }
    }

    /** The drivers, by name. */
    public List<JdbcDriver> all() {
        return List.copyOf(drivers.values());
    }

    public Optional<JdbcDriver> named(String name) {
        return Optional.ofNullable(drivers.get(name));
    }

    /** What keeps some from being used. */
    public List<String> troubles() {
        return troubles;
    }
}
