package ninepin.server.testing;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.Map;
import java.util.function.Predicate;
import ninepin.core.job.Definitions;
import ninepin.core.testing.MariaDbServer;
import ninepin.server.Ninepin;
import ninepin.server.connections.Connections;
import org.springframework.boot.WebApplicationType;
import org.springframework.boot.builder.SpringApplicationBuilder;
import org.springframework.context.ConfigurableApplicationContext;
import tools.jackson.databind.JsonNode;

/**
 * The application's services in this process, against a real database and real folders, without its web half: no port, no
 * sign-in. Only what a test asks for is made, so that one takes a second or two to start.
 */
public final class Services implements AutoCloseable {

    private final ConfigurableApplicationContext context;
    private final MariaDbServer database;
    private final Path folder;
    private final String tables;

    private Services(ConfigurableApplicationContext context, MariaDbServer database, Path folder, String tables) {
        this.context = context;
        this.database = database;
        this.folder = folder;
        this.tables = tables;
    }

    /**
     * Starts them on the shared server.
     *
     * @param folder for its data and its root folder {@code files}
     * @param tables the database of the application, made anew; what is delivered to is its name and {@code _target}
     */
    public static Services start(Path folder, String tables) throws IOException {
        return start(folder, tables, Map.of());
    }

    /** The same with further settings. */
    public static Services start(Path folder, String tables, Map<String, Object> more) throws IOException {
        MariaDbServer database = MariaDbServer.shared();
        database.database(tables);
        database.database(tables + "_target");
        Files.createDirectories(folder.resolve("files"));
        Map<String, Object> settings = new HashMap<>();
        settings.put("spring.main.lazy-initialization", true);
        settings.put("spring.main.banner-mode", "off");
        settings.put("ninepin.data", folder.resolve("data").toString());
        settings.put("ninepin.roots.files", folder.resolve("files").toString());
        settings.put("ninepin.database.host", "127.0.0.1");
        settings.put("ninepin.database.port", database.port());
        settings.put("ninepin.database.name", tables);
        settings.put("ninepin.database.user", "root");
        settings.put("ninepin.database.password", "");
        settings.put("ninepin.first-password", "for the test");
        settings.put("ninepin.pause-seconds", 1);
        settings.putAll(more);
        ConfigurableApplicationContext context = new SpringApplicationBuilder(Ninepin.class)
                .web(WebApplicationType.NONE)
                .run(settings.entrySet().stream()
                        .map(s -> "--" + s.getKey() + "=" + s.getValue())
                        .toArray(String[]::new));
        Services services = new Services(context, database, folder, tables);
        services.connect("target", tables + "_target");
        return services;
    }

    /** A service, made when it is asked for first. */
    public <T> T get(Class<T> service) {
        return context.getBean(service);
    }

    /** Makes what works the outbox off, which nothing asks for. */
    public void startSending() {
        context.getBean("sender");
    }

    /** A connection to a database of the server. */
    public void connect(String name, String to) {
        connect(name, to, database.port());
    }

    /** The same at a port, where the server may not answer. */
    public void connect(String name, String to, int port) {
        JsonNode input = Definitions.mapper()
                .readTree("{\"title\":\"" + name + "\",\"host\":\"127.0.0.1\",\"port\":" + port + ",\"database\":\""
                        + to + "\",\"user\":\"root\",\"password\":\"\"}");
        get(Connections.class)
                .put(name, Definitions.mapper().treeToValue(input, Connections.ConnectionInput.class), "tester");
    }

    public MariaDbServer database() {
        return database;
    }

    /** The database that is delivered to. */
    public String target() {
        return tables + "_target";
    }

    /** The application's own database. */
    public String tables() {
        return tables;
    }

    public Path folder() {
        return folder;
    }

    /** Asks until the answer is as wanted. */
    public static <T> T await(Asking<T> asking, Predicate<T> wanted) throws Exception {
        T answer = null;
        for (int i = 0; i < 1_200; i++) {
            answer = asking.ask();
            if (wanted.test(answer)) {
                return answer;
            }
            Thread.sleep(25);
        }
        throw new AssertionError("Never as wanted, last: " + answer);
    }

    /** A question that is asked again. */
    @FunctionalInterface
    public interface Asking<T> {
        T ask() throws Exception;
    }

    @Override
    public void close() {
        context.close();
    }
}
