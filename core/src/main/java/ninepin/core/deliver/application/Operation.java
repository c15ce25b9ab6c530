package ninepin.core.deliver.application;

import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import ninepin.core.deliver.TableDescription;
import ninepin.core.deliver.TableDescription.Column;

/**
 * What an application takes in one kind of request.
 *
 * @param method its method
 * @param path its path, with parameters in braces
 * @param summary what it does, in the application's words
 * @param media the media type of its body
 * @param root the name of the body's outermost element, where it is XML
 * @param many whether its body is a list of documents
 * @param inputs all that it takes, in order
 * @param answers the values that its answer has, dots between the names of those inside each other
 */
public record Operation(
        String method,
        String path,
        String summary,
        String media,
        String root,
        boolean many,
        List<Input> inputs,
        List<String> answers) {

    /** Where a value stands in a request. */
    public enum Place {
        BODY,
        PATH,
        QUERY,
        HEADER
    }

    /**
     * One value that it takes.
     *
     * @param place where it stands
     * @param part the list of the body in which it stands, or null
     * @param name its name; of the body, dots between the names of those inside each other
     * @param column what it holds, under the name that rules know it by
     */
    public record Input(Place place, String part, String name, Column column) {}

    /** The header that makes a request safe to send again. */
    public static final String IDEMPOTENCY = "Idempotency-Key";

    /** The lists of its body. */
    public Set<String> parts() {
        Set<String> parts = new LinkedHashSet<>();
        inputs.stream().filter(i -> i.part() != null).forEach(i -> parts.add(i.part()));
        return parts;
    }

    /** What rules may fill of the body itself, or of one of its lists, described as a table is. */
    public Optional<TableDescription> table(String part) {
        List<Column> columns = inputs.stream()
                .filter(i -> part == null ? i.part() == null : part.equals(i.part()))
                .filter(i -> !i.name().equalsIgnoreCase(IDEMPOTENCY))
                .map(Input::column)
                .toList();
        return columns.isEmpty() && part != null
                ? Optional.empty()
                : Optional.of(new TableDescription("", method + " " + path, "", columns, List.of()));
    }

    /** The input that rules know by a name. */
    Optional<Input> input(String part, String column) {
        return inputs.stream()
                .filter(i -> part == null ? i.part() == null : part.equals(i.part()))
                .filter(i -> i.column().name().equalsIgnoreCase(column))
                .findFirst();
    }
}
