package ninepin.server.demo;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.Map;
import ninepin.core.deliver.TargetException;
import ninepin.core.deliver.mariadb.MariaDb;
import ninepin.core.job.Definitions;
import ninepin.server.config.AdjustableClock;
import ninepin.server.config.NinepinSettings;
import ninepin.server.connections.Connections;
import ninepin.server.jobs.Jobs;
import ninepin.server.pickup.FileHome;
import ninepin.server.runs.Runs;
import ninepin.standins.Laboratory;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.boot.ApplicationArguments;
import org.springframework.boot.ApplicationRunner;
import org.springframework.boot.autoconfigure.condition.ConditionalOnProperty;
import org.springframework.context.event.ContextClosedEvent;
import org.springframework.context.event.EventListener;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;
import tools.jackson.databind.JsonNode;

/** Sets the demo up at its first start, and lets the laboratory drop a new file every few minutes. */
@Component
@Order(30)
@ConditionalOnProperty("ninepin.demo")
class DemoWorld implements ApplicationRunner {

    private static final Logger LOG = LoggerFactory.getLogger(DemoWorld.class);
    private static final String JOB = "quality-results";
    private static final int DAYS = 21;

    private final Jobs jobs;
    private final Runs runs;
    private final Connections connections;
    private final NinepinSettings settings;
    private final AdjustableClock clock;
    private final String host;
    private final int port;
    private final String user;
    private final String password;
    private final long feedSeconds;
    private Laboratory laboratory;

    DemoWorld(
            Jobs jobs,
            Runs runs,
            Connections connections,
            NinepinSettings settings,
            java.time.Clock clock,
            @Value("${ninepin.database.host}") String host,
            @Value("${ninepin.database.port}") int port,
            @Value("${ninepin.database.user}") String user,
            @Value("${ninepin.database.password}") String password,
            @Value("${ninepin.demo-feed-seconds:180}") long feedSeconds) {
        this.jobs = jobs;
        this.runs = runs;
        this.connections = connections;
        this.settings = settings;
        this.clock = (AdjustableClock) clock;
        this.host = host;
        this.port = port;
        this.user = user;
        this.password = password;
        this.feedSeconds = feedSeconds;
    }

    @Override
    public void run(ApplicationArguments args) throws Exception {
        Path root = settings.roots().get("laboratory");
        if (root == null) {
            throw new IllegalStateException("The demo needs a root folder named laboratory.");
        }
        laboratory = new Laboratory(Files.createDirectories(root.resolve("outbox")));
        if (jobs.all().stream().noneMatch(j -> j.name().equals(JOB))) {
            setUp(root);
        }
        laboratory.feed(45, feedSeconds);
    }

    private void setUp(Path root) throws IOException, TargetException, SQLException {
        LOG.info("Making the demo's three weeks of runs.");
        connections.put(
                "warehouse",
                new Connections.ConnectionInput("Dairy warehouse", host, port, "larkfell", user, password),
                "demo");
        try (Connection c = MariaDb.connect(connections.address("warehouse"));
                Statement s = c.createStatement()) {
            for (String statement : text("tables.sql").split(";\\s*\n")) {
                if (!statement.isBlank()) {
                    s.execute(statement);
                }
            }
        }
        JsonNode job = Definitions.mapper().readTree(text(JOB + ".job.json"));
        JsonNode layout = Definitions.mapper().readTree(text(JOB + ".layout.json"));
        jobs.create(job, layout, "demo");
        LocalDate today = LocalDate.now();
        Path sample = new Laboratory(settings.data().resolve("demo"))
                .drop("quality_" + today + ".csv", today, 4711, 420, true);
        try (InputStream in = Files.newInputStream(sample)) {
            jobs.setSample(JOB, sample.getFileName().toString(), in);
        }
        jobs.putLive(JOB, "demo");
        pastRuns(root, today);
        LocalDate yesterday = today.minusDays(1);
        laboratory.drop("quality_" + today + "_noon.csv", today, 77, 60, false);
        // Sent a second time, byte for byte.
        laboratory.drop("quality_" + yesterday + "_copy.csv", yesterday, seed(yesterday), lines(yesterday), true);
        jobs.schedule(JOB, true);
    }

    /** Runs the job on a file of each past evening, with the clock set back to that evening. */
    private void pastRuns(Path root, LocalDate today) throws IOException {
        FileHome home = FileHome.below(root.resolve("outbox"), JOB);
        for (int back = DAYS; back >= 1; back--) {
            LocalDate day = today.minusDays(back);
            Instant evening = day.atTime(LocalTime.of(19, 4, back % 50))
                    .atZone(ZoneId.systemDefault())
                    .toInstant();
            clock.pretend(evening);
            try {
                Path file = laboratory.drop("quality_" + day + ".csv", day, seed(day), lines(day), true);
                Path claimed = home.move(file, "working", file.getFileName().toString());
                runs.accept(jobs.get(JOB), claimed, home, file.getFileName().toString(), "schedule", Map.of());
                runs.awaitQuiet();
            } finally {
                clock.pretend(null);
            }
        }
    }

    private static long seed(LocalDate day) {
        return day.toEpochDay();
    }

    private static long lines(LocalDate day) {
        return 380 + day.toEpochDay() * 37 % 160;
    }

    private static String text(String name) throws IOException {
        try (InputStream in = DemoWorld.class.getResourceAsStream("/demo/" + name)) {
            return new String(in.readAllBytes(), StandardCharsets.UTF_8);
        }
    }

    @EventListener
    void close(ContextClosedEvent event) {
        if (laboratory != null) {
            laboratory.close();
        }
    }
}
