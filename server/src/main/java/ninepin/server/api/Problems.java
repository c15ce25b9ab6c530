package ninepin.server.api;

import java.net.URI;
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

    static ErrorResponseException of(HttpStatus status, String detail) {
        return new ErrorResponseException(status, detail(status, detail), null);
    }

    static ProblemDetail detail(HttpStatus status, String detail) {
        ProblemDetail problem = ProblemDetail.forStatusAndDetail(status, detail);
        problem.setType(URI.create("about:blank"));
        return problem;
    }
}
