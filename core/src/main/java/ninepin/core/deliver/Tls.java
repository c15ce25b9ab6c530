package ninepin.core.deliver;

import java.util.Locale;
import ninepin.core.layout.DefinitionException;

/**
 * How the way to a database is kept from being read or changed.
 *
 * @param mode whether it is encrypted, and what the server has to show
 * @param issuer the certificate, as PEM text, that the server's is or is signed by; null for the authorities that the Java
 *     runtime trusts
 */
public record Tls(Mode mode, String issuer) {

    /** Whether the way is encrypted. */
    public enum Mode {
        /** In the clear; for the same machine only. */
        OFF,
        /** Encrypted, to a server whose certificate is trusted and bears its name. */
        VERIFIED;

        /**
         * A mode by its name, as {@link #toString} gives it.
         *
         * @throws DefinitionException where there is none
         */
        public static Mode named(String name) {
            for (Mode mode : values()) {
                if (mode.toString().equals(name)) {
                    return mode;
                }
            }
            throw new DefinitionException("tls", "\"" + name + "\" is neither \"off\" nor \"verified\"");
        }

        @Override
        public String toString() {
            return name().toLowerCase(Locale.ROOT);
        }
    }

    public static final Tls OFF = new Tls(Mode.OFF, null);

    public Tls {
        mode = mode == null ? Mode.OFF : mode;
        issuer = issuer == null || issuer.isBlank() || mode == Mode.OFF ? null : issuer.strip();
        if (issuer != null && !issuer.startsWith("-----BEGIN CERTIFICATE-----")) {
            throw new DefinitionException(
                    "certificate", "is no certificate in PEM form, which begins with -----BEGIN CERTIFICATE-----");
        }
    }

    /** What is meant where nothing is said: in the clear on the same machine, verified to every other one. */
    public static Tls usual(String host) {
        return isLoopback(host) ? OFF : new Tls(Mode.VERIFIED, null);
    }

    private static boolean isLoopback(String host) {
        return host != null
                && (host.equals("localhost") || host.equals("::1") || host.matches("127(\\.[0-9]{1,3}){3}"));
    }
}
