package ninepin.server.security;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.Semaphore;
import org.springframework.http.HttpStatus;
import org.springframework.security.authentication.AnonymousAuthenticationToken;
import org.springframework.security.core.Authentication;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.util.unit.DataSize;
import org.springframework.web.filter.OncePerRequestFilter;

/**
 * Keeps what others send from taking the application up. Who is not signed in sends no body but that of a sign-in; who is may
 * send files to where they belong and bodies of a reasonable size elsewhere, a few at a time.
 */
final class BodyLimits extends OncePerRequestFilter {

    static final int OF_SIGN_IN = 1024;
    private static final long OF_JSON = DataSize.ofMegabytes(32).toBytes();
    private static final long OF_SAMPLE = DataSize.ofMegabytes(64).toBytes();
    /** Requests with bodies of one account that are read side by side. */
    private static final int AT_ONCE = 24;

    private final long ofFile;
    private final Map<String, Semaphore> underWay = new ConcurrentHashMap<>();

    /**
     * @param ofFile the most bytes of a file that is given to a job
     */
    BodyLimits(long ofFile) {
        this.ofFile = ofFile;
    }

    static boolean hasBody(HttpServletRequest request) {
        return request.getContentLengthLong() > 0 || request.getHeader("Transfer-Encoding") != null;
    }

    static boolean isSignIn(HttpServletRequest request) {
        return request.getMethod().equals("POST") && request.getRequestURI().equals("/api/v1/session");
    }

    @Override
    protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
            throws ServletException, IOException {
        if (!hasBody(request)) {
            chain.doFilter(request, response);
            return;
        }
        Authentication who = SecurityContextHolder.getContext().getAuthentication();
        boolean signedIn = who != null && who.isAuthenticated() && !(who instanceof AnonymousAuthenticationToken);
        long length = request.getContentLengthLong();
        if (isSignIn(request)) {
            if (length < 0 || length > OF_SIGN_IN) {
                Refusals.write(
                        response,
                        HttpStatus.CONTENT_TOO_LARGE,
                        "A sign-in says its length and has at most " + OF_SIGN_IN + " bytes.");
            } else {
                chain.doFilter(request, response);
            }
        } else if (!signedIn) {
            Refusals.unknown(request, response, null);
        } else if (length < 0 && most(request) < ofFile) {
            Refusals.write(response, HttpStatus.LENGTH_REQUIRED, "What is sent here says its length (Content-Length).");
        } else if (length > most(request)) {
            Refusals.write(
                    response,
                    HttpStatus.CONTENT_TOO_LARGE,
                    "What is sent here has at most " + most(request) + " bytes.");
        } else {
            withOthers(request, response, chain, who.getName());
        }
    }

    private void withOthers(HttpServletRequest request, HttpServletResponse response, FilterChain chain, String who)
            throws ServletException, IOException {
        Semaphore own = underWay.computeIfAbsent(who, w -> new Semaphore(AT_ONCE));
        if (!own.tryAcquire()) {
            response.setHeader("Retry-After", "1");
            Refusals.write(
                    response,
                    HttpStatus.TOO_MANY_REQUESTS,
                    "This account is sending " + AT_ONCE + " requests already. Wait until one of them has ended.");
            return;
        }
        try {
            chain.doFilter(request, response);
        } finally {
            own.release();
        }
    }

    private long most(HttpServletRequest request) {
        boolean form = String.valueOf(request.getContentType()).startsWith("multipart/");
        if (!form) {
            return OF_JSON;
        }
        return request.getRequestURI().matches("/api/v1/jobs/[^/]+/runs") ? ofFile : OF_SAMPLE;
    }
}
