package ninepin.server.jobs;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import ninepin.core.job.Definitions;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ObjectNode;

/** Notes in a job who wrote each piece of its SQL: whoever saved it first as it stands. */
final class SqlAuthors {

    private static final String AUTHOR = "writtenBy";

    private SqlAuthors() {}

    /**
     * A job with the authors of its SQL, whatever it says of them itself.
     *
     * @param before the job as it was saved last; null for a new one
     */
    static JsonNode noted(JsonNode job, String before, String who) {
        if (!job.isObject()) {
            return job;
        }
        Map<String, String> authors = new HashMap<>();
        if (before != null) {
            for (ObjectNode sql : pieces(Definitions.mapper().readTree(before))) {
                authors.put(text(sql), sql.path(AUTHOR).asString(who));
            }
        }
        JsonNode noted = job.deepCopy();
        for (ObjectNode sql : pieces(noted)) {
            sql.put(AUTHOR, authors.getOrDefault(text(sql), who));
        }
        return noted;
    }

    private static List<ObjectNode> pieces(JsonNode job) {
        List<ObjectNode> all = new ArrayList<>();
        job.path("statements").forEach(s -> s.asObjectOpt().ifPresent(all::add));
        for (JsonNode delivery : job.path("deliveries")) {
            delivery.path("to").asObjectOpt().filter(to -> to.has("statement")).ifPresent(all::add);
        }
        job.path("pickUp")
                .path("from")
                .asObjectOpt()
                .filter(from -> from.has("statement"))
                .ifPresent(all::add);
        return all;
    }

    private static String text(ObjectNode sql) {
        return sql.path("connection").asString("")
                + '\n'
                + sql.path("sql").asString("")
                + sql.path("statement").asString("");
    }
}
