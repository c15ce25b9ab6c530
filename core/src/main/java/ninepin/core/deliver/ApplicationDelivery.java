package ninepin.core.deliver;

import java.util.List;
import ninepin.core.layout.DefinitionException;

/**
 * A delivery to an application over HTTP: each document is one request, whose body is made of its rows.
 *
 * @param connection the name of the connection
 * @param method the method, {@code POST} where nothing is said
 * @param path the path of the operation as its description writes it, such as {@code /vouchers}
 * @param part the list of the body that rows stand in, such as {@code lines}; null where a row is the body itself
 * @param keep the values of the answer that are kept with the document, such as the number it was given
 * @param batch the most documents of one request, where the operation takes a list of them; null for one
 */
public record ApplicationDelivery(
        String connection, String method, String path, String part, List<String> keep, Integer batch)
        implements Destination {

    /** What an account says that the place is. */
    public static final String SORT = "application";

    /** A document in each request. */
    public ApplicationDelivery(String connection, String method, String path, String part, List<String> keep) {
        this(connection, method, path, part, keep, null);
    }

    public ApplicationDelivery {
        connection = connection == null ? "" : connection.strip();
        method = method == null || method.isBlank() ? "POST" : method.strip();
        path = path == null ? "" : path.strip();
        part = part == null || part.isBlank() ? null : part.strip();
        keep = keep == null ? List.of() : List.copyOf(keep);
        if (!List.of("POST", "PUT", "PATCH").contains(method)) {
            throw new DefinitionException("delivery.method", "must be POST, PUT or PATCH");
        }
        if (batch != null && (batch < 1 || batch > 1_000)) {
            throw new DefinitionException("delivery.batch", "must be from 1 to 1000 documents");
        }
        if (!path.isEmpty() && !path.startsWith("/")) {
            throw new DefinitionException("delivery.path", "begins with a slash, as in /vouchers");
        }
    }

    @Override
    public boolean decided() {
        return !connection.isEmpty() && !path.isEmpty();
    }

    @Override
    public String label() {
        return method + " " + path + (part == null ? "" : " " + part);
    }

    @Override
    public String place() {
        return connection + " " + method + " " + path;
    }

    @Override
    public String kind() {
        return "application";
    }

    @Override
    public String placeLabel() {
        return connection + " " + path;
    }

    @Override
    public String sort() {
        return SORT;
    }

    @Override
    public boolean takesEachDocument() {
        return true;
    }
}
