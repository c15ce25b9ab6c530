package ninepin.core.deliver.application;

import java.io.IOException;
import java.io.InputStream;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import ninepin.core.deliver.ApplicationAddress;
import ninepin.core.deliver.TargetException;
import ninepin.core.deliver.TargetException.Kind;

/** Asks an application for its OpenAPI document. */
public final class Describing {

    private static final int MOST = 8 << 20;

    private Describing() {}

    /**
     * Fetches the document.
     *
     * @param path where it stands below the address, such as {@code /openapi.json}
     */
    public static String fetch(ApplicationAddress address, String path) throws TargetException {
        Caller caller = new Caller(address, RetryPolicy.USUAL, () -> false, why -> {});
        try {
            HttpRequest.Builder request = caller.to(path.startsWith("/") ? path : "/" + path, Duration.ofSeconds(15))
                    .header("Accept", "application/json, application/yaml, text/yaml, */*;q=0.5");
            HttpResponse<InputStream> response =
                    caller.client().send(request.build(), HttpResponse.BodyHandlers.ofInputStream());
            try (InputStream in = response.body()) {
                byte[] body = in.readNBytes(MOST + 1);
                if (response.statusCode() != 200 || body.length > MOST) {
                    throw unusable(
                            "APP-04",
                            address.name() + " answers " + response.statusCode() + " to " + path
                                    + (body.length > MOST ? ", with more than " + MOST + " bytes" : "") + ".");
                }
                return new String(body, StandardCharsets.UTF_8);
            }
        } catch (IllegalArgumentException e) {
            throw unusable("APP-03", "The address, the path or the way of showing who calls does not fit HTTP.");
        } catch (IOException e) {
            String why = e.getMessage() == null ? "nothing answers there" : e.getMessage();
            throw unusable("APP-02", address.name() + " cannot be reached at " + address.base() + ": " + why + ".");
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw unusable("APP-05", "Interrupted while " + address.name() + " was asked.");
        }
    }

    private static TargetException unusable(String code, String message) {
        return new TargetException(Kind.UNUSABLE, code, message, null);
    }
}
