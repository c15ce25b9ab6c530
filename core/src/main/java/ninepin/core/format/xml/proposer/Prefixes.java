package ninepin.core.format.xml.proposer;

import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import javax.xml.XMLConstants;
import ninepin.core.layout.Place;
import ninepin.core.layout.Recognition;
import ninepin.core.layout.RecordType;

/** Prefixes for namespaces, each for one of them, as like those of the files as can be. */
public final class Prefixes {

    private final Map<String, String> byNamespace = new LinkedHashMap<>();
    private final Set<String> taken = new HashSet<>();
    /** How often a prefix was wanted. */
    private final Map<String, Integer> wantedBefore = new HashMap<>();

    /** Gives a namespace a prefix that it has already. */
    public void put(String namespace, String prefix) {
        byNamespace.put(namespace, prefix);
        taken.add(prefix);
    }

    /**
     * A name with its prefix. One without a namespace has none, and {@code xml} stands for XML's own.
     *
     * @param namespace the namespace of the name; null or empty for none
     * @param wanted the prefix it has in a file; null or empty for none
     */
    public String name(String namespace, String local, String wanted) {
        if (namespace == null || namespace.isEmpty()) {
            return local;
        }
        boolean own = namespace.equals(XMLConstants.XML_NS_URI);
        return (own ? XMLConstants.XML_NS_PREFIX : of(namespace, wanted)) + ":" + local;
    }

    private String of(String namespace, String wanted) {
        return byNamespace.computeIfAbsent(namespace, n -> {
            String stem = wanted == null || wanted.isEmpty() ? "n" : wanted;
            String free = stem;
            while (!taken.add(free)) {
                free = stem + wantedBefore.merge(stem, 2, (a, b) -> a + 1);
            }
            return free;
        });
    }

    /** The namespaces by their prefixes. */
    public Map<String, String> namespaces() {
        Map<String, String> all = new LinkedHashMap<>();
        byNamespace.forEach((namespace, prefix) -> all.put(prefix, namespace));
        return all;
    }

    /** The namespaces of the prefixes that record types use. */
    public Map<String, String> usedBy(List<RecordType> types) {
        String paths = types.stream()
                .flatMap(t -> Stream.concat(
                        Stream.of(((Recognition.Path) t.when()).path()),
                        t.fields().stream().map(f -> ((Place.Path) f.place()).path())))
                .collect(Collectors.joining("/", "/", ""));
        Map<String, String> used = namespaces();
        used.keySet().removeIf(p -> !paths.contains("/" + p + ":") && !paths.contains("@" + p + ":"));
        return used;
    }
}
