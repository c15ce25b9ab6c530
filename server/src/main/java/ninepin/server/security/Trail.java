package ninepin.server.security;

import jakarta.servlet.http.HttpServletRequest;
import ninepin.server.api.LogText;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.security.core.Authentication;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.stereotype.Component;
import org.springframework.web.context.request.RequestContextHolder;
import org.springframework.web.context.request.ServletRequestAttributes;

/** Says in the log who did what, and from where: sign-ins, starts, stops, deletes, and what was refused. */
@Component
public class Trail {

    private static final Logger LOG = LoggerFactory.getLogger("ninepin.trail");

    /** Says that whoever is signed in did something. */
    public void say(String what) {
        Authentication who = SecurityContextHolder.getContext().getAuthentication();
        say(what, who == null ? "nobody" : who.getName(), address());
    }

    /** Says that somebody did something, or tried to. */
    void say(String what, String who, String address) {
        LOG.info("{} by {} from {}", LogText.of(what), LogText.of(who), LogText.of(address));
    }

    private static String address() {
        return RequestContextHolder.getRequestAttributes() instanceof ServletRequestAttributes web
                ? address(web.getRequest())
                : "Ninepin";
    }

    static String address(HttpServletRequest request) {
        return request.getRemoteAddr();
    }
}
