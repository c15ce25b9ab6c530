package ninepin.server.definitions;

import ninepin.core.job.Definitions;
import ninepin.core.job.Job;
import ninepin.core.job.Upgrades;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.Layout;
import tools.jackson.databind.JsonNode;

/** A definition in its one written form, so that only what means something else differs. */
public final class NormalForm {

    private NormalForm() {}

    /** A job; as it is written where it is not valid yet. */
    public static JsonNode ofJob(String json) {
        return of(json, Job.class);
    }

    /** A layout; as it is written where it is not valid yet. */
    public static JsonNode ofLayout(String json) {
        return of(json, Layout.class);
    }

    private static JsonNode of(String json, Class<?> type) {
        try {
            Object definition = type == Job.class ? Definitions.job(json) : Definitions.layout(json);
            return Definitions.mapper().valueToTree(definition);
        } catch (DefinitionException e) {
            JsonNode written = Definitions.mapper().readTree(json);
            return type == Job.class ? Upgrades.job(written) : written;
        }
    }
}
