package ninepin.server.layouts;

import java.util.List;
import tools.jackson.databind.JsonNode;

/** Knows who works with a layout. */
public interface LayoutUse {

    /**
     * A job that works with a layout.
     *
     * @param job its name
     * @param title its title
     * @param copy the layout as the job's draft holds it
     * @param liveVersion the job's live version, or null
     * @param breaks what the job could not do any more with another layout, in words
     */
    record Use(String job, String title, JsonNode copy, Integer liveVersion, List<String> breaks) {}

    /**
     * The jobs whose draft names a layout.
     *
     * @param layout its name
     * @param proposed what it is to become, which tells what breaks; or null
     */
    List<Use> of(String layout, JsonNode proposed);

    /** The jobs that look into files of a layout. */
    List<String> lookingInto(String layout);

    /** Puts a layout into the drafts of jobs; what is live stays as it is. */
    void give(JsonNode layout, List<String> jobs, String who);
}
