package ninepin.server.api;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import org.apache.catalina.connector.ClientAbortException;
import org.junit.jupiter.api.Test;
import org.springframework.http.HttpStatus;
import org.springframework.http.converter.HttpMessageNotWritableException;
import org.springframework.web.context.request.async.AsyncRequestNotUsableException;

class ProblemAdviceTest {

    private final ProblemAdvice advice = new ProblemAdvice();

    /** A browser that is closed while it is answered is no trouble worth a page of the log. */
    @Test
    void one_who_has_left_is_not_answered() {
        assertThat(advice.unforeseen(new HttpMessageNotWritableException(
                        "could not be written", new AsyncRequestNotUsableException("the other side has gone"))))
                .isNull();
        assertThat(advice.unforeseen(new ClientAbortException(new IOException("Broken pipe"))))
                .isNull();
    }

    @Test
    void what_was_not_foreseen_is_answered_with_a_number_to_look_for_in_the_log() {
        IOException trouble = new IOException("a secret of the inside");
        assertThat(advice.unforeseen(trouble)).satisfies(answer -> {
            assertThat(answer.getStatusCode()).isEqualTo(HttpStatus.INTERNAL_SERVER_ERROR);
            assertThat(answer.getBody().getDetail())
                    .contains("The log tells more under")
                    .doesNotContain("secret");
        });
    }
}
