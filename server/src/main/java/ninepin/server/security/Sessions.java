package ninepin.server.security;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.servlet.http.HttpSession;
import java.io.IOException;
import java.time.Duration;
import java.time.Instant;
import ninepin.server.api.OwnDatabase;
import org.springframework.security.core.Authentication;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.web.filter.OncePerRequestFilter;

/**
 * Ends sessions that are too old, and those from before the password of their account was changed. Whether it was is looked up
 * once in a while, not at each request.
 */
final class Sessions extends OncePerRequestFilter {

    private static final String SINCE = "ninepin.since";
    private static final String LOOKED = "ninepin.looked";
    private static final Duration LONGEST = Duration.ofHours(12);
    private static final Duration LOOK_AGAIN = Duration.ofSeconds(10);

    private final Accounts accounts;

    Sessions(Accounts accounts) {
        this.accounts = accounts;
    }

    /** A session begins, or goes on although the password of its account was changed. */
    static void keep(HttpServletRequest request) {
        HttpSession session = request.getSession(false);
        if (session != null) {
            session.setAttribute(SINCE, Instant.now().plusMillis(1));
        }
    }

    @Override
    protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
            throws ServletException, IOException {
        HttpSession session = request.getSession(false);
        Authentication who =
                session == null ? null : SecurityContextHolder.getContext().getAuthentication();
        if (who != null && session.getAttribute(SINCE) instanceof Instant since && isOver(session, since, who)) {
            session.invalidate();
            SecurityContextHolder.clearContext();
        }
        chain.doFilter(request, response);
    }

    private boolean isOver(HttpSession session, Instant since, Authentication who) {
        Instant now = Instant.now();
        if (since.plus(LONGEST).isBefore(now)) {
            return true;
        }
        if (session.getAttribute(LOOKED) instanceof Instant looked
                && looked.plus(LOOK_AGAIN).isAfter(now)) {
            return false;
        }
        try {
            boolean changed = accounts.passwordAt(who.getName()).isAfter(since);
            session.setAttribute(LOOKED, now);
            return changed;
        } catch (RuntimeException e) {
            if (OwnDatabase.isAway(e)) {
                return false;
            }
            throw e;
        }
    }
}
