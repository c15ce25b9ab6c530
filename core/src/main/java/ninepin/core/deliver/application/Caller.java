package ninepin.core.deliver.application;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.net.ConnectException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpConnectTimeoutException;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.net.http.HttpTimeoutException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.GeneralSecurityException;
import java.security.KeyStore;
import java.time.DateTimeException;
import java.time.Duration;
import java.time.Instant;
import java.time.ZonedDateTime;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.BooleanSupplier;
import java.util.function.Consumer;
import javax.net.ssl.KeyManagerFactory;
import javax.net.ssl.SSLContext;
import ninepin.core.deliver.ApplicationAddress;
import ninepin.core.deliver.Authentication;
import ninepin.core.deliver.TargetException;
import ninepin.core.deliver.TargetException.Kind;

/**
 * Sends requests, and sends them again while the application is away, busy or out of order: each time after a longer wait,
 * or after as long as it asks for. Redirections are not followed, because a request that changes something is not repeated
 * elsewhere unasked.
 */
final class Caller {

    private static final int MOST_ANSWER = 1 << 20;
    private static final long NAP_MILLIS = 50;
    /** How long a stop waits for an answer. */
    private static final Duration STOP_WAITS = Duration.ofSeconds(5);

    private final ApplicationAddress address;
    private final RetryPolicy retries;
    private final BooleanSupplier stop;
    private final HttpClient client;
    private final Consumer<String> waiting;
    private final AtomicLong again = new AtomicLong();

    /**
     * @param stop whether a person has asked to stop, which ends a wait
     * @param waiting told why a request has to be sent again, before each wait; told null when nothing is waited for any more
     * @throws TargetException where the certificate cannot be read
     */
    Caller(ApplicationAddress address, RetryPolicy retries, BooleanSupplier stop, Consumer<String> waiting)
            throws TargetException {
        this.address = address;
        this.retries = retries;
        this.stop = stop;
        this.waiting = waiting;
        HttpClient.Builder builder = HttpClient.newBuilder()
                .version(HttpClient.Version.HTTP_1_1)
                .connectTimeout(Duration.ofSeconds(10))
                .followRedirects(HttpClient.Redirect.NEVER);
        if (address.authentication().by() == Authentication.By.CERTIFICATE) {
            builder.sslContext(certificate(address.authentication()));
        }
        this.client = builder.build();
    }

    private static SSLContext certificate(Authentication by) throws TargetException {
        char[] password = by.secret().toCharArray();
        try (InputStream in = new ByteArrayInputStream(Files.readAllBytes(Path.of(by.user())))) {
            KeyStore keys = KeyStore.getInstance("PKCS12");
            keys.load(in, password);
            KeyManagerFactory managers = KeyManagerFactory.getInstance(KeyManagerFactory.getDefaultAlgorithm());
            managers.init(keys, password);
            SSLContext context = SSLContext.getInstance("TLS");
            context.init(managers.getKeyManagers(), null, null);
            return context;
        } catch (IOException | GeneralSecurityException e) {
            throw new TargetException(
                    Kind.UNUSABLE, "APP-03", "The client certificate cannot be read: " + e.getMessage(), null);
        }
    }

    HttpClient client() {
        return client;
    }

    /** How many requests had to be sent again. */
    long again() {
        return again.get();
    }

    /** Sends a request until it is answered for good. */
    Answer send(Operation operation, List<Body> bodies, String key) throws TargetException {
        HttpRequest request = request(operation, bodies, key);
        try {
            return sendUntilAnswered(request);
        } finally {
            waiting.accept(null);
        }
    }

    private Answer sendUntilAnswered(HttpRequest request) throws TargetException {
        String trouble = null;
        for (int sent = 1; sent <= retries.tries(); sent++) {
            Duration asked = null;
            try {
                HttpResponse<byte[]> response = exchange(request);
                Answer answer = new Answer(response.statusCode(), response.body());
                if (!answer.later()) {
                    return answer;
                }
                asked = retryAfter(response.headers().firstValue("Retry-After"));
                trouble = " does not take a document: it answers " + answer.status() + ": "
                        + answer.complaints().get(0).words();
            } catch (ConnectException | HttpConnectTimeoutException e) {
                trouble = " cannot be reached";
            } catch (IOException e) {
                trouble = " does not answer a document: "
                        + (e.getMessage() == null ? "the connection was cut" : e.getMessage());
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
                throw stopped();
            }
            if (sent < retries.tries()) {
                waiting.accept(address.name() + trouble + ". Tried " + sent + " of " + retries.tries() + " times.");
                pause(retries.wait(sent, asked));
                again.incrementAndGet();
            }
        }
        throw new TargetException(
                Kind.AWAY,
                "APP-02",
                address.name() + trouble + ". Tried " + retries.tries() + " times. What is committed stays.",
                null);
    }

    /**
     * Sends a request and reads its whole answer, which as a whole has its time; a stop waits for it for some seconds only.
     */
    private HttpResponse<byte[]> exchange(HttpRequest request)
            throws IOException, InterruptedException, TargetException {
        CompletableFuture<HttpResponse<byte[]>> answer =
                client.sendAsync(request, info -> new BoundedBody(MOST_ANSWER));
        long until = System.nanoTime() + retries.answer().toNanos();
        long stopsAt = Long.MAX_VALUE;
        try {
            while (true) {
                try {
                    return answer.get(NAP_MILLIS, TimeUnit.MILLISECONDS);
                } catch (TimeoutException e) {
                    long now = System.nanoTime();
                    if (stop.getAsBoolean() && stopsAt == Long.MAX_VALUE) {
                        stopsAt = now + STOP_WAITS.toNanos();
                    }
                    if (now >= stopsAt) {
                        throw stopped();
                    }
                    if (now >= until) {
                        throw new HttpTimeoutException("its answer was not complete after "
                                + retries.answer().toSeconds() + " s");
                    }
                }
            }
        } catch (ExecutionException e) {
            if (e.getCause() instanceof IOException io) {
                throw io;
            }
            throw new IOException(e.getCause());
        } finally {
            // Also breaks the connection off where the answer is not complete.
            answer.cancel(true);
        }
    }

    /**
     * A request to the application that shows who calls.
     *
     * @param below where it goes, below the address of the application
     * @throws IllegalArgumentException where that does not fit HTTP; its words may hold the secret
     */
    HttpRequest.Builder to(String below, Duration timeout) {
        HttpRequest.Builder builder =
                HttpRequest.newBuilder(URI.create(address.base() + below)).timeout(timeout);
        String[] shown = address.authentication().header();
        return shown == null ? builder : builder.header(shown[0], shown[1]);
    }

    private HttpRequest request(Operation operation, List<Body> bodies, String key) throws TargetException {
        Body body = bodies.get(0);
        try {
            HttpRequest.Builder builder = to(body.target(), retries.answer())
                    .header("Content-Type", operation.media())
                    .header("Accept", "application/json, application/problem+json, */*;q=0.5")
                    .header(Operation.IDEMPOTENCY, key);
            body.headers().forEach(builder::setHeader);
            return builder.method(
                            operation.method(), HttpRequest.BodyPublishers.ofByteArray(Body.bytes(operation, bodies)))
                    .build();
        } catch (IllegalArgumentException e) {
            // Its words may hold the secret.
            throw new TargetException(
                    Kind.UNUSABLE,
                    "APP-03",
                    "No request can be made for " + address.name()
                            + ": its address, a header or the way of showing who calls does not fit HTTP.",
                    null);
        }
    }

    private void pause(Duration wait) throws TargetException {
        long until = System.nanoTime() + wait.toNanos();
        try {
            for (long left = wait.toMillis(); left > 0; left = (until - System.nanoTime()) / 1_000_000) {
                if (stop.getAsBoolean()) {
                    throw stopped();
                }
                Thread.sleep(Math.min(NAP_MILLIS, left));
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw stopped();
        }
    }

    private TargetException stopped() {
        return new TargetException(
                Kind.STOPPED, "APP-05", "Stopped while " + address.name() + " was waited for.", null);
    }

    /** The wait that an answer asks for: seconds, or a day and time (RFC 9110, 10.2.3). */
    private static Duration retryAfter(Optional<String> header) {
        if (header.isEmpty()) {
            return null;
        }
        String text = header.get().strip();
        if (text.matches("\\d{1,6}")) {
            return Duration.ofSeconds(Long.parseLong(text));
        }
        try {
            Instant at = ZonedDateTime.parse(text, DateTimeFormatter.RFC_1123_DATE_TIME)
                    .toInstant();
            return Duration.between(Instant.now(), at).isNegative()
                    ? Duration.ZERO
                    : Duration.between(Instant.now(), at);
        } catch (DateTimeException e) {
            return null;
        }
    }
}
