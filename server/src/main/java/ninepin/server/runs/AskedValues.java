package ninepin.server.runs;

import java.util.Map;
import java.util.TreeMap;
import ninepin.core.job.Definitions;

/** The values given at start as they stand in a column. */
final class AskedValues {

    private AskedValues() {}

    static String write(Map<String, String> values) {
        return Definitions.mapper().writeValueAsString(values);
    }

    @SuppressWarnings("unchecked")
    static Map<String, String> read(String json) {
        return Definitions.mapper().readValue(json, TreeMap.class);
    }
}
