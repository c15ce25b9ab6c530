package ninepin.server.security;

import jakarta.servlet.ServletException;
import jakarta.servlet.ServletRequest;
import java.io.IOException;
import org.apache.catalina.connector.Request;
import org.apache.catalina.connector.Response;
import org.apache.catalina.valves.ValveBase;
import org.apache.coyote.ActionCode;

/** Closes the connection of a request that was refused, in place of waiting for the rest of what it sends. */
final class UnreadBodies extends ValveBase {

    private static final String GIVE_UP = UnreadBodies.class.getName();

    UnreadBodies() {
        super(true);
    }

    /** What was not read yet of a request's body is not waited for. */
    static void giveUp(ServletRequest request) {
        if (request.getAttribute(GIVE_UP) instanceof Runnable giveUp) {
            giveUp.run();
        }
    }

    @Override
    public void invoke(Request request, Response response) throws IOException, ServletException {
        Runnable giveUp = () -> request.getCoyoteRequest().action(ActionCode.DISABLE_SWALLOW_INPUT, null);
        request.setAttribute(GIVE_UP, giveUp);
        getNext().invoke(request, response);
        if (response.getStatus() >= 400 && !request.isAsync() && !request.isFinished()) {
            giveUp.run();
        }
    }
}
