package ninepin.doors.query;

import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import ninepin.core.deliver.DatabaseAddress;
import ninepin.core.deliver.Places;
import ninepin.core.deliver.TargetException;
import ninepin.core.deliver.database.HostedSql;
import ninepin.core.job.Shortcoming;
import ninepin.core.layout.DefinitionException;
import ninepin.core.layout.Layout;
import ninepin.core.pickup.From;
import ninepin.doors.source.Asked;
import ninepin.doors.source.Source;
import ninepin.doors.source.SourceContext;
import ninepin.doors.source.SourceException;

/** Rows of a query. */
public record QuerySupport(From.Query from) implements Asked {

    /** The rows of a sample. */
    private static final int SAMPLE = 2_000;

    @Override
    public String words() {
        return "rows of a query in " + from.connection() + (from.onlyNew() ? ", the new ones" : "");
    }

    @Override
    public String place(String job) {
        return "query of " + job;
    }

    @Override
    public String through() {
        return "connection " + from.connection();
    }

    @Override
    public boolean decided() {
        return from.decided();
    }

    @Override
    public Source open(SourceContext context) throws SourceException {
        return new QuerySource(from, QuerySource.asked(() -> copy(context)), context);
    }

    @Override
    public Layout layout(SourceContext context, String name) throws SourceException {
        return QuerySource.asked(() -> copy(context).layout(name));
    }

    @Override
    public void sample(SourceContext context, Path into) throws SourceException {
        QuerySource.asked(() -> copy(context).write(context.layout(), from.key(), null, null, SAMPLE, into));
    }

    /** Throws where the query cannot be read, or names a host variable that is not there. */
    private QueryCopy copy(SourceContext context) {
        if (!context.places().ownSql()) {
            throw new DefinitionException("pickUp.query", Places.OWN_SQL_OFF);
        }
        DatabaseAddress address = context.places().database(from.connection());
        HostedSql sql = HostedSql.parse("pickUp.query", address.kind(), from.statement())
                .requireQuestion();
        Map<String, String> hosts = context.job().hosts(context.facts());
        List<String> unknown = sql.unknown(hosts);
        if (!unknown.isEmpty()) {
            throw new DefinitionException(
                    "pickUp.query",
                    "there is no host variable :" + unknown.get(0) + "; there are :"
                            + String.join(", :", hosts.keySet()));
        }
        return new QueryCopy(address, sql, hosts);
    }

    @Override
    public List<Shortcoming> check(SourceContext context) {
        if (!from.decided()) {
            return List.of(of("There is no query yet: choose a connection and say what it is asked."));
        }
        try {
            copy(context).require(context.layout(), from.key());
            return List.of();
        } catch (DefinitionException e) {
            return List.of(of("The query: " + e.getMessage()));
        } catch (TargetException e) {
            return List.of(of("The query: " + e.getMessage()).passing(e.mayPass()));
        }
    }

    private static Shortcoming of(String message) {
        return new Shortcoming(true, 1, -1, "query", "JOB-49", message);
    }
}
