package ninepin.doors.query;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import ninepin.core.deliver.TargetException;
import ninepin.core.layout.DefinitionException;
import ninepin.core.pickup.From;
import ninepin.core.pickup.NewRows;
import ninepin.doors.source.Fetched;
import ninepin.doors.source.Item;
import ninepin.doors.source.Source;
import ninepin.doors.source.SourceContext;
import ninepin.doors.source.SourceException;

/** The rows that a query gives now; where only new ones are taken, those behind the last one taken. */
final class QuerySource implements Source {

    private static final String ROWS = "rows";

    private final From.Query from;
    private final QueryCopy query;
    private final SourceContext context;

    QuerySource(From.Query from, QueryCopy query, SourceContext context) {
        this.from = from;
        this.query = query;
        this.context = context;
    }

    private NewRows known() {
        return from.onlyNew() ? context.progress().known() : NewRows.NONE;
    }

    @Override
    public List<Item> list() throws SourceException {
        NewRows known = known();
        if (from.lagSeconds() > 0 && known.upTo(context.clock().instant(), from.lagSeconds()) == null) {
            String highest = asked(() -> query.highest(from.key()));
            NewRows now = known.seeing(highest, context.clock().instant());
            if (now != known) {
                context.progress().see(now);
            }
            return List.of();
        }
        String version = from.onlyNew()
                ? "behind " + known.taken()
                : context.clock().instant().toString();
        return List.of(new Item(ROWS, context.facts().fileName(), -1, null, version));
    }

    @Override
    public Optional<Fetched> fetch(Item item, Path into) throws SourceException, IOException {
        Files.createDirectories(into.getParent());
        NewRows known = known();
        String upTo = known.upTo(context.clock().instant(), from.lagSeconds());
        QueryCopy.Copied copied = asked(() -> query.write(context.layout(), from.key(), known.taken(), upTo, 0, into));
        if (copied.rows() == 0) {
            Files.deleteIfExists(into);
            return Optional.empty();
        }
        return Optional.of(new Fetched(Files.size(into), from.onlyNew() ? copied.lastKey() : null));
    }

    /** A question to the database. */
    interface Question<T> {
        T ask() throws TargetException, IOException;
    }

    static <T> T asked(Question<T> question) throws SourceException {
        try {
            return question.ask();
        } catch (TargetException e) {
            throw new SourceException(e.code(), e.getMessage(), e.mayPass(), e);
        } catch (DefinitionException e) {
            throw new SourceException("JOB-49", e.getMessage(), false, e);
        } catch (IOException e) {
            throw new SourceException("FIL-03", "The rows cannot be kept on this machine: " + e.getMessage(), true, e);
        }
    }
}
