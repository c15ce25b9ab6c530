package ninepin.server.security;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.security.SecureRandom;
import java.time.Clock;
import java.util.HexFormat;
import ninepin.server.config.NinepinSettings;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.ApplicationArguments;
import org.springframework.boot.ApplicationRunner;
import org.springframework.core.annotation.Order;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.stereotype.Component;

/**
 * Makes the first account where there is none. Its password is in {@code NINEPIN_FIRST_PASSWORD}, or made up and
 * written to a file in the data folder that only the owner can read; it is never logged.
 */
@Component
@Order(10)
class FirstAccount implements ApplicationRunner {

    private static final Logger LOG = LoggerFactory.getLogger(FirstAccount.class);

    private final AccountMapper accounts;
    private final PasswordEncoder encoder;
    private final PasswordRules rules;
    private final NinepinSettings settings;
    private final Clock clock;

    FirstAccount(
            AccountMapper accounts,
            PasswordEncoder encoder,
            PasswordRules rules,
            NinepinSettings settings,
            Clock clock) {
        this.rules = rules;
        this.accounts = accounts;
        this.encoder = encoder;
        this.settings = settings;
        this.clock = clock;
    }

    @Override
    public void run(ApplicationArguments args) throws IOException {
        if (accounts.count() > 0) {
            return;
        }
        String given = System.getenv("NINEPIN_FIRST_PASSWORD");
        String password = settings.demo() ? "demo" : given != null && !given.isBlank() ? given : madeUp();
        String name = settings.demo() ? "demo" : "admin";
        String problem = settings.demo() ? null : rules.problem(password, name);
        if (problem != null) {
            throw new IllegalStateException("NINEPIN_FIRST_PASSWORD: " + problem);
        }
        accounts.add(
                name, settings.demo() ? "Demo visitor" : "Administrator", encoder.encode(password), clock.instant());
        LOG.info("The first account is {}.", name);
    }

    private String madeUp() throws IOException {
        byte[] bytes = new byte[9];
        new SecureRandom().nextBytes(bytes);
        String password = HexFormat.of().formatHex(bytes);
        Path file = settings.data().resolve("first-password");
        Files.deleteIfExists(file);
        Files.createFile(file, PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rw-------")));
        Files.writeString(file, password + "\n");
        LOG.info("Its password is in the file {}.", file);
        return password;
    }
}
