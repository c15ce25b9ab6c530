package ninepin.server.demo;

import java.io.BufferedOutputStream;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.YearMonth;
import java.time.ZoneId;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import ninepin.core.deliver.TargetException;
import ninepin.core.deliver.database.Dialect;
import ninepin.core.job.Definitions;
import ninepin.core.layout.Layout;
import ninepin.server.codes.CodeLists;
import ninepin.server.config.AdjustableClock;
import ninepin.server.config.NinepinSettings;
import ninepin.server.connections.Connections;
import ninepin.server.jobs.Jobs;
import ninepin.server.layouts.LayoutLibrary;
import ninepin.server.pickup.PickUps;
import ninepin.server.runs.FileHome;
import ninepin.server.runs.Runs;
import ninepin.standins.FarmRegister;
import ninepin.standins.FellWeather;
import ninepin.standins.Laboratory;
import ninepin.standins.MilkExchange;
import ninepin.standins.QualityResults;
import ninepin.standins.SupplyVouchers;
import ninepin.standins.TankerCollections;
import ninepin.standins.TankerCollections.Mistake;
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
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/** Sets the demo up at its first start, and lets the laboratory drop a new file every few minutes. */
@Component
@Order(30)
@ConditionalOnProperty("ninepin.demo")
class DemoWorld implements ApplicationRunner {

    private static final Logger LOG = LoggerFactory.getLogger(DemoWorld.class);
    private static final String QUALITY = "quality-results";
    private static final String TANKERS = "tanker-collections";
    private static final String REGISTER = "farm-register";
    private static final String SUPPLIES = "supplies-on-account";
    private static final String STATEMENT = "producer-statement";
    private static final String PRICES = "milk-prices";
    private static final String WEATHER = "fell-weather";
    private static final int STATIONS = 5;
    private static final int WEEK = 7;
    private static final List<String> CODE_LISTS = List.of("routes", "tests", "articles", "farms");
    private static final Mistake[] MISTAKES = {
        Mistake.NONE, Mistake.FARM, Mistake.TRAILER, Mistake.NONE, Mistake.LETTER, Mistake.SHORT, Mistake.NONE
    };
    /** The schema of the register, the document that brings the other first. */
    private static final List<String> SCHEMA = List.of("farm-register.xsd", "herd.xsd");

    private static final int DAYS = 21;

    private final Jobs jobs;
    private final CodeLists codes;
    private final Runs runs;
    private final Connections connections;
    private final LayoutLibrary library;
    private final PickUps queries;
    private final NinepinSettings settings;
    private final AdjustableClock clock;
    private final long feedSeconds;
    private Laboratory laboratory;

    DemoWorld(
            Jobs jobs,
            CodeLists codes,
            Runs runs,
            Connections connections,
            LayoutLibrary library,
            PickUps queries,
            NinepinSettings settings,
            java.time.Clock clock,
            @Value("${ninepin.demo-feed-seconds:180}") long feedSeconds) {
        this.jobs = jobs;
        this.codes = codes;
        this.runs = runs;
        this.connections = connections;
        this.library = library;
        this.queries = queries;
        this.settings = settings;
        this.clock = (AdjustableClock) clock;
        this.feedSeconds = feedSeconds;
    }

    @Override
    public void run(ApplicationArguments args) throws Exception {
        laboratory = new Laboratory(folder("laboratory", "outbox"));
        if (jobs.all().stream().noneMatch(j -> j.name().equals(QUALITY))) {
            setUp();
        }
        laboratory.feed(45, feedSeconds);
    }

    private Path folder(String root, String name) throws IOException {
        Path path = settings.roots().get(root);
        if (path == null) {
            throw new IllegalStateException("The demo needs a root folder named " + root + ".");
        }
        return Files.createDirectories(path.resolve(name));
    }

    private void setUp() throws IOException, TargetException, SQLException {
        LOG.info("Making the demo's three weeks of runs.");
        try (Connection c = Dialect.of(connections.address("warehouse"))
                        .connect(connections.address("warehouse"), Dialect.Use.STATEMENTS);
                Statement s = c.createStatement()) {
            for (String statement : text("tables.sql").split(";\\s*\n")) {
                if (!statement.isBlank()) {
                    s.execute(statement);
                }
            }
        }
        for (String list : CODE_LISTS) {
            codes.create(Definitions.codeList(text(list + ".codes.json")), null, "demo");
        }
        LocalDate today = LocalDate.now();
        make(QUALITY, "quality_" + today + ".csv", out -> new QualityResults(4711, true).write(today, 420, out));
        make(TANKERS, "collections_R07_sample.dat", out -> new TankerCollections(7, Mistake.LETTER)
                .write(7, today, 900_001, 2, 14, out));
        make(REGISTER, "register-" + YearMonth.from(today) + ".xml", out -> new FarmRegister(3, true)
                .write(YearMonth.from(today), 120, out));
        make(SUPPLIES, "supplies_" + today + ".txt", out -> new SupplyVouchers(11, true)
                .write(today, 880_001, 60, out));
        make(PRICES, "prices_" + YearMonth.from(today) + ".xlsx", out -> new MilkExchange(5, true)
                .write(YearMonth.from(today), 20, out));
        make(WEATHER, "weather_" + today + ".json", out -> new FellWeather(9, true).write(today, STATIONS, out));
        for (String document : SCHEMA) {
            Files.writeString(folder("registry", "schema").resolve(document), text(document));
        }
        Files.writeString(folder("tankers", "copybook").resolve("collections.cpy"), text("collections.cpy"));
        makeStatement();
        pastRuns(today);
        statements(today);
        LocalDate yesterday = today.minusDays(1);
        laboratory.drop("quality_" + today + "_noon.csv", today, 77, 60, false);
        // Sent a second time, byte for byte.
        laboratory.drop("quality_" + yesterday + "_copy.csv", yesterday, seed(yesterday), lines(yesterday), true);
        jobs.schedule(QUALITY, true);
        jobs.schedule(TANKERS, true);
        jobs.schedule(REGISTER, true);
        jobs.schedule(SUPPLIES, true);
        jobs.schedule(STATEMENT, true);
        jobs.schedule(PRICES, true);
        jobs.schedule(WEATHER, true);
    }

    /** Makes a job of its definitions, with a sample, and puts it live. */
    private void make(String name, String sampleName, Content sample) throws IOException {
        JsonNode job = Definitions.mapper().readTree(text(name + ".job.json"));
        JsonNode layout = Definitions.mapper().readTree(text(name + ".layout.json"));
        if (name.equals(REGISTER)) {
            ArrayNode schema = layout.path("format").asObject().putArray("schema");
            for (String document : SCHEMA) {
                schema.addObject().put("name", document).put("text", text(document));
            }
        }
        jobs.create(job, layout, "demo");
        ByteArrayOutputStream bytes = new ByteArrayOutputStream();
        sample.write(bytes);
        jobs.setSample(name, sampleName, new ByteArrayInputStream(bytes.toByteArray()));
        jobs.putLive(name, "demo");
    }

    /** The job that asks the warehouse and writes files; their layout stands in the library like any other. */
    private void makeStatement() throws IOException {
        Layout bank = library.keep(Definitions.layout(text("bank-statement.layout.json")), "demo");
        ObjectNode job =
                Definitions.mapper().readTree(text(STATEMENT + ".job.json")).asObject();
        for (JsonNode delivery : job.path("deliveries")) {
            delivery.path("to")
                    .path("file")
                    .asObject()
                    .set("layout", Definitions.mapper().valueToTree(bank));
        }
        jobs.create(job, Definitions.mapper().readTree(text(STATEMENT + ".layout.json")), "demo");
        jobs.putLive(STATEMENT, "demo");
    }

    /** Asks for the statement of the last month, as the bank got it. */
    private void statements(LocalDate today) throws IOException {
        clock.pretend(
                today.minusDays(2).atTime(6, 0).atZone(ZoneId.systemDefault()).toInstant());
        try {
            queries.lookAndWait(STATEMENT);
            runs.awaitQuiet();
            try (Stream<Path> asked = Files.list(
                    settings.data().resolve("uploads").resolve(STATEMENT).resolve("done"))) {
                Path rows = asked.findFirst().orElseThrow();
                try (InputStream bytes = Files.newInputStream(rows)) {
                    jobs.setSample(STATEMENT, rows.getFileName().toString(), bytes);
                }
            }
        } finally {
            clock.pretend(null);
        }
    }

    /** Runs the jobs on files of each past day, with the clock set back to it. */
    private void pastRuns(LocalDate today) throws IOException {
        Path outbox = folder("laboratory", "outbox");
        Path inbox = folder("tankers", "inbox");
        Path out = folder("registry", "out");
        Path store = folder("store", "outbox");
        for (int b = DAYS; b >= 1; b--) {
            int back = b;
            LocalDate day = today.minusDays(back);
            if (back == DAYS || day.getDayOfMonth() == 1) {
                past(
                        REGISTER,
                        out,
                        day.atTime(5, 30),
                        "register-" + YearMonth.from(day) + ".xml",
                        o -> new FarmRegister(day.toEpochDay(), true).write(YearMonth.from(day), 214, o));
            }
            if (back % 3 == 0) {
                past(
                        SUPPLIES,
                        store,
                        day.atTime(17, 30),
                        "supplies_" + day.toString().replace("-", "") + ".txt",
                        o -> new SupplyVouchers(day.toEpochDay(), back % 2 == 0)
                                .write(day, (DAYS - back) * 100L + 1, 40, o));
            }
            pricesAndWeather(day, back);
            for (int round = 0; round < 2; round++) {
                int route = 1 + (back * 2 + round) % 18;
                Mistake mistake = round == 1 ? MISTAKES[back % MISTAKES.length] : Mistake.NONE;
                int first = (DAYS - back) * 10 + round * 5 + 1;
                past(
                        TANKERS,
                        inbox,
                        day.atTime(10, 12 + round * 9, back % 50),
                        String.format(
                                "collections_R%02d_%s.dat",
                                route, day.toString().replace("-", "")),
                        o -> new TankerCollections(day.toEpochDay() + route, mistake)
                                .write(route, day, first, 3, 16, o));
            }
            past(QUALITY, outbox, day.atTime(19, 4, back % 50), "quality_" + day + ".csv", o -> new QualityResults(
                            seed(day), true)
                    .write(day, lines(day), o));
        }
    }

    /** The weather comes each evening; the prices of a month each week, as far as they are known then. */
    private void pricesAndWeather(LocalDate day, int back) throws IOException {
        past(WEATHER, folder("weather", "outbox"), day.atTime(23, 50), "weather_" + day + ".json", o -> new FellWeather(
                        seed(day), back % 5 == 2)
                .write(day, STATIONS, o));
        if (back % WEEK == 0) {
            YearMonth month = YearMonth.from(day);
            past(
                    PRICES,
                    folder("exchange", "outbox"),
                    day.atTime(18, 15),
                    "prices_" + month + "_" + day.getDayOfMonth() + ".xlsx",
                    o -> new MilkExchange(month.hashCode(), back != WEEK)
                            .write(month, Math.max(WEEK, day.getDayOfMonth()), o));
        }
    }

    private void past(String job, Path folder, LocalDateTime when, String name, Content content) throws IOException {
        clock.pretend(when.atZone(ZoneId.systemDefault()).toInstant());
        try {
            Path file = folder.resolve(name);
            try (OutputStream o = new BufferedOutputStream(Files.newOutputStream(file))) {
                content.write(o);
            }
            FileHome home = FileHome.below(folder, job);
            runs.accept(jobs.get(job), file, home, name, "schedule", Map.of());
            runs.awaitQuiet();
        } finally {
            clock.pretend(null);
        }
    }

    /** Writes a file of a stand-in. */
    private interface Content {
        void write(OutputStream out) throws IOException;
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
