package ninepin.server.security;

import static io.swagger.v3.oas.annotations.media.Schema.RequiredMode.REQUIRED;

import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.servlet.http.HttpServletRequest;
import java.security.Principal;
import ninepin.server.api.Problems;
import org.springframework.http.HttpStatus;
import org.springframework.security.authentication.AuthenticationManager;
import org.springframework.security.authentication.UsernamePasswordAuthenticationToken;
import org.springframework.security.core.AuthenticationException;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** What people may do with their own account. */
@RestController
class AccountController {

    /** A password and the one that takes its place. */
    record PasswordChange(@Schema(requiredMode = REQUIRED) String now, @Schema(requiredMode = REQUIRED) String then) {}

    private final AuthenticationManager manager;
    private final Accounts accounts;
    private final Trail trail;

    AccountController(AuthenticationManager manager, Accounts accounts, Trail trail) {
        this.manager = manager;
        this.accounts = accounts;
        this.trail = trail;
    }

    /** Changes the password of whoever is signed in, who has to know the one there is; all other sessions end. */
    @PutMapping("/api/v1/account/password")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void change(@RequestBody PasswordChange change, Principal who, HttpServletRequest request) {
        UsernamePasswordAuthenticationToken asked =
                UsernamePasswordAuthenticationToken.unauthenticated(who.getName(), change.now());
        asked.setDetails(new SignInGuard.Typed(request));
        try {
            manager.authenticate(asked);
        } catch (SignInGuard.Slowed e) {
            throw Problems.tooMany(e.getMessage(), e.seconds());
        } catch (AuthenticationException e) {
            throw Problems.unprocessable("The password that you have now is another one.");
        }
        accounts.changePassword(who.getName(), change.then());
        Sessions.keep(request);
        trail.say("password changed");
    }
}
