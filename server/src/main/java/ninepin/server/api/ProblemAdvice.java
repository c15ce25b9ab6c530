package ninepin.server.api;

import java.nio.file.InvalidPathException;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import ninepin.core.deliver.TargetException;
import ninepin.core.job.Definitions;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.Shown;
import org.apache.catalina.connector.ClientAbortException;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.core.annotation.Order;
import org.springframework.dao.DataIntegrityViolationException;
import org.springframework.dao.DuplicateKeyException;
import org.springframework.http.HttpStatus;
import org.springframework.http.ProblemDetail;
import org.springframework.http.ResponseEntity;
import org.springframework.http.converter.HttpMessageNotReadableException;
import org.springframework.web.ErrorResponse;
import org.springframework.web.ErrorResponseException;
import org.springframework.web.bind.annotation.ExceptionHandler;
import org.springframework.web.bind.annotation.RestControllerAdvice;
import org.springframework.web.context.request.async.AsyncRequestNotUsableException;
import org.springframework.web.method.annotation.MethodArgumentTypeMismatchException;
import org.springframework.web.multipart.MultipartException;
import tools.jackson.core.JacksonException;

/** Turns exceptions into problem details. What is unforeseen is logged with a number and told without its insides. */
@RestControllerAdvice
@Order(0)
class ProblemAdvice {

    private static final Logger LOG = LoggerFactory.getLogger(ProblemAdvice.class);
    private static final Pattern TOO_LONG = Pattern.compile("Data too long for column '(\\w+)'");

    @ExceptionHandler
    ResponseEntity<ProblemDetail> foreseen(ErrorResponseException e) {
        return ResponseEntity.status(e.getStatusCode()).headers(e.getHeaders()).body(Problems.coded(e.getBody()));
    }

    @ExceptionHandler
    ResponseEntity<ProblemDetail> definition(DefinitionException e) {
        ProblemDetail problem = Problems.detail(HttpStatus.UNPROCESSABLE_CONTENT, e.getMessage());
        problem.setProperty("part", e.part());
        return ResponseEntity.unprocessableContent().body(problem);
    }

    @ExceptionHandler
    ResponseEntity<ProblemDetail> unreadable(HttpMessageNotReadableException e) {
        return e.getCause() instanceof JacksonException json
                ? definition(Definitions.explain(json))
                : ResponseEntity.badRequest()
                        .body(Problems.detail(HttpStatus.BAD_REQUEST, "The body of the request cannot be read."));
    }

    @ExceptionHandler
    ResponseEntity<ProblemDetail> noFile(MultipartException e) {
        if (e instanceof ErrorResponse response) {
            return ResponseEntity.status(response.getStatusCode()).body(Problems.coded(response.getBody()));
        }
        String what = "A file is expected, sent as a form (multipart/form-data).";
        return ResponseEntity.badRequest().body(Problems.detail(HttpStatus.BAD_REQUEST, what));
    }

    @ExceptionHandler
    ResponseEntity<ProblemDetail> noPath(InvalidPathException e) {
        String what = Shown.quoted(e.getInput()) + " is no name of a file or folder.";
        return ResponseEntity.badRequest().body(Problems.detail(HttpStatus.BAD_REQUEST, what));
    }

    @ExceptionHandler
    ResponseEntity<ProblemDetail> noSuchValue(MethodArgumentTypeMismatchException e) {
        String what = "\"" + e.getValue() + "\" is no value for " + e.getName() + ".";
        return ResponseEntity.badRequest().body(Problems.detail(HttpStatus.BAD_REQUEST, what));
    }

    @ExceptionHandler
    ResponseEntity<ProblemDetail> target(TargetException e) {
        ProblemDetail problem = Problems.detail(HttpStatus.BAD_GATEWAY, e.getMessage());
        problem.setProperty("code", e.code());
        problem.setType(ProblemCode.type(e.code()));
        return ResponseEntity.status(HttpStatus.BAD_GATEWAY).body(problem);
    }

    /** Ninepin's own tables refuse what is longer than a name or a title may be. */
    @ExceptionHandler
    ResponseEntity<ProblemDetail> tooLong(DataIntegrityViolationException e) {
        Matcher column =
                TOO_LONG.matcher(String.valueOf(e.getMostSpecificCause().getMessage()));
        if (!column.find()) {
            return unforeseen(e);
        }
        String what = "The " + column.group(1).replace('_', ' ') + " is too long.";
        return ResponseEntity.unprocessableContent().body(Problems.detail(HttpStatus.UNPROCESSABLE_CONTENT, what));
    }

    /** Two have made the same at the same moment; the other one was first. */
    @ExceptionHandler
    ResponseEntity<ProblemDetail> taken(DuplicateKeyException e) {
        String what = "Somebody else has just made the same. Reload to see it.";
        return ResponseEntity.status(HttpStatus.CONFLICT).body(Problems.detail(HttpStatus.CONFLICT, what));
    }

    @ExceptionHandler(AsyncRequestNotUsableException.class)
    void gone() {
        // The browser went away in the middle of an event stream.
    }

    @ExceptionHandler
    ResponseEntity<ProblemDetail> unforeseen(Exception e) {
        if (e instanceof ErrorResponse response) {
            return ResponseEntity.status(response.getStatusCode()).body(Problems.coded(response.getBody()));
        }
        if (OwnDatabase.isAway(e)) {
            LOG.warn("Ninepin's own database does not answer: {}", e.toString());
            return ResponseEntity.status(HttpStatus.SERVICE_UNAVAILABLE)
                    .body(Problems.detail(HttpStatus.SERVICE_UNAVAILABLE, OwnDatabase.words(e)));
        }
        if (isOfOneWhoLeft(e)) {
            LOG.debug("Nobody waits for the answer any more: {}", e.toString());
            return null;
        }
        String number = Long.toHexString(System.nanoTime());
        LOG.error("Unforeseen trouble {}", number, e);
        return ResponseEntity.internalServerError()
                .body(Problems.detail(
                        HttpStatus.INTERNAL_SERVER_ERROR,
                        "Something went wrong inside Ninepin. The log tells more under " + number + "."));
    }

    private static boolean isOfOneWhoLeft(Throwable e) {
        for (Throwable cause = e; cause != null; cause = cause.getCause()) {
            if (cause instanceof AsyncRequestNotUsableException || cause instanceof ClientAbortException) {
                return true;
            }
        }
        return false;
    }
}
