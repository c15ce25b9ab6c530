package ninepin.core.deliver.application;

import com.sun.net.httpserver.HttpServer;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Queue;
import java.util.concurrent.ConcurrentLinkedQueue;

/** An application that answers what it is told to, one answer after another, and remembers what it was sent. */
final class ScriptedServer implements AutoCloseable {

    /** What it was sent. */
    record Sent(String method, String target, String key, String authorization, String type, String body) {}

    /** What it answers; status 0 breaks the connection off. */
    record Reply(int status, String body, Map<String, String> headers) {
        static Reply of(int status, String body) {
            return new Reply(status, body, Map.of());
        }
    }

    private final HttpServer server;
    private final Queue<Reply> script = new ConcurrentLinkedQueue<>();
    final List<Sent> sent = Collections.synchronizedList(new ArrayList<>());

    ScriptedServer() throws IOException {
        server = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 0);
        server.createContext("/", exchange -> {
            try (exchange) {
                sent.add(new Sent(
                        exchange.getRequestMethod(),
                        exchange.getRequestURI().toString(),
                        exchange.getRequestHeaders().getFirst("Idempotency-Key"),
                        exchange.getRequestHeaders().getFirst("Authorization"),
                        exchange.getRequestHeaders().getFirst("Content-Type"),
                        new String(exchange.getRequestBody().readAllBytes(), StandardCharsets.UTF_8)));
                Reply reply = script.isEmpty() ? Reply.of(201, "{\"id\":\"N" + sent.size() + "\"}") : script.poll();
                if (reply.status() > 0) {
                    reply.headers()
                            .forEach((n, v) -> exchange.getResponseHeaders().set(n, v));
                    byte[] body = reply.body().getBytes(StandardCharsets.UTF_8);
                    exchange.sendResponseHeaders(reply.status(), body.length == 0 ? -1 : body.length);
                    exchange.getResponseBody().write(body);
                }
            }
        });
        server.start();
    }

    /** Answers so next; then that a document is taken. */
    ScriptedServer answers(Reply... replies) {
        script.addAll(List.of(replies));
        return this;
    }

    String address() {
        return "http://127.0.0.1:" + server.getAddress().getPort() + "/api";
    }

    @Override
    public void close() {
        server.stop(0);
    }
}
