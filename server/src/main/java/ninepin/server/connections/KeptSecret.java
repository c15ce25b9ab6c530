package ninepin.server.connections;

import java.util.List;
import java.util.Objects;
import java.util.stream.Stream;
import ninepin.server.api.Problems;
import ninepin.server.security.Seal;
import org.springframework.stereotype.Component;

/**
 * The secrets that connections keep. Each serves only the address it was given for: to another one, or shown in another way,
 * it is never sent, and has to be typed again.
 */
@Component
class KeptSecret {

    private final ConnectionMapper mapper;
    private final Seal seal;

    KeptSecret(ConnectionMapper mapper, Seal seal) {
        this.mapper = mapper;
        this.seal = seal;
    }

    /**
     * The secret of a connection as it is written: the one that is given with it, or the one that is kept.
     *
     * @return the secret, or an empty text where there is none
     * @throws org.springframework.web.ErrorResponseException where one is kept for another address
     */
    String of(String name, Connections.ConnectionInput in) {
        if (in.password() != null) {
            return in.password();
        }
        ConnectionMapper.Row kept = mapper.find(name).orElse(null);
        String secret = kept == null ? "" : seal.open(kept.sealedPassword());
        if (!secret.isEmpty() && !purpose(kept).equals(purpose(in))) {
            throw Problems.unprocessable("The password or key that is kept was given for " + where(kept)
                    + ". Type it again: it is not sent to another address or in another way.");
        }
        return secret;
    }

    private static String where(ConnectionMapper.Row kept) {
        return Connections.APPLICATION.equals(kept.kind())
                ? kept.base() + " (" + kept.authentication() + ")"
                : kept.userName() + "@" + kept.host() + ":" + kept.port()
                        + (kept.tls().equals("verified") ? ", encrypted" : "");
    }

    private static List<String> purpose(ConnectionMapper.Row r) {
        return Connections.APPLICATION.equals(r.kind())
                ? purpose(r.kind(), r.base(), r.authentication(), r.userName())
                : purpose(r.kind(), r.host(), r.port(), r.userName(), r.tls(), r.certificate());
    }

    private static List<String> purpose(Connections.ConnectionInput in) {
        return in.application()
                ? purpose(in.kind(), in.base(), in.authentication(), in.user())
                : purpose(
                        in.kind(),
                        in.host(),
                        in.port(),
                        in.user(),
                        in.wire().mode(),
                        in.wire().issuer());
    }

    private static List<String> purpose(Object... parts) {
        return Stream.of(parts).map(p -> Objects.toString(p, "").strip()).toList();
    }
}
