package ninepin.server.security;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.servlet.http.HttpSession;
import ninepin.server.api.OwnDatabase;
import ninepin.server.config.NinepinSettings;
import org.springframework.http.HttpStatus;
import org.springframework.security.authentication.AuthenticationManager;
import org.springframework.security.authentication.UsernamePasswordAuthenticationToken;
import org.springframework.security.core.Authentication;
import org.springframework.security.core.AuthenticationException;
import org.springframework.security.core.context.SecurityContext;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.security.web.context.SecurityContextRepository;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.server.ResponseStatusException;

/** Signing in and out, and what a page needs to know before it. */
@RestController
class SessionController {

    /** A name and a password. */
    record SignIn(String name, String password) {}

    /** Who is signed in; null when nobody is. */
    record Session(String name) {}

    /** What every page shows. */
    record Facts(String environment, boolean demo, String version) {}

    private final AuthenticationManager manager;
    private final SecurityContextRepository contexts;
    private final NinepinSettings settings;

    SessionController(AuthenticationManager manager, SecurityContextRepository contexts, NinepinSettings settings) {
        this.manager = manager;
        this.contexts = contexts;
        this.settings = settings;
    }

    @GetMapping("/api/facts")
    Facts facts() {
        return new Facts(settings.environment(), settings.demo(), "0.1.0");
    }

    @GetMapping("/api/session")
    Session session(Authentication who) {
        return new Session(who == null || !who.isAuthenticated() ? null : who.getName());
    }

    @PostMapping("/api/session")
    Session signIn(@RequestBody SignIn in, HttpServletRequest request, HttpServletResponse response) {
        Authentication who;
        try {
            who = manager.authenticate(UsernamePasswordAuthenticationToken.unauthenticated(in.name(), in.password()));
        } catch (AuthenticationException e) {
            if (OwnDatabase.isAway(e)) {
                throw new ResponseStatusException(HttpStatus.SERVICE_UNAVAILABLE, OwnDatabase.AWAY);
            }
            throw new ResponseStatusException(HttpStatus.UNAUTHORIZED, "Name or password is wrong.");
        }
        if (request.getSession(false) != null) {
            request.changeSessionId();
        }
        SecurityContext context = SecurityContextHolder.createEmptyContext();
        context.setAuthentication(who);
        contexts.saveContext(context, request, response);
        return new Session(who.getName());
    }

    @DeleteMapping("/api/session")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void signOut(HttpServletRequest request) {
        HttpSession session = request.getSession(false);
        if (session != null) {
            session.invalidate();
        }
        SecurityContextHolder.clearContext();
    }
}
