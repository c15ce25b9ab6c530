package ninepin.server.testing;

import ninepin.core.deliver.TableDelivery.Mode;
import ninepin.core.job.Definitions;
import ninepin.core.testing.MariaDbServer;
import ninepin.core.testing.Quality;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ObjectNode;

/** Small jobs put live through the API, each with a table of its own, and files for them. */
public final class SmallJobs {

    private final ServerProcess server;
    private final MariaDbServer database;
    private final String warehouse;

    /**
     * @param warehouse the database that is delivered to, which is made anew
     */
    public SmallJobs(ServerProcess server, MariaDbServer database, String warehouse) throws Exception {
        this.server = server;
        this.database = database;
        this.warehouse = warehouse;
        database.database(warehouse);
        connect(warehouse, warehouse);
    }

    /** A connection to a database of the server. */
    public void connect(String name, String to) throws Exception {
        server.ask(
                "PUT",
                "/api/v1/connections/" + name,
                "{\"title\":\"Warehouse\",\"host\":\"127.0.0.1\",\"port\":" + database.port() + ",\"database\":\"" + to
                        + "\",\"user\":\"root\",\"password\":\"\"}");
    }

    /**
     * Puts a job live that adds results to a table of its name, which takes each row as often as it comes.
     *
     * @param more parts of the definition, such as {@code "afterCrash":"restart"}; empty for none
     */
    public void adds(String name, String more) throws Exception {
        String table = name.replace('-', '_');
        database.execute(
                warehouse,
                Quality.TABLE
                        .replace("quality_result", table)
                        .replace(", PRIMARY KEY (sample, test)", ", KEY by_sample (sample)"));
        ObjectNode job = Definitions.mapper()
                .readTree(Definitions.write(Quality.job(Mode.ADD, null))
                        .replace("quality_result", table)
                        .replace("\"warehouse\"", "\"" + warehouse + "\""))
                .asObject();
        job.put("name", name);
        job.put("layout", name);
        job.setAll(Definitions.mapper().readTree("{" + more + "}").asObject());
        ObjectNode layout = Definitions.mapper()
                .readTree(Definitions.write(Quality.layout()))
                .asObject();
        layout.put("name", name);
        live(name, job, layout);
    }

    /** Puts a job live. */
    public void live(String name, JsonNode job, JsonNode layout) throws Exception {
        server.ask("POST", "/api/v1/jobs", "{\"revision\":0,\"job\":" + job + ",\"layout\":" + layout + "}");
        JsonNode live = server.ask("POST", "/api/v1/jobs/" + name + "/live", null);
        if (live.path("version").isNull()) {
            throw new IllegalStateException(live.toString());
        }
    }

    /** A file of good lines by the numbers of their samples. */
    public static byte[] lines(int from, int to) {
        StringBuilder file = new StringBuilder(Quality.HEADER);
        for (int n = from; n < to; n++) {
            file.append(Quality.line(n));
        }
        return file.toString().getBytes(Quality.CHARSET);
    }

    /** Gives a job a file; the number of the run. */
    public long give(String job, String name, byte[] file) throws Exception {
        return server.upload("/api/v1/jobs/" + job + "/runs", name, file)
                .path("id")
                .asLong();
    }

    /** Waits until a run is in a state. */
    public JsonNode await(long run, String state) throws Exception {
        return server.await(
                "/api/v1/runs/" + run, r -> r.path("state").asString().equals(state));
    }

    /** Waits until a run has committed so often. */
    public void awaitCommits(long run, int commits) throws Exception {
        server.await("/api/v1/runs/" + run, r -> r.path("commits").asLong() >= commits);
    }

    /** How many rows the table of a job has, and how many different samples. */
    public String rows(String job) {
        return database.rows(warehouse, "SELECT COUNT(*), COUNT(DISTINCT sample) FROM " + job.replace('-', '_'))
                .get(0);
    }
}
