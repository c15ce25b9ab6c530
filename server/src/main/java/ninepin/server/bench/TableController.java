package ninepin.server.bench;

import static io.swagger.v3.oas.annotations.media.Schema.RequiredMode.REQUIRED;

import io.swagger.v3.oas.annotations.media.Schema;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import ninepin.core.deliver.DatabaseAddress;
import ninepin.core.deliver.TargetException;
import ninepin.core.deliver.database.Dialect;
import ninepin.core.destination.tables.TableMaking;
import ninepin.core.job.Definitions;
import ninepin.core.job.Job;
import ninepin.core.layout.Layout;
import ninepin.server.api.Problems;
import ninepin.server.connections.Connections;
import ninepin.server.jobs.Jobs;
import ninepin.server.jobs.ShapingContexts;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.databind.JsonNode;

/** Makes the table of a delivery from its shaping. */
@RestController
@RequestMapping("/api/v1/jobs/{job}")
class TableController {

    /** The sheet, and the delivery that names the table; whether it is to be made or only shown. */
    record TableAsked(
            @Schema(requiredMode = REQUIRED) JsonNode job,
            @Schema(requiredMode = REQUIRED) JsonNode layout,
            int delivery,
            boolean make) {
        TableAsked {
            Problems.needed("job", job);
            Problems.needed("layout", layout);
        }
    }

    /** The statement that makes the table, and the rules that go with it. */
    record TableMade(String statement, List<JsonNode> rules, boolean made) {}

    private final Jobs jobs;
    private final Connections connections;
    private final ShapingContexts contexts;

    TableController(Jobs jobs, Connections connections, ShapingContexts contexts) {
        this.jobs = jobs;
        this.connections = connections;
        this.contexts = contexts;
    }

    /** Says how the table is made; makes it only where that is asked for, by the statement that it says. */
    @PostMapping("/table")
    TableMade table(@PathVariable("job") String name, @RequestBody TableAsked asked) throws TargetException {
        jobs.get(name);
        Job job = Definitions.job(asked.job().toString());
        Layout layout = job.withChecks(Definitions.layout(asked.layout().toString()));
        if (asked.delivery() < 0 || asked.delivery() >= job.deliveries().size()) {
            throw Problems.unprocessable("There is no such delivery.");
        }
        DatabaseAddress address =
                connections.address(job.deliveries().get(asked.delivery()).to().connection());
        Dialect dialect = Dialect.of(address);
        TableMaking making =
                TableMaking.of(job, layout, contexts.sample(job, "sample", null).context(), asked.delivery(), dialect);
        if (asked.make()) {
            make(dialect, address, making.statement());
        }
        List<JsonNode> rules = making.rules().stream()
                .map(r -> (JsonNode) Definitions.mapper().valueToTree(r))
                .toList();
        return new TableMade(making.statement(), rules, asked.make());
    }

    private static void make(Dialect dialect, DatabaseAddress address, String statement) throws TargetException {
        try (Connection c = dialect.connect(address, Dialect.Use.STATEMENTS);
                Statement s = c.createStatement()) {
            s.execute(statement);
        } catch (SQLException e) {
            throw dialect.explain(e, "make the table");
        }
    }
}
