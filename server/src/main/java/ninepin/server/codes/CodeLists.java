package ninepin.server.codes;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.concurrent.ConcurrentHashMap;
import ninepin.core.codes.CodeList;
import ninepin.core.codes.CodeTable;
import ninepin.core.codes.CodeTables;
import ninepin.core.deliver.Places;
import ninepin.core.deliver.TargetException;
import ninepin.core.job.Definitions;
import ninepin.core.layout.DefinitionException;
import ninepin.server.api.Problems;
import ninepin.server.codes.CodeListMapper.CodeListRow;
import ninepin.server.codes.CodeListMapper.TakenRow;
import ninepin.server.config.NinepinSettings;
import ninepin.server.connections.Connections;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.ErrorResponseException;

/** The library of code lists. Every change is a version; jobs take the latest one when a run first starts. */
@Service
public class CodeLists {

    /** For how long the bench goes on with what a query gave. */
    private static final Duration FRESH = Duration.ofSeconds(10);

    /**
     * What a query gave.
     *
     * @param list the list with its lines
     * @param version its version
     * @param at when it was asked
     */
    public record Filled(CodeList list, int version, Instant at) {}

    /** The lists that a job names, as far as they are there, and why others are not. */
    public record Found(CodeTables tables, List<String> troubles) {}

    private final CodeListMapper mapper;
    private final Connections connections;
    private final NinepinSettings settings;
    private final Clock clock;
    private final CodeUse use;
    private final Map<String, Filled> fresh = new ConcurrentHashMap<>();

    CodeLists(CodeListMapper mapper, Connections connections, NinepinSettings settings, Clock clock, CodeUse use) {
        this.settings = settings;
        this.mapper = mapper;
        this.connections = connections;
        this.clock = clock;
        this.use = use;
    }

    public List<CodeListRow> all() {
        return mapper.all();
    }

    public CodeListRow get(String name) {
        return mapper.find(name).orElseThrow(() -> Problems.notFound("There is no code list named " + name + "."));
    }

    public List<CodeListRow> versions(String name) {
        get(name);
        return mapper.versions(name);
    }

    public List<String> jobsNaming(String name) {
        return use.jobsNaming(name);
    }

    @Transactional
    public CodeListRow create(CodeList list, String note, String who) {
        if (mapper.find(list.name()).isPresent()) {
            throw Problems.conflict("There is a code list named " + list.name() + " already.");
        }
        mapper.add(list.name());
        addVersion(list, 0, note, who);
        return get(list.name());
    }

    /**
     * Saves a version.
     *
     * @param basedOn the version that was edited
     */
    @Transactional
    public CodeListRow save(CodeList list, int basedOn, String note, String who) {
        CodeListRow row = get(list.name());
        if (Definitions.codeList(row.definition()).equals(list)) {
            throw Problems.conflict("Nothing differs from version " + row.version() + ".");
        }
        addVersion(list, basedOn, note, who);
        return get(list.name());
    }

    private void addVersion(CodeList list, int basedOn, String note, String who) {
        if (mapper.next(list.name(), basedOn) == 0) {
            CodeListRow now = get(list.name());
            throw Problems.conflict("Meanwhile " + now.savedBy() + " saved version " + now.version()
                    + ". Load it again; your own change is still in this window.");
        }
        mapper.addVersion(
                list.name(),
                Definitions.write(list.query() == null ? list : list.withEntries(List.of())),
                note == null || note.isBlank() ? null : note.strip(),
                clock.instant(),
                who);
        fresh.remove(list.name());
    }

    /** Adds lines to the latest version. */
    @Transactional
    public CodeListRow addEntries(String name, List<CodeList.Entry> more, String note, String who) {
        CodeListRow row = get(name);
        CodeList list = Definitions.codeList(row.definition());
        if (list.query() != null) {
            throw Problems.unprocessable(
                    "The lines of " + name + " are read by a query; add the value in the database.");
        }
        List<CodeList.Entry> all = new ArrayList<>(list.entries());
        all.addAll(more);
        return save(list.withEntries(all), row.version(), note, who);
    }

    public void delete(String name) {
        List<String> jobs = use.jobsNaming(name);
        if (!jobs.isEmpty()) {
            throw Problems.conflict("The code list " + name + " is used by " + String.join(", ", jobs) + ".");
        }
        if (mapper.delete(name) == 0) {
            throw Problems.notFound("There is no code list named " + name + ".");
        }
    }

    private CodeList ask(CodeList list) throws TargetException {
        requireOwnSql();
        return CodeQuery.filled(list, connections.address(list.query().connection()));
    }

    /** Asks a query as it is written. */
    CodeQuery.Read ask(CodeList.Query query) throws TargetException {
        requireOwnSql();
        return CodeQuery.ask(connections.address(query.connection()), query, CodeList.MOST_ENTRIES);
    }

    private void requireOwnSql() throws TargetException {
        if (!settings.ownSql()) {
            throw new TargetException(TargetException.Kind.UNUSABLE, "SQL-02", Places.OWN_SQL_OFF, null);
        }
    }

    /** A list with its lines; those of a query as they were read not long ago. */
    public Filled filled(String name) throws TargetException {
        CodeListRow row = get(name);
        CodeList list = Definitions.codeList(row.definition());
        if (list.query() == null) {
            return new Filled(list, row.version(), null);
        }
        Filled before = fresh.get(name);
        if (before != null
                && before.version() == row.version()
                && before.at().isAfter(clock.instant().minus(FRESH))) {
            return before;
        }
        Filled now = new Filled(ask(list), row.version(), clock.instant());
        fresh.put(name, now);
        return now;
    }

    /**
     * The lists that a definition names, as they are now.
     *
     * @param missed for each list counts the values that are asked for and not there; null where nobody wants to know
     */
    public Found find(List<String> names, Map<String, Map<String, Long>> missed) {
        Map<String, CodeTable> tables = new HashMap<>();
        List<String> troubles = new ArrayList<>();
        for (String name : names) {
            if (mapper.find(name).isEmpty()) {
                continue;
            }
            try {
                Map<String, Long> counts = missed == null ? null : missed.computeIfAbsent(name, n -> new TreeMap<>());
                tables.put(name, new CodeTable(filled(name).list(), counts));
            } catch (TargetException | DefinitionException | ErrorResponseException e) {
                String why = e instanceof ErrorResponseException r ? r.getBody().getDetail() : e.getMessage();
                troubles.add("The code list " + name + " cannot be read: " + why);
            }
        }
        return new Found(new CodeTables(tables), troubles);
    }

    /** What a run took, in words: each list with its version. */
    public List<String> taken(long run) {
        return mapper.taken(run).stream()
                .map(t -> t.name() + " (version " + t.version() + ")")
                .toList();
    }

    /** The lists that a run takes: those of its first start. */
    @Transactional
    public CodeTables forRun(long run, List<String> names) throws TargetException {
        Map<String, CodeTable> tables = new HashMap<>();
        List<TakenRow> taken = mapper.taken(run);
        for (String name : names) {
            Optional<TakenRow> before =
                    taken.stream().filter(t -> t.name().equalsIgnoreCase(name)).findFirst();
            if (before.isPresent()) {
                tables.put(name, new CodeTable(Definitions.codeList(before.get().definition())));
                continue;
            }
            Optional<CodeListRow> row = mapper.find(name);
            if (row.isEmpty()) {
                continue;
            }
            CodeList list = Definitions.codeList(row.get().definition());
            if (list.query() != null) {
                list = ask(list);
            }
            mapper.take(run, row.get().name(), row.get().version(), Definitions.write(list), clock.instant());
            tables.put(name, new CodeTable(list));
        }
        return new CodeTables(tables);
    }
}
