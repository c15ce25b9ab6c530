package ninepin.server.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.concurrent.TimeUnit;
import ninepin.core.job.Definitions;
import ninepin.core.testing.MariaDbServer;
import ninepin.core.testing.TestDatabase;
import ninepin.standins.SupplyVouchers;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.api.parallel.Execution;
import org.junit.jupiter.api.parallel.ExecutionMode;

/**
 * Vouchers go to two tables and to Farm Accounts side by side, while the command, the database and Farm Accounts are killed
 * at any instant, and Farm Accounts fails every fifth request, half of them after it has booked.
 */
@Execution(ExecutionMode.CONCURRENT)
class SideBySideCrashTest {

    private static final int VOUCHERS = 250;
    private static final int KILLS = Integer.getInteger("ninepin.kills", 30);

    @TempDir
    Path folder;

    private final Random random = new Random(426);

    @Test
    @Timeout(value = 180, unit = TimeUnit.MINUTES)
    void nothing_is_lost_and_no_voucher_is_booked_twice() throws Exception {
        Path input = folder.resolve("supplies.txt");
        try (OutputStream out = new BufferedOutputStream(Files.newOutputStream(input))) {
            new SupplyVouchers(5, true).write(LocalDate.of(2026, 11, 23), 1, VOUCHERS, out);
        }
        try (TestDatabase server = MariaDbServer.start();
                AccountsProcess calmAccounts = new AccountsProcess(folder.resolve("calm-accounts"));
                AccountsProcess accounts = new AccountsProcess(folder.resolve("stormy-accounts"))) {
            CommandLoad calm = load(server, "calm", input, calmAccounts);
            assertThat(calm.start().waitFor()).isEqualTo(1);

            CommandLoad stormy = load(server, "stormy", input, accounts);
            int[] kills = new int[3];
            for (int kill = 0; kill < KILLS; kill++) {
                accounts.misbehave("slow=1&fail=20&busy=0&refuse=0");
                Process process = stormy.start();
                Thread.sleep(500 + random.nextInt(900));
                int whom = random.nextInt(10);
                if (whom == 0) {
                    server.kill();
                    Thread.sleep(random.nextInt(100));
                    server.launch();
                    kills[1]++;
                } else if (whom < 4) {
                    accounts.kill();
                    Thread.sleep(random.nextInt(100));
                    accounts.launch();
                    kills[2]++;
                }
                Thread.sleep(random.nextInt(200));
                if (process.isAlive()) {
                    process.destroyForcibly();
                    kills[0]++;
                }
                process.waitFor();
            }
            accounts.misbehave("slow=0&fail=30&busy=0&refuse=0");
            int exit = stormy.start().waitFor();
            assertThat(exit).as(stormy::lastProgress).isIn(1, 2);

            assertThat(accounts.booked()).doesNotHaveDuplicates().containsExactlyElementsOf(calmAccounts.booked());
            assertThat(stormy.checksum()).isEqualTo(calm.checksum());
            assertThat(stormy.journal()).isEqualTo(calm.journal());
            if (exit == 1) {
                assertThat(stormy.report().get("legs").get(1).get("tally"))
                        .isEqualTo(calm.report().get("legs").get(1).get("tally"));
                assertThat(stormy.report().get("tally")).isEqualTo(calm.report().get("tally"));
            }
            System.out.printf(
                    "crash test (side by side): %d kills of the command, %d of the database, %d of Farm Accounts; %d"
                            + " vouchers booked, %s%n",
                    kills[0], kills[1], kills[2], accounts.booked().size(), stormy.checksum());
        }
    }

    private CommandLoad load(TestDatabase server, String name, Path input, AccountsProcess accounts)
            throws IOException {
        Path demo = Path.of("..", "demo");
        List<String> statements = new ArrayList<>(
                List.of(Files.readString(demo.resolve("tables.sql")).split(";\\s*\n")));
        statements.add("INSERT INTO farm (farm, name) SELECT seq, CONCAT('Farm ', seq) FROM seq_1_to_214");
        CommandLoad load = new CommandLoad(
                folder,
                server,
                name,
                new CommandLoad.Subject(
                        MariaDbServer::start,
                        Definitions.job(Files.readString(demo.resolve("supplies-on-account.job.json"))),
                        Definitions.layout(Files.readString(demo.resolve("supplies-on-account.layout.json"))),
                        statements,
                        "SELECT COUNT(*), SUM(CRC32(CONCAT_WS('|', v.voucher_no, v.farm, farm_name, items, goods, file_line,"
                                + " article, article_group, debit, credit))) FROM voucher v"
                                + " JOIN voucher_line l ON l.voucher_no = v.voucher_no"),
                input);
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
