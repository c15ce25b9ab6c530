package ninepin.server.testing;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import ninepin.core.deliver.TableDelivery.Mode;
import ninepin.core.job.Definitions;
import ninepin.core.testing.Quality;
import ninepin.server.jobs.JobMapper.JobRow;
import ninepin.server.jobs.Jobs;
import ninepin.server.runs.FileHome;
import ninepin.server.runs.RunView;
import ninepin.server.runs.Runs;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ObjectNode;

/** Jobs of the laboratory's small form, each with a table of its own, run by the services of this process. */
public final class SmallWorld {

    /** Of a job: a file for each farm, in the folder {@code in} of the root {@code share}. */
    public static final String FILES_TO_SHARE =
            """
            "deliveries":[{"to":{"kind":"file","file":{"root":"share","folder":"in","name":"farm_{farm}.csv","per":"group",
             "by":"farm","layout":{"name":"farms","format":{"kind":"delimited","delimiter":";","header":true},
             "recordTypes":[{"name":"farm","fields":[{"name":"farm","type":{"is":"integer"}},
              {"name":"sample","type":{"is":"text","length":12}}]}]}}},
             "shaping":[{"target":"sample","take":{"from":"field","field":"Sample"}},
              {"target":"farm","take":{"from":"field","field":"Farm"}}]}]""";

    private final Services services;
    private int files;

    public SmallWorld(Services services) {
        this.services = services;
    }

    /** The layout under a name. */
    public static ObjectNode layout(String name) {
        ObjectNode layout = Definitions.mapper()
                .readTree(Definitions.write(Quality.layout()))
                .asObject();
        return layout.put("name", name);
    }

    /** A job under a name, which adds to a table of that name; {@code more} are further parts of its definition. */
    public static ObjectNode job(String name, String more) {
        ObjectNode job = Definitions.mapper()
                .readTree(Definitions.write(Quality.job(Mode.ADD, null))
                        .replace("quality_result", name.replace('-', '_'))
                        .replace("\"warehouse\"", "\"target\""))
                .asObject();
        job.put("name", name).put("layout", name);
        job.setAll(Definitions.mapper().readTree("{" + more + "}").asObject());
        return job;
    }

    /** Makes a job with its table, not live yet. */
    public JobRow make(String name, String more) {
        services.database().execute(services.target(), Quality.TABLE.replace("quality_result", name.replace('-', '_')));
        return services.get(Jobs.class).create(job(name, more), layout(name), "tester");
    }

    /** Makes a job and puts it live. */
    public JobRow live(String name, String more) {
        make(name, more);
        if (!services.get(Jobs.class).putLive(name, "tester").stream().allMatch(s -> !s.blocks())) {
            throw new AssertionError(services.get(Jobs.class).checkForLive(name).toString());
        }
        return services.get(Jobs.class).get(name);
    }

    /** Lines of a file from one number up to another, every so many of them with a farm that is no number. */
    public static byte[] lines(int from, int to, int badEvery) {
        StringBuilder text = new StringBuilder(Quality.HEADER);
        for (int n = from; n < to; n++) {
            String line = Quality.line(n);
            text.append(badEvery > 0 && n % badEvery == 0 ? line.replaceFirst(";\\d+;", ";x;") : line);
        }
        return text.toString().getBytes(Quality.CHARSET);
    }

    /** Gives a job a file under a name. */
    public long give(String job, String name, byte[] bytes) throws IOException {
        JobRow row = services.get(Jobs.class).get(job);
        Path home = Files.createDirectories(services.folder().resolve("files").resolve(job));
        Path part = home.resolve("part-" + ++files);
        Files.write(part, bytes);
        return services.get(Runs.class)
                .accept(row, part, new FileHome(home.resolve(".home")), name, "tester", java.util.Map.of());
    }

    /** Waits until a run is in a state. */
    public RunView await(long run, String state) throws Exception {
        Runs runs = services.get(Runs.class);
        return Services.await(() -> runs.view(run), r -> r.state().name().equals(state));
    }

    /** Gives a job a file and waits until its run has ended well. */
    public RunView run(String job, byte[] bytes) throws Exception {
        return await(give(job, "results.csv", bytes), "FINISHED");
    }

    /** How many rows stand in the table of a job. */
    public long rows(String job) {
        return Long.parseLong(services.database()
                .rows(services.target(), "SELECT COUNT(*) FROM " + job.replace('-', '_'))
                .get(0));
    }

    /** A definition with another value in one of its parts. */
    public static JsonNode with(JsonNode definition, String part, String value) {
        return definition.deepCopy().asObject().put(part, value);
    }
}
