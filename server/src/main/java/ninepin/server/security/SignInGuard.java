package ninepin.server.security;

import jakarta.servlet.http.HttpServletRequest;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import ninepin.server.api.OwnDatabase;
import org.springframework.security.authentication.AuthenticationProvider;
import org.springframework.security.authentication.LockedException;
import org.springframework.security.core.Authentication;
import org.springframework.security.core.AuthenticationException;
import org.springframework.security.web.authentication.WebAuthenticationDetails;

/**
 * Slows guesses of passwords down: after some failures every further one is waited for, twice as long each time. It counts by
 * account and address together, by address, and, with more retries, by account, so that a stranger cannot lock somebody out
 * for long. At most a few passwords are compared at a time, since that is meant to be slow.
 */
final class SignInGuard implements AuthenticationProvider {

    /** How long a failure counts, in seconds. */
    static final int MEMORY_SECONDS = 15 * 60;

    private static final int AT_ONCE = 2;
    private static final int WAIT_FOR_TURN_SECONDS = 5;
    private static final int MOST_WAITING = 16;
    private static final int MOST_REMEMBERED = 10_000;

    /** Of a password that a person has just typed: it is compared, however lately a script has shown it. */
    static final class Typed extends WebAuthenticationDetails {
        private static final long serialVersionUID = 1L;

        Typed(HttpServletRequest request) {
            super(request);
        }
    }

    /** Thrown where one has to wait; says for how many seconds. */
    static final class Slowed extends LockedException {
        private static final long serialVersionUID = 1L;
        private final long seconds;

        Slowed(long seconds) {
            super("Too many sign-ins have failed. Try again in " + words(seconds) + ".");
            this.seconds = seconds;
        }

        private static String words(long seconds) {
            if (seconds >= 120) {
                return (seconds + 59) / 60 + " minutes";
            }
            return seconds == 1 ? "a second" : seconds + " seconds";
        }

        long seconds() {
            return seconds;
        }
    }

    /**
     * What failures are counted of.
     *
     * @param free how many failures cost no wait
     * @param mostSeconds the longest wait
     */
    private record Counted(String subject, int free, int mostSeconds) {}

    private final AuthenticationProvider passwords;
    private final SignInMapper failures;
    private final Trail trail;
    private final RecentSignIns recent;
    /** Until when those are refused whom the database has been asked about. */
    private final Map<String, Long> waits = new ConcurrentHashMap<>();

    private final Semaphore turns = new Semaphore(AT_ONCE, true);

    /**
     * @param passwords compares passwords
     */
    SignInGuard(AuthenticationProvider passwords, SignInMapper failures, RecentSignIns recent, Trail trail) {
        this.recent = recent;
        this.passwords = passwords;
        this.failures = failures;
        this.trail = trail;
    }

    @Override
    public Authentication authenticate(Authentication asked) throws AuthenticationException {
        String name = asked.getName();
        String known = recent.key(asked);
        Authentication before = asked.getDetails() instanceof Typed ? null : recent.of(known);
        if (before != null) {
            return before;
        }
        String address = asked.getDetails() instanceof WebAuthenticationDetails web ? web.getRemoteAddress() : "";
        List<Counted> counted = List.of(
                new Counted(subject("both", name, address), 4, MEMORY_SECONDS),
                new Counted(subject("address", address), 19, 60),
                new Counted(subject("account", name), 49, 60));
        refuseTooSoon(counted, name, address);
        takeTurn();
        try {
            // Whoever was let in before may have failed meanwhile.
            refuseTooSoon(counted, name, address);
            Authentication who = passwords.authenticate(asked);
            failures.forget(counted.get(0).subject());
            recent.keep(known, who);
            return who;
        } catch (Slowed e) {
            throw e;
        } catch (AuthenticationException e) {
            if (!OwnDatabase.isAway(e)) {
                counted.forEach(c -> failures.failed(c.subject(), MEMORY_SECONDS));
                trail.say("sign-in failed", name, address);
                failures.forgetOld(MEMORY_SECONDS);
            }
            throw e;
        } finally {
            turns.release();
        }
    }

    /** A flood of sign-ins does not keep a thread each. */
    private void takeTurn() {
        if (turns.getQueueLength() >= MOST_WAITING) {
            throw new Slowed(1);
        }
        try {
            if (!turns.tryAcquire(WAIT_FOR_TURN_SECONDS, TimeUnit.SECONDS)) {
                throw new Slowed(WAIT_FOR_TURN_SECONDS);
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new Slowed(WAIT_FOR_TURN_SECONDS);
        }
    }

    private void refuseTooSoon(List<Counted> counted, String name, String address) {
        long known = remembered(counted);
        if (known > 0) {
            // Said when it began.
            throw new Slowed(known);
        }
        long longest = 0;
        for (Counted c : counted) {
            long of = failures.of(c.subject(), MEMORY_SECONDS)
                    .map(f -> wait(c, f) - f.secondsAgo())
                    .orElse(0L);
            remember(c, of);
            longest = Math.max(longest, of);
        }
        if (longest > 0) {
            trail.say("sign-in slowed down", name, address);
            throw new Slowed(longest);
        }
    }

    /** How long one has to wait as far as this process knows without asking the database, in seconds. */
    private long remembered(List<Counted> counted) {
        long now = System.nanoTime();
        long longest = 0;
        for (Counted c : counted) {
            Long until = waits.get(c.subject());
            if (until != null) {
                longest = Math.max(longest, TimeUnit.NANOSECONDS.toSeconds(until - now + 999_999_999));
            }
        }
        return Math.max(0, longest);
    }

    private void remember(Counted counted, long seconds) {
        if (waits.size() > MOST_REMEMBERED) {
            waits.values().removeIf(until -> until - System.nanoTime() < 0);
        }
        if (seconds > 0 && waits.size() <= MOST_REMEMBERED) {
            waits.put(counted.subject(), System.nanoTime() + TimeUnit.SECONDS.toNanos(seconds));
        }
    }

    /** How long one waits after so many failures, in seconds. */
    private static long wait(Counted counted, SignInMapper.Failures f) {
        int over = f.failures() - counted.free();
        return over <= 0 ? 0 : Math.min(counted.mostSeconds(), 1L << Math.min(over, 20));
    }

    private static String subject(String... parts) {
        try {
            MessageDigest digest = MessageDigest.getInstance("SHA-256");
            return HexFormat.of()
                    .formatHex(digest.digest(String.join("\0", parts).getBytes(StandardCharsets.UTF_8)));
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException(e);
        }
    }

    @Override
    public boolean supports(Class<?> authentication) {
        return passwords.supports(authentication);
    }
}
