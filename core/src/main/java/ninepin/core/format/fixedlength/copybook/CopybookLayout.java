package ninepin.core.format.fixedlength.copybook;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import ninepin.core.format.fixedlength.copybook.Copybook.Entry;
import ninepin.core.format.fixedlength.copybook.Copybook.Usage;
import ninepin.core.infer.Proposal;
import ninepin.core.infer.Proposal.Guess;
import ninepin.core.infer.Proposal.Sureness;
import ninepin.core.infer.Stated;
import ninepin.core.layout.BlankRows;
import ninepin.core.layout.DataType;
import ninepin.core.layout.Field;
import ninepin.core.layout.FileCharset;
import ninepin.core.layout.FixedLength;
import ninepin.core.layout.Layout;
import ninepin.core.layout.Recognition;
import ninepin.core.layout.RecordType;

/** Makes a fixed-length layout of a copybook: positions in bytes, a record type for each entry of level 01. */
public final class CopybookLayout {

    /** A record type as far as it is known before records are told apart. */
    private static final class Made {
        final String name;
        final List<Stated> fields = new ArrayList<>();
        /** Where an entry of one literal stands, by its start: what may tell records apart. */
        final Map<Integer, List<String>> literals = new LinkedHashMap<>();

        int length;

        Made(String name) {
            this.name = name;
        }
    }

    private final FileCharset charset;
    private final Set<String> taken;
    private final List<Guess> guesses = new ArrayList<>();
    private final List<Proposal.Alternative> alternatives = new ArrayList<>();
    private Made made;
    /** Of a part that is described in several ways, the one that the record type at hand is made of. */
    private Entry only;

    private boolean raw;
    private boolean varying;

    private CopybookLayout(FileCharset charset, Set<String> taken) {
        this.charset = charset;
        this.taken = taken;
    }

    /**
     * Makes a layout.
     *
     * @param text the copybook, in the fixed or the free reference format
     * @param charset the charset of the files
     * @param taken of parts that are described in several ways (REDEFINES), the names of those to take; the first
     *     description otherwise
     */
    public static Proposal propose(String text, FileCharset charset, Set<String> taken, String name, String title) {
        return new CopybookLayout(charset, taken).make(Copybook.read(text), name, title);
    }

    private Proposal make(Copybook copybook, String name, String title) {
        List<Made> all = new ArrayList<>();
        for (Entry record : copybook.records()) {
            if (record.redefines == null || all.isEmpty() || record.below.size() > 0) {
                List<Entry> ways = asked(record);
                if (ways.isEmpty()) {
                    take(record, plain(record.name), all);
                }
                for (Entry way : ways) {
                    only = way;
                    take(record, plain(way.name), all);
                }
                only = null;
                tellApart(all.subList(all.size() - Math.min(all.size(), ways.size()), all.size()));
            }
        }
        for (Entry alone : copybook.alone()) {
            leftOut(alone, "An entry of level 77 belongs to no record.");
        }
        if (all.isEmpty()) {
            throw new ninepin.core.layout.DefinitionException("copybook", "it describes no field");
        }
        int longest = all.stream().mapToInt(m -> m.length).max().orElse(1);
        boolean blocks = raw || !charset.ascii();
        guesses.add(0, new Guess("kind", "fixed-length", Sureness.SURE, "A copybook states lengths."));
        guesses.add(1, new Guess("charset", charset.label(), Sureness.UNSURE, "A copybook does not state it."));
        guesses.add(
                2,
                new Guess(
                        "records are",
                        blocks ? "blocks of " + longest + " bytes" : "lines",
                        Sureness.UNSURE,
                        raw
                                ? "Packed or binary numbers may hold the bytes of line ends."
                                : "A copybook does not state whether line ends stand behind records."));
        boolean shorter = varying || all.stream().anyMatch(m -> m.length < longest);
        FixedLength format = new FixedLength(
                charset,
                blocks ? longest : null,
                FixedLength.Units.BYTES,
                blocks ? null : longest,
                shorter && !blocks,
                0,
                BlankRows.SKIP);
        List<RecordType> types = types(all);
        return Stated.proposal(
                new Layout(name, title, format, types),
                guesses,
                all.stream().map(m -> m.fields).toList(),
                alternatives);
    }

    /** Makes a record type of an entry of level 01. */
    private void take(Entry record, String name, List<Made> all) {
        made = new Made(name);
        made.length = record.below.isEmpty() ? leaf(record, 0, "", "") : group(record.below, 0, "", "");
        if (!made.fields.isEmpty()) {
            all.add(made);
        }
    }

    /** The descriptions of a part of a record of which each was asked for as a record type. */
    private List<Entry> asked(Entry record) {
        for (Entry entry : record.below) {
            List<Entry> ways = ways(record.below, entry);
            if (ways.size() > 1 && taken.contains(each(entry))) {
                return ways;
            }
            List<Entry> deeper = entry.occurs == 1 ? asked(entry) : List.of();
            if (!deeper.isEmpty()) {
                return deeper;
            }
        }
        return List.of();
    }

    private static String each(Entry part) {
        return "each of " + plain(part.name) + " as a record type";
    }

    /** An entry with those that describe the same bytes again. */
    private static List<Entry> ways(List<Entry> entries, Entry first) {
        List<Entry> ways = new ArrayList<>(List.of(first));
        int i = entries.indexOf(first);
        while (first.redefines == null && i + 1 < entries.size() && entries.get(i + 1).redefines != null) {
            ways.add(entries.get(++i));
        }
        return ways;
    }

    /** Gives each of some record types one of the values of an entry that all have, where there are as many. */
    private void tellApart(List<Made> some) {
        if (some.size() < 2) {
            return;
        }
        some.get(0).literals.entrySet().stream()
                .filter(e -> e.getValue().size() == some.size()
                        && some.stream().allMatch(m -> e.getValue().equals(m.literals.get(e.getKey()))))
                .findFirst()
                .ifPresent(e -> {
                    List<String> values = List.copyOf(e.getValue());
                    for (int i = 0; i < some.size(); i++) {
                        some.get(i).literals.put(e.getKey(), List.of(values.get(i)));
                    }
                    guesses.add(new Guess(
                            "tags",
                            String.join(", ", values),
                            Sureness.UNSURE,
                            "The values at position " + e.getKey()
                                    + " are given to the descriptions in their order; say which is which on the layout's"
                                    + " page."));
                });
    }

    private void leftOut(Entry entry, String why) {
        guesses.add(new Guess("left out", plain(entry.name) + ", line " + entry.line, Sureness.SURE, why));
    }

    private List<RecordType> types(List<Made> all) {
        Integer start = all.size() == 1 ? null : tellingPlace(all);
        if (all.size() > 1) {
            guesses.add(new Guess(
                    "record types",
                    String.join(", ", all.stream().map(m -> m.name).toList()),
                    start == null ? Sureness.UNSURE : Sureness.LIKELY,
                    start == null
                            ? "Nothing in the copybook tells them apart: give each its tag on the layout's page."
                            : "Values at position " + start + " tell them apart."));
        }
        List<RecordType> types = new ArrayList<>();
        Map<String, Integer> names = new HashMap<>();
        for (int i = 0; i < all.size(); i++) {
            Made m = all.get(i);
            Recognition when = null;
            if (all.size() > 1) {
                List<String> values = start == null ? List.of(String.valueOf((char) ('A' + i))) : m.literals.get(start);
                when = new Recognition.Tag(null, start == null ? 1 : start, values);
            }
            int n = names.merge(m.name, 1, Integer::sum);
            types.add(new RecordType(
                    n == 1 ? m.name : m.name + n,
                    when,
                    null,
                    null,
                    null,
                    m.fields.stream().map(Stated::field).toList()));
        }
        return types;
    }

    /** A position at which every record has literals that no other has, or null. */
    private static Integer tellingPlace(List<Made> all) {
        for (Integer start : all.get(0).literals.keySet()) {
            List<String> seen = new ArrayList<>();
            boolean everywhere = all.stream().allMatch(m -> m.literals.containsKey(start));
            if (everywhere) {
                all.forEach(m -> seen.addAll(m.literals.get(start)));
                boolean apart = seen.stream().distinct().count() == seen.size();
                boolean oneLength = seen.stream().map(String::length).distinct().count() == 1;
                if (apart && oneLength) {
                    return start;
                }
            }
        }
        return null;
    }

    /** Places the entries of a group one behind the other, or over each other; returns where the next one begins. */
    private int group(List<Entry> entries, int from, String prefix, String suffix) {
        int at = from;
        for (int i = 0; i < entries.size(); i++) {
            List<Entry> ways = ways(entries, entries.get(i));
            i += ways.size() - 1;
            Entry way = choose(ways, suffix);
            int largest = at;
            for (Entry one : ways) {
                int end = at;
                int fields = made.fields.size();
                Map<Integer, List<String>> literals = new LinkedHashMap<>(made.literals);
                if (one == way && one.depending != null) {
                    tellVarying(one);
                }
                for (int n = 1; n <= one.occurs; n++) {
                    end = one(one, end, prefix, suffix + (one.occurs > 1 ? "_" + n : ""));
                }
                if (one != way) {
                    made.fields.subList(fields, made.fields.size()).clear();
                    made.literals.clear();
                    made.literals.putAll(literals);
                }
                largest = Math.max(largest, end);
            }
            at = largest;
        }
        return at;
    }

    private Entry choose(List<Entry> ways, String suffix) {
        if (ways.size() == 1) {
            return ways.get(0);
        }
        if (ways.contains(only)) {
            tellAlternatives(ways, each(ways.get(0)));
            return only;
        }
        Entry way = ways.stream()
                .filter(w -> taken.contains(plain(w.name)))
                .findFirst()
                .orElse(ways.get(0));
        if (suffix.isEmpty() || suffix.equals("_1")) {
            tellAlternatives(ways, plain(way.name));
        }
        return way;
    }

    private void tellAlternatives(List<Entry> ways, String chosen) {
        List<String> names =
                new ArrayList<>(ways.stream().map(w -> plain(w.name)).toList());
        names.add(each(ways.get(0)));
        Proposal.Alternative told = new Proposal.Alternative(plain(ways.get(0).name), names, chosen);
        if (!alternatives.contains(told)) {
            alternatives.add(told);
        }
    }

    private void tellVarying(Entry entry) {
        varying = true;
        guesses.add(new Guess(
                "occurs",
                plain(entry.name) + " up to " + entry.occurs + " times",
                Sureness.UNSURE,
                "How many there are says " + plain(entry.depending)
                        + ": those that a record does not have are blank, and what stands behind them has its place only"
                        + " where the most are there."));
    }

    private int one(Entry entry, int at, String prefix, String suffix) {
        if (!entry.below.isEmpty()) {
            String inner = entry.filler() ? prefix : plain(entry.name);
            for (Entry e : entry.below) {
                e.usage = e.usage == null ? entry.usage : e.usage;
            }
            return group(entry.below, at, inner, suffix);
        }
        return leaf(entry, at, prefix, suffix);
    }

    private int leaf(Entry entry, int at, String prefix, String suffix) {
        Usage usage = entry.usage == null ? Usage.DISPLAY : entry.usage;
        String unread = Numbers.unread(entry, usage);
        if (entry.picture == null && unread == null) {
            throw Copybook.at(entry.line, entry.name + " has neither a PICTURE nor entries below it");
        }
        if (unread != null) {
            leftOut(entry, unread + "; its bytes are passed over.");
            return at + length(entry, usage);
        }
        if (entry.synchronised) {
            guesses.add(new Guess(
                    "SYNCHRONIZED",
                    plain(entry.name),
                    Sureness.UNSURE,
                    "No bytes were left free in front of it; check its position."));
        }
        int length = length(entry, usage);
        if (!entry.filler()) {
            if (!entry.values.isEmpty() || entry.conditions.stream().anyMatch(c -> !c.range)) {
                List<String> literals = entry.conditions.isEmpty()
                        ? entry.values
                        : entry.conditions.stream()
                                .flatMap(c -> c.values.stream())
                                .toList();
                if (entry.picture.kind() == Picture.Kind.TEXT
                        && literals.stream().allMatch(v -> v.length() == entry.picture.size())) {
                    made.literals.put(at + 1, literals);
                }
            }
            String unique = unique(plain(entry.name) + suffix, prefix.isEmpty() ? "" : prefix + "_");
            Field field = Field.at(at + 1, length, unique, type(entry, usage)).withChecks(Conditions.checks(entry));
            made.fields.add(
                    new Stated(field, Sureness.SURE, entry.conditions.isEmpty() ? null : Conditions.words(entry)));
        }
        return at + length;
    }

    private String unique(String name, String prefix) {
        String wanted = name;
        for (int n = 1; ; n++) {
            String candidate = wanted;
            if (made.fields.stream().noneMatch(f -> f.field().name().equals(candidate))) {
                return wanted;
            }
            wanted = n == 1 ? prefix + name : prefix + name + "_" + n;
        }
    }

    private static int length(Entry entry, Usage usage) {
        if (usage == Usage.FLOAT || usage == Usage.ADDRESS) {
            return 4;
        }
        if (usage == Usage.DOUBLE) {
            return 8;
        }
        Picture p = entry.picture;
        if (p.kind() == Picture.Kind.NUMBER && usage == Usage.PACKED) {
            return p.size() / 2 + 1;
        }
        if (p.kind() == Picture.Kind.NUMBER && (usage == Usage.BINARY || usage == Usage.NATIVE_BINARY)) {
            return Numbers.bytes(p);
        }
        return p.size() + (p.signed() && entry.signSeparate ? 1 : 0);
    }

    private DataType type(Entry entry, Usage usage) {
        Picture p = entry.picture;
        switch (p.kind()) {
            case TEXT -> {
                return new DataType.CharacterVarying(p.size());
            }
            case WRITTEN_NUMBER -> {
                return Numbers.written(p);
            }
            default -> {
                raw |= usage != Usage.DISPLAY;
                return Numbers.type(entry, usage);
            }
        }
    }

    /** A name as people write it: lower case, its words apart by underscores. */
    static String plain(String name) {
        return name.toLowerCase(Locale.ROOT).replace('-', '_').replace('.', '_');
    }
}
