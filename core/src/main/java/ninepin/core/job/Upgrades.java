package ninepin.core.job;

import java.util.List;
import ninepin.core.layout.DefinitionException;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;

/** Reads the definitions of earlier versions: JSON to JSON, one step a version. What is kept stays as it was. */
public final class Upgrades {

    /** The version in which jobs are written. One without a version may be of any. */
    static final int JOB = 2;

    private static final String VERSION = "schemaVersion";

    private Upgrades() {}

    /**
     * A job in the form of this version.
     *
     * @throws DefinitionException where it is of a later one
     */
    public static JsonNode job(JsonNode job) {
        if (!job.isObject()) {
            return job;
        }
        JsonNode version = job.path(VERSION);
        if (version.isNumber() && version.asInt() > JOB) {
            throw new DefinitionException(VERSION, "is " + version.asInt() + "; this Ninepin reads jobs up to " + JOB);
        }
        return isOfOne(job.path("pickUp")) ? pickUpInParts((ObjectNode) job.deepCopy()) : job;
    }

    /** The same of a text; one that is no JSON stays as it is, so that whoever reads it can say what is wrong. */
    public static String job(String json) {
        if (json == null || !json.contains("\"pickUp\"") && !json.contains("\"" + VERSION + "\"")) {
            return json;
        }
        try {
            JsonNode before = Definitions.mapper().readTree(json);
            JsonNode after = job(before);
            return after == before ? json : Definitions.mapper().writeValueAsString(after);
        } catch (JacksonException e) {
            return json;
        }
    }

    private static boolean isOfOne(JsonNode pickUp) {
        boolean inParts = pickUp.has("from") || pickUp.has("schedule") || pickUp.has("ready");
        return pickUp.isObject() && !pickUp.isEmpty() && !inParts;
    }

    /** From 1 to 2: what is taken, when, and when it is ready stand apart. */
    private static ObjectNode pickUpInParts(ObjectNode job) {
        ObjectNode before = (ObjectNode) job.get("pickUp");
        ObjectNode from = JsonNodeFactory.instance.objectNode();
        JsonNode query = before.remove("query");
        if (query != null && query.isObject()) {
            from.put("kind", "query");
            from.setAll((ObjectNode) query);
        } else {
            from.put("kind", "folder");
            move(before, from, List.of("root", "folder", "pattern"));
        }
        ObjectNode schedule = JsonNodeFactory.instance.objectNode();
        move(before, schedule, List.of("everySeconds", "cron", "expectedBy"));
        ObjectNode after = JsonNodeFactory.instance.objectNode();
        after.set("from", from);
        after.set("schedule", schedule);
        JsonNode seconds = before.remove("readySeconds");
        if (seconds != null) {
            after.putObject("ready").set("unchangedSeconds", seconds);
        }
        // What is left is not known here, and is told by whoever reads it.
        after.setAll(before);
        job.set("pickUp", after);
        job.put(VERSION, JOB);
        return job;
    }

    private static void move(ObjectNode from, ObjectNode to, List<String> names) {
        for (String name : names) {
            JsonNode value = from.remove(name);
            if (value != null) {
                to.set(name, value);
            }
        }
    }
}
