package ninepin.server.runs;

import java.io.IOException;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import org.springframework.http.MediaType;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;
import org.springframework.web.servlet.mvc.method.annotation.SseEmitter;

/** Tells browsers how runs come along, as server-sent events (HTML Living Standard 9.2). */
@Component
class RunEvents {

    private final Runs runs;
    private final Map<SseEmitter, Long> followers = new ConcurrentHashMap<>();
    private final Map<SseEmitter, RunView> told = new ConcurrentHashMap<>();

    RunEvents(Runs runs) {
        this.runs = runs;
    }

    /** An event for every change of a run, until it has ended or the browser goes away. */
    SseEmitter follow(long id) {
        runs.view(id);
        SseEmitter emitter = new SseEmitter(0L);
        Runnable gone = () -> {
            followers.remove(emitter);
            told.remove(emitter);
        };
        emitter.onCompletion(gone);
        emitter.onTimeout(gone);
        emitter.onError(e -> gone.run());
        followers.put(emitter, id);
        tell(emitter, id);
        return emitter;
    }

    @Scheduled(fixedDelay = 400)
    void tellAll() {
        followers.forEach(this::tell);
    }

    private void tell(SseEmitter emitter, long id) {
        try {
            RunView now = runs.view(id);
            if (!now.equals(told.put(emitter, now))) {
                emitter.send(SseEmitter.event().name("run").data(now, MediaType.APPLICATION_JSON));
            }
            if (now.state().over()) {
                emitter.complete();
            }
        } catch (IOException | RuntimeException e) {
            followers.remove(emitter);
            told.remove(emitter);
        }
    }
}
