package ninepin.core.deliver;

import java.nio.charset.StandardCharsets;
import java.util.Base64;
import java.util.Locale;
import ninepin.core.layout.DefinitionException;

/**
 * How a caller shows who it is. Never printed with its secret.
 *
 * @param by how
 * @param user the user, for {@link By#BASIC}; the name of the header, for {@link By#API_KEY}; the file of the certificate
 *     and its key (PKCS 12), for {@link By#CERTIFICATE}
 * @param secret the password, the token, the key, or the password of the file
 */
public record Authentication(By by, String user, String secret) {

    /** The ways there are. */
    public enum By {
        NONE,
        BASIC,
        BEARER,
        API_KEY,
        CERTIFICATE;

        /** A way by its name, as {@link #toString} gives it. */
        public static By named(String name) {
            for (By by : values()) {
                if (by.toString().equals(name)) {
                    return by;
                }
            }
            throw new DefinitionException(
                    "authentication", "\"" + name + "\" is none; known are none, basic, bearer, api-key, certificate");
        }

        @Override
        public String toString() {
            return name().toLowerCase(Locale.ROOT).replace('_', '-');
        }
    }

    public static final Authentication NONE = new Authentication(By.NONE, "", "");

    public Authentication {
        by = by == null ? By.NONE : by;
        user = user == null ? "" : user;
        secret = secret == null ? "" : secret;
        if (by == By.API_KEY && !user.matches("[A-Za-z0-9!#$%&'*+.^_`|~-]{1,100}")) {
            throw new DefinitionException("authentication", "an API key is sent in a header: name it");
        }
    }

    /** The header that shows who it is, its name and its value; null where none does. */
    public String[] header() {
        return switch (by) {
            case BASIC ->
                new String[] {
                    "Authorization",
                    "Basic "
                            + Base64.getEncoder().encodeToString((user + ":" + secret).getBytes(StandardCharsets.UTF_8))
                };
            case BEARER -> new String[] {"Authorization", "Bearer " + secret};
            case API_KEY -> new String[] {user, secret};
            default -> null;
        };
    }

    @Override
    public String toString() {
        return by.toString();
    }
}
