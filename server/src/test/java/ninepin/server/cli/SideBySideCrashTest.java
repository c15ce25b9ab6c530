package ninepin.server.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import ninepin.core.job.Definitions;
import ninepin.core.job.Job;
import ninepin.core.testing.MariaDbServer;
import ninepin.core.testing.TestDatabase;
import ninepin.server.testing.AccountsProcess;
import ninepin.server.testing.Storm;
import ninepin.standins.SupplyVouchers;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.api.parallel.Execution;
import org.junit.jupiter.api.parallel.ExecutionMode;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/**
 * Vouchers go to tables, two of which the database numbers, to Farm Accounts and to files side by side, while the command, the database and Farm Accounts are killed
 * at any instant, and Farm Accounts fails every fifth request, half of them after it has booked.
 */
@Execution(ExecutionMode.CONCURRENT)
class SideBySideCrashTest {

    private static final int VOUCHERS = 250 * Storm.times();

    @TempDir
    Path folder;

    @Test
    @Timeout(value = 12, unit = TimeUnit.HOURS)
    void nothing_is_lost_and_no_voucher_is_booked_twice() throws Exception {
        Path input = folder.resolve("supplies.txt");
        try (OutputStream out = new BufferedOutputStream(Files.newOutputStream(input))) {
            new SupplyVouchers(5, true).write(LocalDate.of(2026, 11, 23), 1, VOUCHERS, out);
        }
        try (TestDatabase server = MariaDbServer.start();
                AccountsProcess calmAccounts = new AccountsProcess(folder.resolve("calm-accounts"));
                AccountsProcess accounts = new AccountsProcess(folder.resolve("stormy-accounts"))) {
            CommandLoad calm = load(server, "calm", input, calmAccounts);
            assertThat(calm.start().waitFor()).as(calm::lastProgress).isEqualTo(1);

            CommandLoad stormy = load(server, "stormy", input, accounts);
            accounts.misbehave("slow=1&fail=20&busy=0&refuse=0");
            Restarted command = new Restarted(stormy);
            new Storm("side by side", Duration.ofSeconds(40))
                    .event("command killed", 6, random -> command.kill())
                    .event("command frozen", 1, random -> command.freeze(random.nextInt(400)))
                    .event("database killed", 1, random -> restart(server, random))
                    .event("Farm Accounts killed", 3, random -> restart(accounts, random))
                    .rage(command::isThrough, 3_000);
            accounts.misbehave("slow=0&fail=30&busy=0&refuse=0");
            command.awaitEnd();

            assertThat(accounts.booked()).doesNotHaveDuplicates().containsExactlyElementsOf(calmAccounts.booked());
            assertThat(stormy.checksum()).isEqualTo(calm.checksum());
            assertThat(files("stormy")).isEqualTo(files("calm"));
            assertThat(files("stormy")).hasSizeGreaterThan(8);
            assertThat(stormy.journal()).isEqualTo(calm.journal());
            if (command.reports()) {
                assertThat(stormy.report().get("places").get(1).get("tally"))
                        .isEqualTo(calm.report().get("places").get(1).get("tally"));
                assertThat(stormy.report().get("tally")).isEqualTo(calm.report().get("tally"));
            }
            System.out.printf(
                    "crash test (side by side): %d starts; %d vouchers booked, %s%n",
                    command.starts(), accounts.booked().size(), stormy.checksum());
        }
    }

    private static void restart(TestDatabase server, Random random) throws InterruptedException {
        server.kill();
        Thread.sleep(random.nextInt(100));
        server.launch();
    }

    private static synchronized void restart(AccountsProcess accounts, Random random) throws Exception {
        accounts.kill();
        Thread.sleep(random.nextInt(100));
        accounts.launch();
        accounts.misbehave("slow=1&fail=20&busy=0&refuse=0");
    }

    /** What was written, by name; what is hidden is no file yet. */
    private Map<String, String> files(String name) throws IOException {
        Map<String, String> files = new TreeMap<>();
        try (Stream<Path> all = Files.list(folder.resolve(name + "-out"))) {
            for (Path path : all.toList()) {
                files.put(path.getFileName().toString(), Files.readString(path));
            }
        }
        return files;
    }

    /** The demo's job, with files, parents and children by numbers of the database, and a statement of its own. */
    private static Job job() throws IOException {
        ObjectNode job = Definitions.mapper()
                .readTree(Files.readString(Path.of("..", "demo", "supplies-on-account.job.json")))
                .asObject();
        ArrayNode deliveries = job.path("deliveries").asArray();
        for (JsonNode more : Definitions.mapper().readTree(MORE)) {
            deliveries.add(more);
        }
        job.set("statements", Definitions.mapper().readTree(STATEMENTS));
        return Definitions.job(job.toString());
    }

    private static final String STATEMENTS =
            """
            [{"connection":"warehouse","when":"before","alone":true,"sql":"INSERT INTO told VALUES ('begun')"},
             {"connection":"warehouse","when":"after","sql":"INSERT INTO told SELECT COUNT(*) FROM booking_line"},
             {"connection":"warehouse","when":"after","alone":true,"sql":"INSERT INTO told VALUES ('done')"}]
            """;

    private static final String FILE =
            """
            {"root":"out","name":"vouchers_{number:3}.txt","per":"records","records":100,"layout":{"name":"out",
             "format":{"kind":"fixed-length","charset":"UTF-8"},"recordTypes":[
              {"name":"v","when":{"by":"tag","start":1,"values":["V"]},"fields":[{"name":"no","start":2,"length":12,"type":{"is":"text","length":12}}]},
              {"name":"i","parent":"v","when":{"by":"tag","start":1,"values":["I"]},"fields":[{"name":"article","start":2,"length":10,"type":{"is":"text","length":10}},
               {"name":"amount","start":12,"length":12,"type":{"is":"decimal","precision":11,"scale":2,"form":{"sign":"trailing","implied":true}}}]},
              {"name":"t","when":{"by":"tag","start":1,"values":["T"]},"fields":[{"name":"items","start":2,"length":6,"type":{"is":"integer"}},
               {"name":"amount","start":8,"length":14,"type":{"is":"decimal","precision":13,"scale":2,"form":{"sign":"trailing","implied":true}}}]}],
             "fileChecks":[{"rule":"count","field":"t.items","of":"i"},{"rule":"total","field":"t.amount","of":"i.amount"}]}}
            """;

    private static final String MORE =
            """
            [{"of":"voucher","to":{"connection":"warehouse","table":"booking"},"shaping":[
               {"target":"voucher_no","take":{"from":"field","field":"Voucher"}}]},
             {"of":"item","to":{"connection":"warehouse","table":"booking_line"},"shaping":[
               {"target":"booking","take":{"from":"key","table":"booking"}},
               {"target":"article","take":{"from":"field","field":"Article"}},
               {"target":"amount","take":{"from":"field","field":"Amount"}}]},
             {"of":"voucher","to":{"kind":"file","file":FILE,"record":"v"},"shaping":[
               {"target":"no","take":{"from":"field","field":"Voucher"}}]},
             {"of":"item","to":{"kind":"file","file":FILE,"record":"i"},"shaping":[
               {"target":"article","take":{"from":"field","field":"Article"}},
               {"target":"amount","take":{"from":"field","field":"Amount"}}]},
             {"of":"item","summary":{"by":[{"name":"Farm","is":"voucher.Farm"}],"totals":[{"name":"amount","take":"sum","of":"Amount"}]},
              "to":{"kind":"file","file":{"root":"out","name":"farms.csv","layout":{"name":"farms",
               "format":{"kind":"delimited","delimiter":";","header":true},"recordTypes":[{"name":"farm","fields":[
                {"name":"farm","type":{"is":"integer"}},{"name":"amount","type":{"is":"decimal","precision":15,"scale":2}}]}]}}},
              "shaping":[{"target":"farm","take":{"from":"field","field":"Farm"}},{"target":"amount","take":{"from":"field","field":"amount"}}]}]
            """
                    .replace("FILE", FILE);

    private CommandLoad load(TestDatabase server, String name, Path input, AccountsProcess accounts)
            throws IOException {
        Path demo = Path.of("..", "demo");
        List<String> statements = new ArrayList<>(
                List.of(Files.readString(demo.resolve("tables.sql")).split(";\\s*\n")));
        statements.add("CREATE TABLE booking (id BIGINT PRIMARY KEY AUTO_INCREMENT, voucher_no VARCHAR(10) NOT NULL)");
        statements.add("CREATE TABLE booking_line (booking BIGINT NOT NULL, article VARCHAR(8), amount DECIMAL(11,2),"
                + " FOREIGN KEY (booking) REFERENCES booking (id))");
        statements.add("CREATE TABLE told (what VARCHAR(20))");
        statements.add("INSERT INTO farm (farm, name) SELECT seq, CONCAT('Farm ', seq) FROM seq_1_to_214");
        CommandLoad load = new CommandLoad(
                folder,
                server,
                name,
                new CommandLoad.Subject(
                        MariaDbServer::start,
                        job(),
                        Definitions.layout(Files.readString(demo.resolve("supplies-on-account.layout.json"))),
                        statements,
                        "SELECT COUNT(*), SUM(CRC32(CONCAT_WS('|', v.voucher_no, v.farm, farm_name, items, goods, file_line,"
                                + " article, article_group, debit, credit))) FROM voucher v"
                                + " JOIN voucher_line l ON l.voucher_no = v.voucher_no UNION ALL"
                                + " SELECT COUNT(*), SUM(CRC32(CONCAT_WS('|', voucher_no, article, amount))) FROM booking b"
                                + " JOIN booking_line l ON l.booking = b.id UNION ALL"
                                + " SELECT COUNT(*), GROUP_CONCAT(what ORDER BY what) FROM told"),
                input);
        load.commitRows = 150;
        load.set("ninepin.roots.out", folder.resolve(name + "-out").toString());
        Path description = folder.resolve(name + "-openapi.json");
        try (var in = AccountsProcess.class.getResourceAsStream("/farm-accounts/openapi.json")) {
            Files.write(description, in.readAllBytes());
        }
        load.set("ninepin.connections.farm-accounts.base", accounts.address() + "/api");
        load.set("ninepin.connections.farm-accounts.title", "Farm Accounts");
        load.set("ninepin.connections.farm-accounts.authentication", "bearer");
        load.set("ninepin.connections.farm-accounts.password", AccountsProcess.TOKEN);
        load.set("ninepin.connections.farm-accounts.description", description.toString());
        return load;
    }
}
