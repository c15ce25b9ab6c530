package ninepin.core.formula;

import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import ninepin.core.codes.CodeTables;
import ninepin.core.layout.Field;
import ninepin.core.layout.FileCharset;
import ninepin.core.layout.Layout;
import ninepin.core.layout.RecordType;
import ninepin.core.lookup.LookUpTable;

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
     * @param of the field
     * @param about the index of the record type whose record decides its value; of what a look-up adds that of the look-up
     * @param charset the charset of its texts
     */
    public record Place(
            String shown,
            String typeName,
            String name,
            int recordType,
            int field,
            Field of,
            int about,
            FileCharset charset) {

        /** The type of its values. */
        public SqlType type() {
            return SqlType.of(of.type());
        }

        /** Its name as a rule of another record type takes it. */
        public String withType() {
            return typeName + "." + name;
        }

        /** Its name as a rule takes it. */
        public String taken(int byType) {
            return recordType == byType ? name : withType();
        }
    }

    private final List<Place> places = new ArrayList<>();
    private final Map<String, String> hosts = new TreeMap<>(String.CASE_INSENSITIVE_ORDER);
    /** The fields of records that belong to the same document and are neither this record nor those it belongs to. */
    private final List<Place> below = new ArrayList<>();

    private final Layout layout;
    private final int own;
    private final Surroundings around;
    private final Notices notices;
    private final FileCharset charset;
    /** The record type that names without one mean, inside of an aggregate; else the own one. */
    private int inner;

    private boolean inAggregate;
    private boolean aggregates = true;

    /** Without code lists, and nobody who listens to what there is to note. */
    public FormulaScope(Layout layout, int type, Map<String, String> hosts, LocalDate today) {
        this(layout, type, new Surroundings(hosts, today), new Notices());
    }

    /**
     * @param layout the layout of the records
     * @param type the index of the record type that gives the rows
     * @param around what can be named beside them
     * @param notices takes what there is to note while a formula is evaluated
     */
    public FormulaScope(Layout layout, int type, Surroundings around, Notices notices) {
        this.layout = layout;
        this.own = type;
        this.inner = type;
        this.around = around;
        this.notices = notices;
        this.charset = layout.format().charset().ofValues();
        this.hosts.putAll(around.hosts());
        List<Integer> reachable = reachable(layout, type);
        reachable.forEach(t -> addPlaces(places, t));
        int top = top(type);
        IntStream.range(0, layout.recordTypes().size())
                .filter(t -> !reachable.contains(t) && top(t) == top)
                .forEach(t -> addPlaces(below, t));
        List<LookUpTable> lookUps = around.lookUps().tables();
        for (int l = 0; l < lookUps.size(); l++) {
            int about = LookedUp.type(lookUps.get(l), layout);
            if (about >= 0 && (reachable.contains(about) || top(about) == top)) {
                addPlaces(reachable.contains(about) ? places : below, lookUps.get(l), l, about);
            }
        }
    }

    private void addPlaces(List<Place> to, LookUpTable table, int index, int about) {
        String name = table.lookUp().name();
        for (int f = 0; f < table.fields().size(); f++) {
            Field field = table.fields().get(f);
            String shown = quoted(name) + "." + quoted(field.name());
            int recordType = layout.recordTypes().size() + index;
            to.add(new Place(shown, name, field.name(), recordType, f, field, about, table.charset()));
        }
    }

    private void addPlaces(List<Place> to, int type) {
        RecordType recordType = layout.recordTypes().get(type);
        for (int f = 0; f < recordType.fields().size(); f++) {
            Field field = recordType.fields().get(f);
            String shown = (type == own ? "" : quoted(recordType.name()) + ".") + quoted(field.name());
            to.add(new Place(shown, recordType.name(), field.name(), type, f, field, type, charset));
        }
    }

    private int top(int type) {
        int top = type;
        while (layout.parentIndex(top) >= 0) {
            top = layout.parentIndex(top);
        }
        return top;
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

    /** A field by the name by which a rule takes it. */
    public Optional<Place> taken(String field) {
        return places.stream()
                .filter(p -> p.taken(own).equals(field) || p.withType().equals(field))
                .findFirst();
    }

    /** The names by which rules take fields. */
    public List<String> taken() {
        return places.stream().map(p -> p.taken(own)).toList();
    }

    /** The fields that only aggregates can name: those of the other records of a document. */
    public List<Place> placesBelow() {
        return List.copyOf(below);
    }

    LocalDate today() {
        return around.today();
    }

    CodeTables codes() {
        return around.codes();
    }

    Notices notices() {
        return notices;
    }

    /** Whether aggregates may be named. */
    boolean hasAggregates() {
        return aggregates;
    }

    /** The same without aggregates. */
    FormulaScope withoutAggregates() {
        aggregates = false;
        return this;
    }

    /** The names of the record types directly below the own one. */
    List<String> children() {
        return IntStream.range(0, layout.recordTypes().size())
                .filter(t -> layout.parentIndex(t) == own)
                .mapToObj(t -> layout.recordTypes().get(t).name())
                .toList();
    }

    /** Lets the records of the document be named; names without a record type mean the one type below this, if it is one. */
    void enterAggregate() {
        List<String> children = children();
        inner = children.size() == 1 ? layout.typeIndex(children.get(0)) : own;
        inAggregate = true;
    }

    void leaveAggregate() {
        inner = own;
        inAggregate = false;
    }

    boolean inAggregate() {
        return inAggregate;
    }

    /** The index of a record type of the document, regardless of case, or -1. */
    int typeNamed(String name) {
        return IntStream.range(0, layout.recordTypes().size())
                .filter(t -> layout.recordTypes().get(t).name().equalsIgnoreCase(name) && top(t) == top(own))
                .findFirst()
                .orElse(-1);
    }

    /**
     * The record type whose record has all the records of a type below it that an aggregate is about: the own one or the
     * nearest that it belongs to; -1 where there is none.
     */
    int rootOf(int type) {
        for (int root = own; root >= 0; root = layout.parentIndex(root)) {
            for (int t = layout.parentIndex(type); t >= 0; t = layout.parentIndex(t)) {
                if (t == root) {
                    return root;
                }
            }
        }
        return -1;
    }

    /** How many record types a record type belongs to. */
    int depth(int type) {
        return layout.depth(type);
    }

    /** Whether records of a type belong to records of another. */
    boolean isBelow(int type, int other) {
        for (int t = layout.parentIndex(type); t >= 0; t = layout.parentIndex(t)) {
            if (t == other) {
                return true;
            }
        }
        return false;
    }

    /**
     * Finds a field. A name of the record itself goes before one of a parent; a name written exactly goes before one
     * that differs in case.
     *
     * @param typeName the record type before the point, or null
     * @param exactly whether the name stood in double quotes
     */
    Optional<Place> find(String typeName, String name, boolean exactly) {
        List<Place> all = new ArrayList<>(places);
        if (inAggregate) {
            all.addAll(below);
        }
        Optional<Place> exact = all.stream()
                .filter(p -> (typeName == null
                                ? p.recordType() == inner
                                : p.typeName().equals(typeName))
                        && p.name().equals(name))
                .findFirst();
        if (exact.isPresent() || exactly) {
            return exact;
        }
        Optional<Place> near = all.stream()
                .filter(p -> (typeName == null
                                ? p.recordType() == inner
                                : p.typeName().equalsIgnoreCase(typeName))
                        && p.name().equalsIgnoreCase(name))
                .findFirst();
        return near.isPresent() || typeName != null || inner == own
                ? near
                : places.stream()
                        .filter(p -> p.recordType() == own && p.name().equalsIgnoreCase(name))
                        .findFirst();
    }

    List<String> fieldNames() {
        return Stream.concat(places.stream(), inAggregate ? below.stream() : Stream.empty())
                .map(Place::shown)
                .toList();
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
