package ninepin.core.codes;

import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/** The code lists that a job can name. */
public final class CodeTables {

    public static final CodeTables NONE = new CodeTables(Map.of());

    private final Map<String, CodeTable> tables = new TreeMap<>(String.CASE_INSENSITIVE_ORDER);

    /**
     * @param tables the lists by their names
     */
    public CodeTables(Map<String, CodeTable> tables) {
        this.tables.putAll(tables);
    }

    /** The tables of lists. */
    public static CodeTables of(List<CodeList> lists) {
        Map<String, CodeTable> tables = new TreeMap<>();
        lists.forEach(l -> tables.put(l.name(), new CodeTable(l)));
        return new CodeTables(tables);
    }

    /** A list by its name, or null. */
    public CodeTable find(String name) {
        return tables.get(name);
    }

    public List<String> names() {
        return List.copyOf(tables.keySet());
    }
}
