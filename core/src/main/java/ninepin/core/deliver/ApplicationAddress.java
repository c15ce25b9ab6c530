package ninepin.core.deliver;

import java.net.URI;
import java.net.URISyntaxException;
import ninepin.core.layout.DefinitionException;

/**
 * How an application is reached.
 *
 * @param name what people call it; its words in findings are told as its own
 * @param base where its paths begin, such as {@code https://accounts.larkfell.example/api}
 * @param authentication how callers show who they are
 * @param description its OpenAPI document, as text
 */
public record ApplicationAddress(String name, URI base, Authentication authentication, String description) {

    /**
     * An address by its text.
     *
     * @throws DefinitionException where the text is none
     */
    public static ApplicationAddress of(String name, String base, Authentication authentication, String description) {
        try {
            URI uri = new URI(base == null ? "" : base.strip().replaceAll("/+$", ""));
            boolean http = "http".equals(uri.getScheme()) || "https".equals(uri.getScheme());
            if (!http || uri.getHost() == null || uri.getUserInfo() != null || uri.getQuery() != null) {
                throw new DefinitionException(
                        "base", "an address begins with http:// or https:// and a host, and has no user or query");
            }
            return new ApplicationAddress(name, uri, authentication, description == null ? "" : description);
        } catch (URISyntaxException e) {
            throw new DefinitionException("base", "\"" + base + "\" is no address: " + e.getReason());
        }
    }
}
