package ninepin.core.formula;

import java.nio.charset.Charset;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.stream.IntStream;
import ninepin.core.layout.Field;
import ninepin.core.layout.Layout;
import ninepin.core.layout.RecordType;

/**
 * What a formula can name: the fields of a record and of the records it belongs to, and host variables. Nothing else
 * can be reached from one.
 */
public final class FormulaScope {

    /**
     * A field that can be named.
     *
     * @param shown its name as a formula writes it, in double quotes where that is needed
     * @param recordType the index of its record type
     * @param field its index there
     */
    public record Place(String shown, String typeName, String name, int recordType, int field, SqlType type) {}

    private final List<Place> places = new ArrayList<>();
    private final Map<String, String> hosts = new TreeMap<>(String.CASE_INSENSITIVE_ORDER);
    private final int own;
    private final LocalDate today;
    private final Charset charset;

    /**
     * @param layout the layout of the records
     * @param type the index of the record type that gives the rows
     * @param hosts texts that a formula names behind a colon; a null text is NULL
     * @param today the day of the run
     */
    public FormulaScope(Layout layout, int type, Map<String, String> hosts, LocalDate today) {
        this.own = type;
        this.today = today;
        this.charset = layout.format().charset().ofValues().charset();
        this.hosts.putAll(hosts);
        for (int t : reachable(layout, type)) {
            RecordType recordType = layout.recordTypes().get(t);
            for (int f = 0; f < recordType.fields().size(); f++) {
                Field field = recordType.fields().get(f);
                String shown = (t == type ? "" : quoted(recordType.name()) + ".") + quoted(field.name());
                places.add(new Place(shown, recordType.name(), field.name(), t, f, SqlType.of(field.type())));
            }
        }
    }

    /** The type itself, those it belongs to, and those that belong to none, such as a header: all hold a latest record. */
    private static List<Integer> reachable(Layout layout, int type) {
        List<Integer> types = new ArrayList<>();
        for (int t = type; t >= 0; t = layout.parentIndex(t)) {
            types.add(t);
        }
        IntStream.range(0, layout.recordTypes().size())
                .filter(t -> layout.parentIndex(t) < 0 && !types.contains(t))
                .forEach(types::add);
        return types;
    }

    /** A name as a formula writes it. */
    private static String quoted(String name) {
        return name.matches("[\\p{L}_][\\p{L}\\p{N}_]*") && !Words.isReserved(name)
                ? name
                : "\"" + name.replace("\"", "\"\"") + "\"";
    }

    /** All fields that can be named, those of the record itself first. */
    public List<Place> places() {
        return List.copyOf(places);
    }

    LocalDate today() {
        return today;
    }

    Charset charset() {
        return charset;
    }

    /**
     * Finds a field. A name of the record itself goes before one of a parent; a name written exactly goes before one
     * that differs in case.
     *
     * @param typeName the record type before the point, or null
     * @param exactly whether the name stood in double quotes
     */
    Optional<Place> find(String typeName, String name, boolean exactly) {
        Optional<Place> exact = places.stream()
                .filter(p -> (typeName == null ? own(p) : p.typeName().equals(typeName))
                        && p.name().equals(name))
                .findFirst();
        return exact.isPresent() || exactly
                ? exact
                : places.stream()
                        .filter(p -> (typeName == null ? own(p) : p.typeName().equalsIgnoreCase(typeName))
                                && p.name().equalsIgnoreCase(name))
                        .findFirst();
    }

    private boolean own(Place place) {
        return place.recordType() == own;
    }

    List<String> fieldNames() {
        return places.stream().map(Place::shown).toList();
    }

    List<String> hostNames() {
        return List.copyOf(hosts.keySet());
    }

    boolean hasHost(String name) {
        return hosts.containsKey(name);
    }

    String host(String name) {
        return hosts.get(name);
    }
}
