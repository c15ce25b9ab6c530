package ninepin.server.security;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.time.Duration;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.regex.Pattern;
import org.springframework.security.authentication.AnonymousAuthenticationToken;
import org.springframework.security.core.Authentication;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.web.filter.OncePerRequestFilter;

/** Says who changed what, and whose request was refused; of a flood of refusals only the beginning of each minute. */
final class TrailFilter extends OncePerRequestFilter {

    private static final Set<String> CHANGING = Set.of("POST", "PUT", "PATCH", "DELETE");
    /** Requests that only compute something to be shown, which come with every key that is pressed. */
    private static final Pattern COMPUTING = Pattern.compile(
            "/api/v1/.*/(bench|rules|wording|check|impact|files|table|rehearsal|operations|read)|/api/v1/follow|/api/v1/formula.*|/api/v1/target");

    private static final long MINUTE = Duration.ofMinutes(1).toNanos();
    private static final int REFUSALS_A_MINUTE = 20;
    private static final int MOST_ADDRESSES = 10_000;

    /** The refusals of an address since a time. */
    private record Refused(long since, int times) {}

    private final Trail trail;
    private final Map<String, Refused> refused = new ConcurrentHashMap<>();

    TrailFilter(Trail trail) {
        this.trail = trail;
    }

    @Override
    protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
            throws ServletException, IOException {
        chain.doFilter(request, response);
        if (request.isAsyncStarted()) {
            return;
        }
        String path = request.getRequestURI();
        boolean changing = CHANGING.contains(request.getMethod());
        int status = response.getStatus();
        boolean turnedAway = status == 401 || status == 403 || status == 408 || status == 413 || status == 429;
        if (turnedAway
                ? isTold(request.getRemoteAddr())
                : changing && !COMPUTING.matcher(path).matches()) {
            trail.say(request.getMethod() + " " + path + " answered " + status, who(), request.getRemoteAddr());
        }
    }

    private static String who() {
        Authentication who = SecurityContextHolder.getContext().getAuthentication();
        return who == null || who instanceof AnonymousAuthenticationToken ? "nobody known" : who.getName();
    }

    private boolean isTold(String address) {
        long now = System.nanoTime();
        if (refused.size() > MOST_ADDRESSES) {
            refused.values().removeIf(r -> now - r.since() > MINUTE);
        }
        Refused of = refused.merge(
                address,
                new Refused(now, 1),
                (old, one) -> now - old.since() > MINUTE ? one : new Refused(old.since(), old.times() + 1));
        return of.times() <= REFUSALS_A_MINUTE;
    }
}
