package ninepin.server.security;

import jakarta.servlet.AsyncContext;
import jakarta.servlet.AsyncEvent;
import jakarta.servlet.AsyncListener;
import jakarta.servlet.ReadListener;
import jakarta.servlet.ServletInputStream;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.util.concurrent.atomic.AtomicBoolean;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.http.HttpStatus;

/** Reads a small body of somebody unknown without keeping a thread waiting for it, and not for ever. */
final class SmallBody {

    private static final Logger LOG = LoggerFactory.getLogger(SmallBody.class);
    private static final long PATIENCE_MILLIS = 10_000;

    /** Does something with a body that has come whole. */
    interface Taker {
        void take(byte[] body) throws IOException;
    }

    private SmallBody() {}

    /**
     * Reads the body of a request; the answer is complete when the taker has returned.
     *
     * @param most the most bytes
     * @param taker answers, on a thread of the server
     */
    static void read(HttpServletRequest request, HttpServletResponse response, int most, Taker taker)
            throws IOException {
        AsyncContext async = request.startAsync();
        async.setTimeout(PATIENCE_MILLIS);
        AtomicBoolean over = new AtomicBoolean();
        async.addListener(new Deadline(request, response, over));
        ServletInputStream in = request.getInputStream();
        in.setReadListener(new ReadListener() {
            private final ByteArrayOutputStream body = new ByteArrayOutputStream();
            private final byte[] part = new byte[most];

            @Override
            public void onDataAvailable() throws IOException {
                while (in.isReady() && !in.isFinished()) {
                    int read = in.read(part);
                    if (read > 0) {
                        body.write(part, 0, read);
                    }
                    if (body.size() > most) {
                        throw new IOException("more than " + most + " bytes");
                    }
                }
            }

            @Override
            public void onAllDataRead() {
                async.start(() -> answer(body.toByteArray()));
            }

            private void answer(byte[] whole) {
                if (!over.compareAndSet(false, true)) {
                    return;
                }
                try {
                    taker.take(whole);
                } catch (IOException | RuntimeException e) {
                    LOG.debug("The answer to a sign-in could not be written: {}", e.toString());
                } finally {
                    async.complete();
                }
            }

            @Override
            public void onError(Throwable e) {
                if (over.compareAndSet(false, true)) {
                    async.complete();
                }
            }
        });
    }

    private record Deadline(HttpServletRequest request, HttpServletResponse response, AtomicBoolean over)
            implements AsyncListener {

        @Override
        public void onTimeout(AsyncEvent event) throws IOException {
            if (over.compareAndSet(false, true)) {
                UnreadBodies.giveUp(request);
                Refusals.write(response, HttpStatus.REQUEST_TIMEOUT, "The body did not come.");
                event.getAsyncContext().complete();
            }
        }

        @Override
        public void onComplete(AsyncEvent event) {
            // Whoever has answered knows.
        }

        @Override
        public void onError(AsyncEvent event) {
            if (over.compareAndSet(false, true)) {
                event.getAsyncContext().complete();
            }
        }

        @Override
        public void onStartAsync(AsyncEvent event) {
            // It does not start again.
        }
    }
}
