package ninepin.server.storm;

import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.time.LocalDate;
import java.time.YearMonth;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import ninepin.core.job.Definitions;
import ninepin.core.testing.MariaDbServer;
import ninepin.server.testing.AccountsProcess;
import ninepin.server.testing.ServerProcess;
import ninepin.standins.FarmRegister;
import ninepin.standins.QualityResults;
import ninepin.standins.SupplyVouchers;
import ninepin.standins.TankerCollections;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ObjectNode;

/** The application with all jobs of the demo, on a database and Farm Accounts of its own, and what comes of its files. */
final class Dairy implements AutoCloseable {

    static final List<String> JOBS =
            List.of("quality-results", "tanker-collections", "farm-register", "supplies-on-account");
    private static final String STATEMENT = "producer-statement";
    private static final List<String> LISTS = List.of("routes", "tests", "articles", "farms");
    private static final Map<String, String> FOLDERS = Map.of(
            "quality-results", "laboratory/outbox",
            "tanker-collections", "tankers/inbox",
            "farm-register", "registry/out",
            "supplies-on-account", "store/outbox");
    private static final Path DEMO = Path.of("..", "demo");

    private final Path folder;
    private final MariaDbServer database;
    private final String tables;
    final ServerProcess app;
    final AccountsProcess accounts;

    Dairy(Path folder, MariaDbServer database, String name) throws Exception {
        this.folder = Files.createDirectories(folder.resolve(name));
        this.database = database;
        this.tables = "larkfell_" + name;
        database.database(tables);
        for (String statement : Files.readString(DEMO.resolve("tables.sql")).split(";\\s*\n")) {
            if (!statement.isBlank()) {
                database.execute(tables, statement);
            }
        }
        this.accounts = new AccountsProcess(this.folder.resolve("accounts"));
        this.app = new ServerProcess(this.folder, database, "ninepin_" + name).set("NINEPIN_PAUSESECONDS", "1");
        for (String root : List.of("laboratory", "tankers", "registry", "store", "bank")) {
            Files.createDirectories(root(root));
            app.set("NINEPIN_ROOTS_" + root.toUpperCase(), root(root).toString());
        }
        for (String job : JOBS) {
            Files.createDirectories(inbox(job));
        }
        app.start();
        setUp();
    }

    Path folder() {
        return folder;
    }

    private Path root(String name) {
        return folder.resolve("files").resolve(name);
    }

    private Path inbox(String job) {
        return folder.resolve("files").resolve(FOLDERS.get(job));
    }

    private void setUp() throws Exception {
        ask(
                "PUT",
                "/api/v1/connections/warehouse",
                "{\"title\":\"Warehouse\",\"host\":\"127.0.0.1\",\"port\":" + database.port() + ",\"database\":\""
                        + tables + "\",\"user\":\"root\",\"password\":\"\"}");
        ask(
                "PUT",
                "/api/v1/connections/farm-accounts",
                "{\"title\":\"Farm Accounts\",\"kind\":\"application\",\"port\":0,\"base\":\"" + accounts.address()
                        + "/api\",\"authentication\":\"bearer\",\"password\":\"" + AccountsProcess.TOKEN
                        + "\",\"descriptionPath\":\"/openapi.json\"}");
        for (String list : LISTS) {
            String text = Files.readString(DEMO.resolve(list + ".codes.json"));
            ask("POST", "/api/v1/code-lists", "{\"basedOn\":0,\"note\":\"\",\"list\":" + text + "}");
        }
        for (String job : JOBS) {
            ObjectNode definition = definition(job + ".job");
            ObjectNode pickUp = definition.path("pickUp").asObject();
            pickUp.path("schedule").asObject().put("everySeconds", 1);
            pickUp.path("ready").asObject().put("unchangedSeconds", 1);
            put(definition, definition(job + ".layout"));
        }
        JsonNode bank = definition("bank-statement.layout");
        ObjectNode statement = definition(STATEMENT + ".job");
        for (JsonNode delivery : statement.path("deliveries")) {
            delivery.path("to").path("file").asObject().set("layout", bank);
        }
        put(statement, definition(STATEMENT + ".layout"));
    }

    private void put(ObjectNode job, JsonNode layout) throws Exception {
        String name = job.path("name").asString();
        ask("POST", "/api/v1/jobs", "{\"revision\":0,\"job\":" + job + ",\"layout\":" + layout + "}");
        JsonNode live = ask("POST", "/api/v1/jobs/" + name + "/live", null);
        if (live.path("version").isNull()) {
            throw new IllegalStateException(name + " does not go live: " + live);
        }
        if (JOBS.contains(name)) {
            ask("PUT", "/api/v1/jobs/" + name + "/schedule?on=true", null);
        }
    }

    private static ObjectNode definition(String name) throws IOException {
        return Definitions.mapper()
                .readTree(Files.readString(DEMO.resolve(name + ".json")))
                .asObject();
    }

    JsonNode ask(String method, String path, String json) throws Exception {
        return app.ask(method, path, json);
    }

    /** The farms that other jobs look up, which have to be there before. */
    void bringRegister() throws Exception {
        drop("farm-register", "register-1.xml", out -> new FarmRegister(3, true)
                .write(YearMonth.of(2026, 11), 2_000, out));
        awaitQuiet(120);
    }

    /** The files of the storm; the same ones whenever they are made on one day. */
    void bringFiles(int times) throws IOException {
        LocalDate day = LocalDate.now().minusDays(3);
        for (int n = 1; n <= times; n++) {
            int number = n;
            drop("quality-results", "quality_" + n + ".csv", out -> new QualityResults(100 + number, true)
                    .write(day.minusDays(number), 10_000, out));
            drop("tanker-collections", "collections_" + n + ".dat", out -> new TankerCollections(
                            3, number == 2 ? TankerCollections.Mistake.TRAILER : TankerCollections.Mistake.FARM)
                    .write(7, day, number * 10_000, 600, 20, out));
            drop("supplies-on-account", "supplies_" + n + ".txt", out -> new SupplyVouchers(5 + number, true)
                    .write(day, number * 10_000, 900, out));
        }
        // The same farms once more, so that what is looked up is the same at any time.
        drop("farm-register", "register-2.xml", out -> {
            new FarmRegister(3, true).write(YearMonth.of(2026, 11), 2_000, out);
            out.write('\n');
        });
    }

    private interface Content {
        void write(OutputStream out) throws IOException;
    }

    private void drop(String job, String name, Content content) throws IOException {
        Path part = inbox(job).resolve("." + name);
        try (OutputStream out = new BufferedOutputStream(Files.newOutputStream(part))) {
            content.write(out);
        }
        Files.move(part, inbox(job).resolve(name), StandardCopyOption.ATOMIC_MOVE);
    }

    /** Asks for the statement, which writes files; asked again where the application was not there to answer. */
    void askStatement() throws Exception {
        ask("POST", "/api/v1/jobs/" + STATEMENT + "/ask", "{}");
    }

    /** Whether nothing is left to be done without a person. */
    boolean isQuiet() throws Exception {
        for (String job : JOBS) {
            if (!names(inbox(job)).isEmpty()) {
                return false;
            }
        }
        for (JsonNode run : runs()) {
            if (List.of("WAITING", "RUNNING", "PAUSED", "TAKING_BACK").contains(state(run))) {
                return false;
            }
        }
        return true;
    }

    void awaitQuiet(int seconds) throws Exception {
        long until = System.nanoTime() + seconds * 1_000_000_000L;
        while (!isQuiet()) {
            if (System.nanoTime() > until) {
                throw new IllegalStateException("It does not come to rest: " + ask("GET", "/api/v1/runs", null));
            }
            Thread.sleep(200);
        }
    }

    /** All runs there are, which may be more than one page. */
    private List<JsonNode> runs() throws Exception {
        List<JsonNode> all = new ArrayList<>();
        String after = "";
        do {
            JsonNode page = ask("GET", "/api/v1/runs?most=200&after=" + after, null);
            page.path("items").forEach(all::add);
            after = page.path("next").asString(null);
        } while (after != null);
        return all;
    }

    /** What a person does in the end: restarts what was stopped, and what the job wants a person to restart. */
    void restartWhatWaitsForAPerson() throws Exception {
        for (JsonNode run : runs()) {
            if (List.of("STOPPED", "INTERRUPTED").contains(state(run))) {
                app.send("POST", "/api/v1/runs/" + run.path("id").asLong() + "/restart", null);
            }
        }
    }

    static String state(JsonNode run) {
        return run.path("state").asString();
    }

    private String faultsInLog() throws IOException {
        List<String> lines = Files.readAllLines(app.log());
        return IntStream.range(0, lines.size())
                .filter(i -> lines.get(i).contains("broke off"))
                .mapToObj(i -> "\n" + String.join("\n", lines.subList(i, Math.min(lines.size(), i + 60))))
                .collect(Collectors.joining());
    }

    /** A file is put away after the end of its run is on record, by the next look where its folder or the database was away. */
    private void awaitPutAway() throws Exception {
        for (int i = 0; i < 300; i++) {
            boolean away = true;
            for (String job : JOBS) {
                away &= names(home(job).resolve("working")).isEmpty();
            }
            if (away) {
                return;
            }
            Thread.sleep(100);
        }
    }

    private Path home(String job) {
        return inbox(job).resolve(".ninepin").resolve(job);
    }

    /** All that came of the files, so that two dairies can be compared. */
    Map<String, String> outcome() throws Exception {
        awaitPutAway();
        Map<String, String> all = new TreeMap<>();
        for (JsonNode run : runs()) {
            String file = run.path("fileName").asString().replaceAll("_\\d{8}-\\d{6}", "");
            ObjectNode tally = run.path("tally").asObject();
            // Of a row that two files have, the first adds it: a run that a person stops lets others pass.
            long rows = 0;
            for (String part : List.of("added", "changed", "unchanged")) {
                long of = tally.remove(part).asLong();
                rows += of;
                all.merge(
                        part + " by " + run.path("job").asString(),
                        String.valueOf(of),
                        (a, b) -> String.valueOf(Long.parseLong(a) + Long.parseLong(b)));
            }
            // What broke off for a reason that no storm gives says why.
            JsonNode why = run.path(run.path("code").asString("").equals("RUN-03") ? "message" : "code");
            all.merge(
                    "run of " + file,
                    state(run) + " " + tally + " rows " + rows + " " + why,
                    (a, b) -> Stream.of(a, b).sorted().collect(Collectors.joining(" and ")));
            long id = run.path("id").asLong();
            List<String> rejects = new ArrayList<>();
            app.bytes("/api/v1/runs/" + id + "/rejects.csv");
            rejects.add(Integer.toHexString(new String(
                            app.bytes("/api/v1/runs/" + id + "/rejects.csv"),
                            java.nio.charset.StandardCharsets.ISO_8859_1)
                    .hashCode()));
            all.merge("rejects of " + file, String.join(" ", rejects), (a, b) -> Stream.of(a, b)
                    .sorted()
                    .collect(Collectors.joining(" and ")));
        }
        for (String table : database.rows(
                tables,
                "SELECT table_name FROM information_schema.tables WHERE table_schema = '" + tables
                        + "' AND table_name NOT LIKE 'ninepin%'")) {
            String columns = database.rows(
                            tables,
                            "SELECT GROUP_CONCAT(CONCAT('`', column_name, '`') ORDER BY column_name) FROM information_schema.columns"
                                    + " WHERE table_schema = '" + tables + "' AND table_name = '" + table
                                    + "' AND column_name <> 'loaded_by_run'")
                    .get(0);
            all.put(
                    "table " + table,
                    database.rows(
                                    tables,
                                    "SELECT COUNT(*), SUM(CRC32(CONCAT_WS('|', " + columns + "))) FROM `" + table + "`")
                            .get(0));
        }
        all.put("vouchers", booked());
        for (String job : JOBS) {
            Path home = home(job);
            all.put("done by " + job, names(home.resolve("done")).toString());
            all.put("failed by " + job, names(home.resolve("failed")).toString());
            all.put("left by " + job, names(home.resolve("working")).toString());
        }
        Path drop = root("bank").resolve("drop");
        for (String name : names(drop)) {
            all.put(
                    "statement " + name,
                    Integer.toHexString(Files.readString(drop.resolve(name)).hashCode()));
        }
        all.put("hidden files of the bank", hidden(drop).toString());
        return all;
    }

    /** How many vouchers are booked, which has to be each once, and their content whatever their order. */
    private String booked() throws Exception {
        List<String> booked = accounts.booked();
        return booked.size() + " booked, " + booked.stream().distinct().count() + " different, "
                + booked.stream().mapToLong(String::hashCode).sum();
    }

    private static List<String> names(Path folder) throws IOException {
        return list(folder).stream().filter(n -> !n.startsWith(".")).toList();
    }

    private static List<String> hidden(Path folder) throws IOException {
        return list(folder).stream().filter(n -> n.startsWith(".")).toList();
    }

    private static List<String> list(Path folder) throws IOException {
        if (!Files.isDirectory(folder)) {
            return List.of();
        }
        try (Stream<Path> all = Files.list(folder)) {
            return all.map(p -> p.getFileName().toString()).sorted().toList();
        }
    }

    @Override
    public void close() throws InterruptedException {
        app.close();
        accounts.close();
    }
}
