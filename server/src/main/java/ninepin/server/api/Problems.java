package ninepin.server.api;

import java.util.List;
import ninepin.core.layout.DefinitionException;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.ProblemDetail;
import org.springframework.web.ErrorResponseException;

/** Problems that a person can mend, told as problem details (RFC 9457). */
public final class Problems {

    private Problems() {}

    public static ErrorResponseException notFound(String what) {
        return of(HttpStatus.NOT_FOUND, what);
    }

    public static ErrorResponseException conflict(String what) {
        return of(HttpStatus.CONFLICT, what);
    }

    public static ErrorResponseException unprocessable(String what) {
        return of(HttpStatus.UNPROCESSABLE_CONTENT, what);
    }

    /** For one who has asked too often; may try again after some seconds. */
    public static ErrorResponseException tooMany(String what, long seconds) {
        ErrorResponseException e = of(HttpStatus.TOO_MANY_REQUESTS, what);
        e.getHeaders().set(HttpHeaders.RETRY_AFTER, String.valueOf(seconds));
        return e;
    }

    /** A part of a request that has to be there. */
    public static <T> T needed(String part, T value) {
        if (value == null) {
            throw new DefinitionException(part, "is missing");
        }
        return value;
    }

    /** A list that has to be there, with something in each place. */
    public static <T> List<T> neededAll(String part, List<T> values) {
        needed(part, values).forEach(value -> needed(part, value));
        return values;
    }

    static ErrorResponseException of(HttpStatus status, String detail) {
        return new ErrorResponseException(status, detail(status, detail), null);
    }

    static ProblemDetail detail(HttpStatus status, String detail) {
        return coded(ProblemDetail.forStatusAndDetail(status, detail));
    }

    /** A problem with its code, and with the address of the page that says more of it. */
    static ProblemDetail coded(ProblemDetail problem) {
        if (problem.getProperties() == null || !problem.getProperties().containsKey("code")) {
            String code = ProblemCode.of(problem.getStatus()).code();
            problem.setProperty("code", code);
            problem.setType(ProblemCode.type(code));
        }
        return problem;
    }
}
