package ninepin.server.security;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import ninepin.core.job.Definitions;
import ninepin.server.api.OwnDatabase;
import ninepin.server.api.ProblemCode;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ProblemDetail;
import org.springframework.security.core.AuthenticationException;
import tools.jackson.databind.node.ObjectNode;

/** Answers requests that are let no further, as problem details (RFC 9457), and without reading what else they send. */
final class Refusals {

    private Refusals() {}

    /** Who cannot be looked up because the database is away is not told that the password is wrong. */
    static void unknown(HttpServletRequest request, HttpServletResponse response, AuthenticationException e)
            throws IOException {
        if (e instanceof SignInGuard.Slowed slowed) {
            response.setHeader(HttpHeaders.RETRY_AFTER, String.valueOf(slowed.seconds()));
            write(response, HttpStatus.TOO_MANY_REQUESTS, e.getMessage());
        } else if (OwnDatabase.isAway(e)) {
            write(response, HttpStatus.SERVICE_UNAVAILABLE, OwnDatabase.words(e));
        } else {
            // Without a body, and without asking for a password: a browser would open a dialog of its own.
            response.setStatus(HttpStatus.UNAUTHORIZED.value());
        }
    }

    static void write(HttpServletResponse response, HttpStatus status, String detail) throws IOException {
        ProblemCode code = ProblemCode.of(status.value());
        ObjectNode problem = Definitions.mapper().createObjectNode();
        problem.put("type", ProblemCode.type(code.code()).toString());
        problem.put("status", status.value());
        problem.put("title", ProblemDetail.forStatus(status).getTitle());
        problem.put("detail", detail);
        problem.put("code", code.code());
        response.setStatus(status.value());
        response.setContentType(MediaType.APPLICATION_PROBLEM_JSON_VALUE);
        response.setCharacterEncoding("UTF-8");
        response.getWriter().write(problem.toString());
    }
}
