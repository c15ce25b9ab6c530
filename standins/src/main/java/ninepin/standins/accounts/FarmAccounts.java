package ninepin.standins.accounts;

import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpServer;
import java.io.Closeable;
import java.io.IOException;
import java.io.InputStream;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.ThreadLocalRandom;
import java.util.concurrent.atomic.AtomicLong;
import tools.jackson.core.JacksonException;

/**
 * The application: answers on loopback under {@code /api}, and shows what it has on its own page at {@code /}. Requests to
 * {@code /api/vouchers} need its token as a bearer token or in the header {@code X-Api-Key}.
 */
public final class FarmAccounts implements Closeable {

    private static final int MOST_BYTES = 4 << 20;

    static {
        // Head and body of an answer are written apart; without this the second waits for the caller, 40 ms each time.
        System.setProperty("sun.net.httpserver.nodelay", "true");
    }

    private final HttpServer server;
    private final ExecutorService threads = Executors.newFixedThreadPool(8);
    private final Ledger ledger;
    private final String token;
    private final AtomicLong requests = new AtomicLong();
    private volatile Switches switches = Switches.NONE;

    private FarmAccounts(HttpServer server, Ledger ledger, String token) {
        this.server = server;
        this.ledger = ledger;
        this.token = token;
    }

    /**
     * Starts it.
     *
     * @param port the port, 0 for any free one
     * @param ledger the file that keeps what is booked
     * @param token what callers have to show
     */
    public static FarmAccounts start(int port, Path ledger, String token) throws IOException {
        HttpServer server = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), port), 64);
        FarmAccounts accounts = new FarmAccounts(server, new Ledger(ledger), token);
        server.createContext("/api/openapi.json", accounts.safely(e -> accounts.description(e)));
        server.createContext("/api/vouchers", accounts.safely(e -> accounts.vouchers(e)));
        server.createContext("/switches", accounts.safely(e -> accounts.takeSwitches(e)));
        server.createContext("/", accounts.safely(e -> accounts.page(e)));
        server.setExecutor(accounts.threads);
        server.start();
        return accounts;
    }

    /** Takes the port and the file of the ledger; the token comes from the environment, FARM_ACCOUNTS_TOKEN. */
    public static void main(String[] args) throws IOException {
        String token = System.getenv("FARM_ACCOUNTS_TOKEN");
        if (args.length != 2 || token == null || token.isBlank()) {
            System.err.println("use: FARM_ACCOUNTS_TOKEN=... FarmAccounts PORT LEDGER");
            System.exit(64);
        }
        FarmAccounts accounts = start(Integer.parseInt(args[0]), Path.of(args[1]), token);
        System.out.println("Farm Accounts answers at " + accounts.address());
    }

    /** Where it answers. */
    public String address() {
        return "http://127.0.0.1:" + server.getAddress().getPort();
    }

    /** What is booked, the oldest first. */
    public List<Voucher.Booked> booked() {
        return ledger.all();
    }

    /** How many requests to book it has got. */
    public long requests() {
        return requests.get();
    }

    public void set(Switches newSwitches) {
        switches = newSwitches;
    }

    @Override
    public void close() throws IOException {
        server.stop(0);
        threads.shutdownNow();
        ledger.close();
    }

    private interface Handler {
        void handle(HttpExchange exchange) throws IOException, Refused, InterruptedException;
    }

    private com.sun.net.httpserver.HttpHandler safely(Handler handler) {
        return exchange -> {
            try (exchange) {
                answer(handler, exchange);
            }
        };
    }

    private static void answer(Handler handler, HttpExchange exchange) throws IOException {
        try {
            handler.handle(exchange);
        } catch (Refused e) {
            refuse(exchange, e);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    private void description(HttpExchange e) throws IOException {
        try (InputStream in = FarmAccounts.class.getResourceAsStream("/farm-accounts/openapi.json")) {
            send(e, 200, "application/json", in.readAllBytes());
        }
    }

    private void vouchers(HttpExchange e) throws IOException, Refused, InterruptedException {
        if (!allowed(e)) {
            throw new Refused(401, "Show the token of Farm Accounts.", List.of());
        }
        String rest =
                e.getRequestURI().getPath().substring("/api/vouchers".length()).replaceFirst("^/", "");
        switch (e.getRequestMethod() + (rest.isEmpty() ? "" : " one")) {
            case "GET" -> json(e, 200, ledger.all());
            case "POST" -> book(e);
            case "GET one" ->
                json(
                        e,
                        200,
                        ledger.numbered(rest)
                                .orElseThrow(() -> new Refused(404, "There is no voucher " + rest + ".", List.of())));
            case "DELETE one" -> {
                if (!ledger.cancel(rest)) {
                    throw new Refused(404, "Nothing is booked as " + rest + ".", List.of());
                }
                e.sendResponseHeaders(204, -1);
            }
            default -> throw new Refused(405, "That is not done with vouchers.", List.of());
        }
    }

    private void book(HttpExchange e) throws IOException, Refused, InterruptedException {
        requests.incrementAndGet();
        byte[] body = e.getRequestBody().readNBytes(MOST_BYTES + 1);
        if (body.length > MOST_BYTES) {
            throw new Refused(413, "A voucher has at most " + MOST_BYTES + " bytes.", List.of());
        }
        Switches now = switches;
        Thread.sleep(now.slowMillis());
        if (chance(now.busyPercent())) {
            e.getResponseHeaders().set("Retry-After", "1");
            throw new Refused(429, "Too many vouchers at once. Come again in a second.", List.of());
        }
        boolean fails = chance(now.failPercent());
        boolean before = ThreadLocalRandom.current().nextBoolean();
        if (fails && before) {
            throw new Refused(503, "Farm Accounts is out of order for a moment.", List.of());
        }
        Voucher voucher;
        try {
            voucher = Ledger.JSON.readValue(body, Voucher.class);
        } catch (JacksonException bad) {
            throw new Refused(400, "That is no voucher: " + bad.getOriginalMessage(), List.of());
        }
        Bookkeeper.check(voucher);
        String key = e.getRequestHeaders().getFirst("Idempotency-Key");
        boolean again = key != null && ledger.underKey(key).isPresent();
        if (!again && chance(now.refusePercent())) {
            throw new Refused(422, "The bookkeeper does not like this voucher.", List.of());
        }
        Voucher.Booked booked = ledger.book(key, voucher);
        if (fails) {
            throw new Refused(503, "Farm Accounts broke off before it could answer.", List.of());
        }
        Map<String, Object> answer = new LinkedHashMap<>();
        answer.put("accountNumber", booked.accountNumber());
        answer.put("bookedAt", booked.bookedAt());
        json(e, again ? 200 : 201, answer);
    }

    private static boolean chance(int percent) {
        return percent > 0 && ThreadLocalRandom.current().nextInt(100) < percent;
    }

    private boolean allowed(HttpExchange e) {
        String bearer = e.getRequestHeaders().getFirst("Authorization");
        String shown = bearer != null && bearer.startsWith("Bearer ")
                ? bearer.substring(7)
                : e.getRequestHeaders().getFirst("X-Api-Key");
        return shown != null
                && MessageDigest.isEqual(
                        shown.getBytes(StandardCharsets.UTF_8), token.getBytes(StandardCharsets.UTF_8));
    }

    private void takeSwitches(HttpExchange e) throws IOException {
        if (e.getRequestMethod().equals("POST")) {
            Map<String, Integer> form =
                    AccountsPage.numbers(new String(e.getRequestBody().readNBytes(4096), StandardCharsets.UTF_8));
            switches = new Switches(
                    form.getOrDefault("slow", 0),
                    form.getOrDefault("fail", 0),
                    form.getOrDefault("refuse", 0),
                    form.getOrDefault("busy", 0));
        }
        e.getResponseHeaders().set("Location", "/");
        e.sendResponseHeaders(303, -1);
    }

    private void page(HttpExchange e) throws IOException, Refused {
        if (!e.getRequestURI().getPath().equals("/")) {
            throw new Refused(404, "There is nothing here.", List.of());
        }
        send(
                e,
                200,
                "text/html; charset=utf-8",
                AccountsPage.of(ledger.all(), switches, requests.get()).getBytes(StandardCharsets.UTF_8));
    }

    private static void refuse(HttpExchange e, Refused refused) throws IOException {
        Map<String, Object> problem = new LinkedHashMap<>();
        problem.put("title", refused.status < 500 ? "The voucher was refused" : "Farm Accounts failed");
        problem.put("status", refused.status);
        problem.put("detail", refused.getMessage());
        if (!refused.errors.isEmpty()) {
            problem.put("errors", refused.errors);
        }
        send(e, refused.status, "application/problem+json", Ledger.JSON.writeValueAsBytes(problem));
    }

    private static void json(HttpExchange e, int status, Object answer) throws IOException {
        send(e, status, "application/json", Ledger.JSON.writeValueAsBytes(answer));
    }

    private static void send(HttpExchange e, int status, String type, byte[] body) throws IOException {
        e.getResponseHeaders().set("Content-Type", type);
        e.sendResponseHeaders(status, body.length);
        e.getResponseBody().write(body);
    }
}
