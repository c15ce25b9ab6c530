package ninepin.server.security;

import java.time.Instant;
import ninepin.server.api.Problems;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.stereotype.Component;

/** The accounts and their passwords, of which only hashes are kept. */
@Component
class Accounts {

    private final AccountMapper mapper;
    private final PasswordEncoder encoder;
    private final PasswordRules rules;
    private final RecentSignIns recent;

    Accounts(AccountMapper mapper, PasswordEncoder encoder, PasswordRules rules, RecentSignIns recent) {
        this.mapper = mapper;
        this.encoder = encoder;
        this.rules = rules;
        this.recent = recent;
    }

    void changePassword(String name, String password) {
        String problem = rules.problem(password, name);
        if (problem != null) {
            throw Problems.unprocessable(problem);
        }
        mapper.changePassword(name, encoder.encode(password), Instant.now());
        recent.forget();
    }

    /** When the password of an account was changed last. */
    Instant passwordAt(String name) {
        return mapper.find(name).map(AccountMapper.Account::passwordAt).orElse(Instant.MAX);
    }
}
