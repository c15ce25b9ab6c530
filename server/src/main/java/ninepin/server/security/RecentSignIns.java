package ninepin.server.security;

import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.security.SecureRandom;
import java.time.Duration;
import java.util.HexFormat;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import javax.crypto.Mac;
import javax.crypto.spec.SecretKeySpec;
import org.springframework.security.core.Authentication;
import org.springframework.stereotype.Component;

/**
 * Remembers for some seconds who has shown a right password, since scripts show it with each request and comparing it is meant
 * to be slow. Kept are hashes under a key that this process has made up and nobody else knows.
 */
@Component
class RecentSignIns {

    private static final long KEPT = Duration.ofSeconds(20).toNanos();
    private static final int MOST = 1_000;

    private record Seen(Authentication who, long at) {}

    private final byte[] key = new byte[32];
    private final Map<String, Seen> seen = new ConcurrentHashMap<>();

    RecentSignIns() {
        new SecureRandom().nextBytes(key);
    }

    /** What a name and a password are known by. */
    String key(Authentication asked) {
        try {
            Mac mac = Mac.getInstance("HmacSHA256");
            mac.init(new SecretKeySpec(key, "HmacSHA256"));
            mac.update(asked.getName().getBytes(StandardCharsets.UTF_8));
            mac.update((byte) 0);
            return HexFormat.of()
                    .formatHex(
                            mac.doFinal(String.valueOf(asked.getCredentials()).getBytes(StandardCharsets.UTF_8)));
        } catch (GeneralSecurityException e) {
            throw new IllegalStateException(e);
        }
    }

    /** Who has shown them of late, or null. */
    Authentication of(String known) {
        Seen of = seen.get(known);
        return of != null && System.nanoTime() - of.at() < KEPT ? of.who() : null;
    }

    void keep(String known, Authentication who) {
        long now = System.nanoTime();
        if (seen.size() >= MOST) {
            seen.values().removeIf(s -> now - s.at() >= KEPT);
        }
        if (seen.size() < MOST) {
            seen.put(known, new Seen(who, now));
        }
    }

    /** An account has another password now. */
    void forget() {
        seen.clear();
    }
}
