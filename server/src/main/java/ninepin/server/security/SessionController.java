package ninepin.server.security;

import static io.swagger.v3.oas.annotations.media.Schema.RequiredMode.REQUIRED;

import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.Parameter;
import io.swagger.v3.oas.annotations.media.Content;
import io.swagger.v3.oas.annotations.media.Schema;
import io.swagger.v3.oas.annotations.responses.ApiResponse;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.servlet.http.HttpSession;
import java.io.IOException;
import ninepin.core.job.Definitions;
import ninepin.server.api.OwnDatabase;
import ninepin.server.config.NinepinSettings;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
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
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.core.JacksonException;

/** Signing in and out, and what a page needs to know before it. */
@RestController
class SessionController {

    /** A name and a password. */
    record SignIn(@Schema(requiredMode = REQUIRED) String name, @Schema(requiredMode = REQUIRED) String password) {}

    /** Who is signed in; null when nobody is. */
    record Session(String name) {}

    /** What every page shows. */
    record Facts(String environment, boolean demo, String version) {}

    private final AuthenticationManager manager;
    private final SecurityContextRepository contexts;
    private final NinepinSettings settings;
    private final Trail trail;

    SessionController(
            AuthenticationManager manager, SecurityContextRepository contexts, NinepinSettings settings, Trail trail) {
        this.trail = trail;
        this.manager = manager;
        this.contexts = contexts;
        this.settings = settings;
    }

    /** What anybody may know of this Ninepin: its environment and version. */
    @GetMapping("/api/v1/facts")
    Facts facts() {
        return new Facts(settings.environment(), settings.demo(), "0.1.0");
    }

    /** Who is signed in; nobody is null. */
    @GetMapping("/api/v1/session")
    Session session(Authentication who) {
        return new Session(who == null || !who.isAuthenticated() ? null : who.getName());
    }

    /** The body is read while no thread waits for it, since it may be anybody's. */
    @PostMapping(path = "/api/v1/session", consumes = MediaType.APPLICATION_JSON_VALUE)
    @Operation(
            requestBody =
                    @io.swagger.v3.oas.annotations.parameters.RequestBody(
                            required = true,
                            content = @Content(schema = @Schema(implementation = SignIn.class))),
            responses =
                    @ApiResponse(
                            responseCode = "200",
                            content = @Content(schema = @Schema(implementation = Session.class))))
    void signIn(
            @Parameter(hidden = true) HttpServletRequest request,
            @Parameter(hidden = true) HttpServletResponse response)
            throws IOException {
        SmallBody.read(request, response, BodyLimits.OF_SIGN_IN, body -> signIn(body, request, response));
    }

    private void signIn(byte[] body, HttpServletRequest request, HttpServletResponse response) throws IOException {
        Authentication who;
        try {
            SignIn in = Definitions.mapper().readValue(body, SignIn.class);
            if (in == null) {
                Refusals.write(response, HttpStatus.BAD_REQUEST, "The body of the request cannot be read.");
                return;
            }
            UsernamePasswordAuthenticationToken asked = UsernamePasswordAuthenticationToken.unauthenticated(
                    in.name() == null ? "" : in.name(), in.password() == null ? "" : in.password());
            asked.setDetails(new SignInGuard.Typed(request));
            who = manager.authenticate(asked);
        } catch (JacksonException e) {
            Refusals.write(response, HttpStatus.BAD_REQUEST, "The body of the request cannot be read.");
            return;
        } catch (SignInGuard.Slowed e) {
            Refusals.unknown(request, response, e);
            return;
        } catch (AuthenticationException e) {
            if (OwnDatabase.isAway(e)) {
                Refusals.unknown(request, response, e);
            } else {
                Refusals.write(response, HttpStatus.UNAUTHORIZED, "Name or password is wrong.");
            }
            return;
        } catch (RuntimeException e) {
            if (!OwnDatabase.isAway(e)) {
                throw e;
            }
            Refusals.write(response, HttpStatus.SERVICE_UNAVAILABLE, OwnDatabase.words(e));
            return;
        }
        if (request.getSession(false) != null) {
            request.changeSessionId();
        }
        SecurityContext context = SecurityContextHolder.createEmptyContext();
        context.setAuthentication(who);
        contexts.saveContext(context, request, response);
        Sessions.keep(request);
        trail.say("signed in", who.getName(), request.getRemoteAddr());
        response.setContentType(MediaType.APPLICATION_JSON_VALUE);
        response.setCharacterEncoding("UTF-8");
        response.getWriter().write(Definitions.mapper().writeValueAsString(new Session(who.getName())));
    }

    /** Signs out. */
    @DeleteMapping("/api/v1/session")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void signOut(HttpServletRequest request) {
        HttpSession session = request.getSession(false);
        if (session != null) {
            trail.say("signed out");
            session.invalidate();
        }
        SecurityContextHolder.clearContext();
    }
}
