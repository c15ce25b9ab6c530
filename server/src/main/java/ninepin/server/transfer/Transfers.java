package ninepin.server.transfer;

import java.util.ArrayDeque;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CompletionException;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.ThreadPoolExecutor;
import java.util.concurrent.TimeUnit;
import java.util.function.Supplier;
import ninepin.server.config.NinepinSettings;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.event.ContextClosedEvent;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/**
 * Where sources are listed and files are fetched and sent: on threads of their own, so many at once through one connection, and
 * for one job one after the other. A place that is slow or silent keeps only those waiting that go through the same connection.
 */
@Component
public class Transfers {

    private static final Logger LOG = LoggerFactory.getLogger(Transfers.class);
    private static final int IDLE_SECONDS = 30;
    private static final int CLOSING_SECONDS = 5;

    /** What is to be done for one job. */
    private record Task(String kind, String through, Runnable doing) {}

    private final int atOnce;
    private final Map<String, ExecutorService> threads = new ConcurrentHashMap<>();
    private final Map<String, Deque<Task>> queues = new HashMap<>();
    private final Map<String, Set<String>> waiting = new HashMap<>();

    Transfers(NinepinSettings settings) {
        this.atOnce = settings.transfersAtOnce();
    }

    /**
     * Does something for a job when its turn comes.
     *
     * @param through what it goes through, of which only so many are used at once
     * @param kind what it is; nothing is done where the same waits for its turn already
     */
    public void soon(String job, String through, String kind, Runnable doing) {
        synchronized (queues) {
            if (waiting.computeIfAbsent(job, j -> new HashSet<>()).add(kind)) {
                add(job, new Task(kind, through, doing));
            }
        }
    }

    /** Does something for a job when its turn comes, and waits for what comes of it. */
    public <T> T now(String job, String through, Supplier<T> asking) {
        CompletableFuture<T> answer = new CompletableFuture<>();
        synchronized (queues) {
            add(job, new Task(null, through, () -> {
                try {
                    answer.complete(asking.get());
                } catch (RuntimeException | Error e) {
                    answer.completeExceptionally(e);
                }
            }));
        }
        try {
            return answer.join();
        } catch (CompletionException e) {
            if (e.getCause() instanceof Error error) {
                throw error;
            }
            throw e.getCause() instanceof RuntimeException thrown ? thrown : e;
        }
    }

    private void add(String job, Task task) {
        Deque<Task> queue = queues.get(job);
        if (queue != null) {
            queue.add(task);
            return;
        }
        queues.put(job, new ArrayDeque<>());
        start(job, task);
    }

    private void start(String job, Task task) {
        threads.computeIfAbsent(task.through(), this::threadsOf).execute(() -> run(job, task));
    }

    private ExecutorService threadsOf(String through) {
        ThreadPoolExecutor made = new ThreadPoolExecutor(
                atOnce, atOnce, IDLE_SECONDS, TimeUnit.SECONDS, new LinkedBlockingQueue<>(), task -> {
                    Thread thread = new Thread(task, "transfer through " + through);
                    thread.setDaemon(true);
                    return thread;
                });
        made.allowCoreThreadTimeOut(true);
        return made;
    }

    private void run(String job, Task task) {
        synchronized (queues) {
            if (task.kind() != null) {
                waiting.get(job).remove(task.kind());
            }
        }
        try {
            task.doing().run();
        } catch (RuntimeException e) {
            LOG.error("A transfer for {} failed; it is tried again", job, e);
        } finally {
            next(job);
        }
    }

    private void next(String job) {
        synchronized (queues) {
            Task next = queues.get(job).poll();
            if (next != null) {
                start(job, next);
            } else {
                queues.remove(job);
                waiting.remove(job);
            }
        }
    }

    @EventListener
    void close(ContextClosedEvent event) throws InterruptedException {
        threads.values().forEach(ExecutorService::shutdown);
        long until = System.nanoTime() + TimeUnit.SECONDS.toNanos(CLOSING_SECONDS);
        for (ExecutorService each : threads.values()) {
            each.awaitTermination(Math.max(0, until - System.nanoTime()), TimeUnit.NANOSECONDS);
        }
    }
}
